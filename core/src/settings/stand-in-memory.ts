import type { DeviceSettings } from '../model/rig/device-settings.js';
import {
  PACKET,
  inPackets,
  packetBytes,
  readPacket,
  readSettings,
  settingsPayload,
  type Packet,
} from './packets.js';

/** How a stand-in may misbehave, as real devices do. */
export const MISBEHAVIOURS = [
  'none',
  'does not answer',
  'wrong checksum',
  'stops half-way',
  'leaves the old channel on',
] as const;
export type Misbehaviour = (typeof MISBEHAVIOURS)[number];

/** Why a packet was refused, as a byte. */
export const REFUSAL = { checksum: 1, order: 2, settings: 3 } as const;

/** The memory of a stand-in: it takes settings packet by packet, all or none, and tells what it holds. */
export class StandInMemory {
  misbehaviour: Misbehaviour = 'none';
  private writing: { exchange: number; of: number; payload: number[]; next: number } | null = null;

  /** @param kept told of settings that are to be kept */
  constructor(
    private present: DeviceSettings,
    private readonly kept: (settings: DeviceSettings) => void = () => undefined,
  ) {}

  get settings(): DeviceSettings {
    return this.present;
  }

  /** What it answers to an exclusive message, given between F0 and F7; whole messages. */
  receive(bytes: ArrayLike<number>): number[][] {
    const packet = readPacket(bytes);
    if (packet === 'not ours' || this.misbehaviour === 'does not answer') return [];
    if (packet === 'wrong checksum') return [this.refuse(0, 0, REFUSAL.checksum)];
    if (packet === 'unreadable') return [];
    if (packet.command === PACKET.read)
      return inPackets(PACKET.dump, packet.exchange, settingsPayload(this.present)).map((one) =>
        this.said(one),
      );
    return packet.command === PACKET.write ? this.write(packet) : [];
  }

  private write({ exchange, packet, of, payload }: Packet): number[][] {
    if (packet === 0) this.writing = { exchange, of, payload: [], next: 0 };
    const { writing } = this;
    if (!writing && this.misbehaviour === 'stops half-way') return [];
    if (writing?.exchange !== exchange || writing.next !== packet || writing.of !== of) {
      // One that was taken already is taken once more: its answer was lost.
      const again = writing?.exchange === exchange && packet === writing.next - 1;
      return [
        again ? this.done(exchange, packet, of) : this.refuse(exchange, packet, REFUSAL.order),
      ];
    }
    if (this.misbehaviour === 'stops half-way' && packet >= of / 2) {
      this.writing = null;
      return [];
    }
    writing.payload.push(...payload);
    writing.next++;
    if (writing.next < of) return [this.done(exchange, packet, of)];
    const settings = readSettings(writing.payload);
    if (!settings) {
      this.writing = null;
      return [this.refuse(exchange, packet, REFUSAL.settings)];
    }
    this.take(settings);
    return [this.done(exchange, packet, of)];
  }

  private take(settings: DeviceSettings): void {
    const old = this.misbehaviour === 'leaves the old channel on' ? this.present.sendsOn : [];
    this.present = { ...settings, sendsOn: [...new Set([...settings.sendsOn, ...old])] };
    this.kept(this.present);
  }

  private done(exchange: number, packet: number, of: number): number[] {
    return this.said({ command: PACKET.done, exchange, packet, of, payload: [] });
  }

  private refuse(exchange: number, packet: number, why: number): number[] {
    return this.said({ command: PACKET.refused, exchange, packet, of: 1, payload: [why] });
  }

  private said(packet: Packet): number[] {
    return packetBytes(packet, this.misbehaviour === 'wrong checksum');
  }
}
