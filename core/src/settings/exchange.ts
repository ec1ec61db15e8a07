import type { DeviceSettings } from '../model/rig/device-settings.js';
import type { Seconds } from '../units/times.js';
import { differingSettings, type SettingDifference } from './comparing.js';
import {
  PACKET,
  inPackets,
  packetBytes,
  readPacket,
  readSettings,
  settingsPayload,
  type Packet,
} from './packets.js';
import { REFUSAL } from './stand-in-memory.js';

/** Seconds until an answer is taken to be lost, and how often the same is said again. */
export const ANSWER_WITHIN: Seconds = 0.5;
const TRIES = 3;

/** How far an exchange with a device is. */
export type ExchangeState =
  | { step: 'writing'; packet: number; of: number }
  | { step: 'reading'; wrote: boolean }
  /** It was read; `differences` is what it holds otherwise than was wanted. */
  | {
      step: 'read';
      wrote: boolean;
      settings: DeviceSettings;
      differences: readonly SettingDifference[];
    }
  /** It failed; what the device holds is what it held before. */
  | { step: 'failed'; words: string; wrote: boolean };

/** Writes settings to a device and reads them back, or reads them alone, packet by packet, each answered. */
export class SettingsExchange {
  private now: ExchangeState;
  private packets: Packet[] = [];
  private at = 0;
  private tries = 0;
  private saidAt: Seconds = 0;
  private read: number[] = [];
  private readonly exchange: number;

  /**
   * @param wanted what is written and then compared; null to read alone
   * @param send sends a whole message to the device
   * @param number of the exchange, 0–127, so that answers to another one are not taken for these
   */
  constructor(
    private readonly wanted: DeviceSettings | null,
    private readonly send: (bytes: readonly number[]) => void,
    number: number,
    time: Seconds,
    private readonly told: (state: ExchangeState) => void = () => undefined,
  ) {
    this.exchange = number & 0x7f;
    if (wanted) {
      this.packets = inPackets(PACKET.write, this.exchange, settingsPayload(wanted));
      this.now = { step: 'writing', packet: 0, of: this.packets.length };
    } else {
      this.packets = [this.readRequest()];
      this.now = { step: 'reading', wrote: false };
    }
    this.say(time);
  }

  get state(): ExchangeState {
    return this.now;
  }

  get isOver(): boolean {
    return this.now.step === 'read' || this.now.step === 'failed';
  }

  /** An exclusive message from the device, between F0 and F7. */
  receive(bytes: ArrayLike<number>, time: Seconds): void {
    if (this.isOver) return;
    const packet = readPacket(bytes);
    if (packet === 'not ours') return;
    if (typeof packet === 'string') {
      this.fail(
        packet === 'wrong checksum'
          ? 'Its answer came with a wrong checksum: the cable or the device is not well.'
          : 'Its answer cannot be read.',
      );
      return;
    }
    if (packet.command === PACKET.refused) {
      // A packet that was said twice may be refused late: all of it was taken by then.
      if (this.now.step === 'reading' && packet.payload.at(0) === REFUSAL.order) return;
      this.refused(packet.payload.at(0) ?? 0, time);
      return;
    }
    if (packet.exchange !== this.exchange) return;
    if (packet.command === PACKET.done && this.now.step === 'writing') {
      if (packet.packet === this.at) this.next(time);
    } else if (packet.command === PACKET.dump && this.now.step === 'reading')
      this.take(packet, time);
  }

  /** Says again what was not answered in time, and gives up after that. To be called several times a second. */
  advance(time: Seconds): void {
    if (this.isOver || time - this.saidAt < ANSWER_WITHIN) return;
    if (this.tries >= TRIES) {
      const done = this.now.step === 'writing' && this.now.packet > 0;
      this.fail(
        done
          ? `It stopped answering after ${this.now.step === 'writing' ? this.now.packet : 0} of ${this.packets.length} packets.`
          : 'It does not answer. Is it switched on, and plugged in both ways?',
      );
      return;
    }
    this.say(time);
  }

  private next(time: Seconds): void {
    this.at++;
    this.tries = 0;
    if (this.at < this.packets.length) {
      this.become({ step: 'writing', packet: this.at, of: this.packets.length });
    } else {
      this.packets = [this.readRequest()];
      this.at = 0;
      this.become({ step: 'reading', wrote: true });
    }
    this.say(time);
  }

  private take({ packet, of, payload }: Packet, time: Seconds): void {
    if (packet === 0) this.read = [];
    this.read.push(...payload);
    this.saidAt = time;
    if (packet + 1 < of) return;
    const wrote = this.now.step === 'reading' && this.now.wrote;
    const settings = readSettings(this.read);
    if (!settings) {
      this.fail('What it says of its settings cannot be read.');
      return;
    }
    const differences = this.wanted ? differingSettings(this.wanted, settings) : [];
    this.become({ step: 'read', wrote, settings, differences });
  }

  private refused(why: number, time: Seconds): void {
    if (why === REFUSAL.checksum && this.tries < TRIES) {
      this.say(time);
      return;
    }
    this.fail(
      why === REFUSAL.settings
        ? 'It refused the settings: it cannot do that.'
        : 'It refused a packet that came in the wrong order. Write again.',
    );
  }

  private say(time: Seconds): void {
    this.tries++;
    this.saidAt = time;
    this.send(packetBytes(this.packets[this.at]));
  }

  private readRequest(): Packet {
    return { command: PACKET.read, exchange: this.exchange, packet: 0, of: 1, payload: [] };
  }

  private fail(words: string): void {
    const wrote = this.now.step === 'reading' && this.now.wrote;
    this.become({ step: 'failed', words, wrote });
  }

  private become(state: ExchangeState): void {
    this.now = state;
    this.told(state);
  }
}
