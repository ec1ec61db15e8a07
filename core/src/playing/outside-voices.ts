import { Glide } from '../clock/glide.js';
import { HANDED_OVER } from '../clock/show-clock.js';
import {
  BEND_CENTRE,
  CC,
  channelPressure,
  controlChange,
  keyPressure,
  noteOff,
  noteOn,
  pitchBend,
  programChange,
} from '../midi/messages.js';
import type { Bank } from '../model/library/sound.js';
import { gainFromDb } from '../units/decibels.js';
import type { Seconds } from '../units/times.js';
import type { OutPort } from './ports.js';

/** A channel of an outside module that a layer plays. */
export interface OutsideTarget {
  port: OutPort;
  /** 1–16. */
  channel: number;
  /** Chosen before the program; null to stay in the bank that the module is in. */
  bank: Bank | null;
  /** 0–127. */
  program: number;
}

/** Between two volume messages while a level glides. */
const GLIDE_STEP: Seconds = 0.025;

/** A message that is not due yet. */
interface Waiting {
  at: Seconds;
  voice: number;
  starts: boolean;
}

interface OutsideVoice {
  target: OutsideTarget;
  note: number;
  velocity: number;
  /** When it begins; 0 for at once. */
  from: Seconds;
}

interface Volume {
  target: OutsideTarget;
  glide: Glide;
  sent: number;
}

/** Plays outside modules: notes, programs and gliding volumes as MIDI bytes. */
export class OutsideVoices {
  private readonly voices = new Map<number, OutsideVoice>();
  private readonly waiting: Waiting[] = [];
  private readonly volumes = new Map<string, Volume>();
  private readonly used = new Map<string, OutsideTarget>();
  /** How many voices hold a note of a channel: it ends with the last of them. */
  private readonly holding = new Map<string, number>();
  private volumesDue: Seconds = 0;
  private gliding = false;

  /** @param now the present time in seconds */
  constructor(private readonly now: () => Seconds) {}

  /** True while messages wait for their time, or a volume glides: {@link advance} has to be called every few milliseconds. */
  get needsClock(): boolean {
    return this.gliding || this.waiting.length > 0;
  }

  /** Chooses the program, and sets pan (−1…1) and level (dB) over some seconds. */
  prepare(target: OutsideTarget, level: number, pan: number, seconds: Seconds): void {
    const key = keyOf(target);
    this.choose(target, this.used.get(key));
    this.used.set(key, target);
    target.port.send(controlChange(target.channel, CC.pan, Math.round(63.5 + 63.5 * pan)), 0);
    let line = this.volumes.get(key);
    if (!line) {
      line = { target, glide: new Glide(level), sent: -1 };
      this.volumes.set(key, line);
    }
    // A glide that is on its way there already goes on as it is.
    if (line.glide.goal !== level) line.glide.to(level, seconds, this.now());
    this.sendVolumes();
  }

  /** Bank and program, as far as the channel was not told of them: a bank counts from the next program on. */
  private choose({ port, channel, bank, program }: OutsideTarget, told: OutsideTarget | undefined) {
    const otherBank = bank && (bank.msb !== told?.bank?.msb || bank.lsb !== told.bank.lsb);
    if (otherBank) {
      port.send(controlChange(channel, CC.bank, bank.msb), 0);
      port.send(controlChange(channel, CC.bankFine, bank.lsb), 0);
    }
    if (otherBank || told?.program !== program) port.send(programChange(channel, program), 0);
  }

  start(voice: number, target: OutsideTarget, note: number, velocity: number, at: Seconds): void {
    this.voices.set(voice, { target, note, velocity, from: at });
    if (at > 0) this.wait({ at, voice, starts: true });
    else this.strike(target, note, velocity, 0);
  }

  /** Ends a voice; false when it is none of these. */
  end(voice: number, at: Seconds): boolean {
    const sounding = this.voices.get(voice);
    if (!sounding) return false;
    if (at > 0) this.wait({ at, voice, starts: false });
    else this.letGo(voice, sounding, 0);
    return true;
  }

  /**
   * Calls off what is still to come of a voice; false when it is none of these. A beginning that was handed over already
   * cannot be called off: it ends as soon as it has come.
   */
  takeBack(voice: number): boolean {
    const sounding = this.voices.get(voice);
    if (!sounding) return false;
    for (let i = this.waiting.length - 1; i >= 0; i--) {
      if (this.waiting[i].voice !== voice) continue;
      const [{ starts }] = this.waiting.splice(i, 1);
      if (starts) this.voices.delete(voice);
    }
    if (this.voices.has(voice) && sounding.from > this.now())
      this.letGo(voice, sounding, sounding.from);
    return true;
  }

  /** Whether a voice was handed over to its port before its time. */
  isHandedOver(voice: number): boolean {
    const sounding = this.voices.get(voice);
    if (!sounding || sounding.from <= this.now()) return false;
    return !this.waiting.some((message) => message.voice === voice && message.starts);
  }

  /** Calls off the end of a voice that is not handed over yet; false when it is none of these. */
  callOffEnd(voice: number): boolean {
    if (!this.voices.has(voice)) return false;
    for (let i = this.waiting.length - 1; i >= 0; i--)
      if (this.waiting[i].voice === voice && !this.waiting[i].starts) this.waiting.splice(i, 1);
    return true;
  }

  /** Hands over what is due within the next moments, and lets volumes glide on. */
  advance(): void {
    const time = this.now();
    while (this.waiting.length > 0 && this.waiting[0].at <= time + HANDED_OVER) {
      const [{ at, voice, starts }] = this.waiting.splice(0, 1);
      const sounding = this.voices.get(voice);
      if (!sounding) continue;
      const { target, note, velocity } = sounding;
      if (starts) this.strike(target, note, velocity, at);
      else this.letGo(voice, sounding, at);
    }
    if (this.gliding && time >= this.volumesDue) this.sendVolumes();
  }

  /** Sends a controller to a module. */
  control(target: OutsideTarget, controller: number, value: number): void {
    target.port.send(controlChange(target.channel, controller, value), 0);
  }

  /** Bends a channel of a module, −1…1. */
  bend({ port, channel }: OutsideTarget, amount: number): void {
    port.send(pitchBend(channel, Math.round(BEND_CENTRE + amount * (BEND_CENTRE - 1))), 0);
  }

  /** Channel aftertouch for a module, 0–127. */
  pressure({ port, channel }: OutsideTarget, value: number): void {
    port.send(channelPressure(channel, value), 0);
  }

  /** Aftertouch of the note that a voice plays, 0–127; false when it is none of these. */
  voicePressure(voice: number, value: number): boolean {
    const sounding = this.voices.get(voice);
    if (!sounding) return false;
    const { target, note } = sounding;
    target.port.send(keyPressure(target.channel, note, value), 0);
    return true;
  }

  /** Forgets what modules were told: their ports may be other ones now. */
  forget(): void {
    this.voices.clear();
    this.waiting.length = 0;
    this.volumes.clear();
    this.used.clear();
    this.holding.clear();
  }

  /** All sound off, controllers reset, all notes off, on every channel that was used. */
  silence(): void {
    this.voices.clear();
    this.waiting.length = 0;
    this.holding.clear();
    for (const { port, channel } of this.used.values())
      for (const controller of [CC.allSoundOff, CC.resetAllControllers, CC.allNotesOff])
        port.send(controlChange(channel, controller, 0), 0);
  }

  private strike(target: OutsideTarget, note: number, velocity: number, at: Seconds): void {
    const key = noteKeyOf(target, note);
    this.holding.set(key, (this.holding.get(key) ?? 0) + 1);
    target.port.send(noteOn(target.channel, note, velocity), at);
  }

  private letGo(voice: number, { target, note }: OutsideVoice, at: Seconds): void {
    this.voices.delete(voice);
    const key = noteKeyOf(target, note);
    const others = (this.holding.get(key) ?? 1) - 1;
    if (others > 0) {
      this.holding.set(key, others);
      return;
    }
    this.holding.delete(key);
    target.port.send(noteOff(target.channel, note), at);
  }

  private wait(message: Waiting): void {
    let at = this.waiting.length;
    while (at > 0 && this.waiting[at - 1].at > message.at) at--;
    this.waiting.splice(at, 0, message);
  }

  private sendVolumes(): void {
    const time = this.now();
    this.volumesDue = time + GLIDE_STEP;
    this.gliding = false;
    for (const line of this.volumes.values()) {
      const level = line.glide.at(time);
      const volume = volumeOf(level);
      if (volume !== line.sent) {
        line.sent = volume;
        line.target.port.send(controlChange(line.target.channel, CC.volume, volume), 0);
      }
      if (level !== line.glide.goal) this.gliding = true;
    }
  }
}

/** Channel volume for a level: 40 dB · log10(volume / 127), as the General MIDI recommendation has it; 0 dB is 127. */
export function volumeOf(level: number): number {
  return Math.min(127, Math.round(127 * Math.sqrt(gainFromDb(level))));
}

function noteKeyOf(target: OutsideTarget, note: number): string {
  return `${keyOf(target)} ${note}`;
}

/** A channel of a port, by name. */
export function keyOf(target: OutsideTarget): string {
  return `${target.port.name} ${target.channel}`;
}
