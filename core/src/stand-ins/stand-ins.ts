import {
  controlChange,
  noteOff,
  noteOn,
  pitchBend,
  NOTE_ON,
  NOTE_OFF,
  CONTROL_CHANGE,
  PROGRAM_CHANGE,
  CC,
} from '../midi/messages.js';
import { MidiParser } from '../midi/parser.js';
import { RunningStatus } from '../midi/running-status.js';
import type { DeviceSettings } from '../model/rig/device-settings.js';
import { velocitySent } from '../settings/stroke-curve.js';
import type { Seconds } from '../units/times.js';

/** How a stand-in keyboard turns what is played into bytes. */
export type KeyboardManner = Pick<DeviceSettings, 'sendsOn' | 'octave' | 'curve'>;

/** A keyboard that sends on one channel what is played, as it is played. */
export function plainManner(channel: number): KeyboardManner {
  return { sendsOn: [channel], octave: 0, curve: 'even' };
}

/** A simulated keyboard: keys, wheels and pedals in, MIDI bytes out. */
export class StandInKeyboard {
  private readonly cable = new RunningStatus();

  constructor(
    private readonly manner: KeyboardManner,
    readonly lowestKey: number,
    readonly highestKey: number,
  ) {}

  /** Bytes of a struck key; none for a key that the keyboard does not have. */
  press(key: number, velocity: number): number[] {
    const note = this.noteOf(key);
    if (note === null) return [];
    const sent = velocitySent(Math.min(127, Math.max(1, velocity)), this.manner.curve);
    return this.onEach((channel) => noteOn(channel, note, sent));
  }

  /** Bytes of a released key. */
  release(key: number): number[] {
    const note = this.noteOf(key);
    return note === null ? [] : this.onEach((channel) => noteOff(channel, note));
  }

  /** Bytes of a wheel, knob or pedal at a value 0–127. */
  control(controller: number, value: number): number[] {
    return this.onEach((channel) => controlChange(channel, controller, value));
  }

  /** Bytes of the pitch wheel, 0–16383. */
  bend(value: number): number[] {
    return this.onEach((channel) => pitchBend(channel, value));
  }

  private noteOf(key: number): number | null {
    if (key < this.lowestKey || key > this.highestKey) return null;
    const note = key + 12 * this.manner.octave;
    return note >= 0 && note <= 127 ? note : null;
  }

  private onEach(message: (channel: number) => number[]): number[] {
    return this.manner.sendsOn.flatMap((channel) => this.cable.compress(message(channel)));
  }
}

/** A simulated pad box: pads send notes, knobs send controllers. */
export class StandInPadBox {
  private readonly cable = new RunningStatus();

  constructor(
    private readonly manner: Pick<
      DeviceSettings,
      'sendsOn' | 'padNotes' | 'padSensitivity' | 'knobControllers'
    >,
  ) {}

  /** Bytes of a pad (0 = first) struck at a velocity. */
  strike(pad: number, velocity: number): number[] {
    const { padNotes, padSensitivity } = this.manner;
    const sent = velocitySent(velocity, 'even', padSensitivity.at(pad));
    return this.onEach((channel) => noteOn(channel, padNotes[pad], sent));
  }

  /** Bytes of a pad let go. */
  release(pad: number): number[] {
    return this.onEach((channel) => noteOff(channel, this.manner.padNotes[pad]));
  }

  /** Bytes of a knob (0 = first) at a value 0–127. */
  turn(knob: number, value: number): number[] {
    const controller = this.manner.knobControllers[knob];
    return this.onEach((channel) => controlChange(channel, controller, value));
  }

  private onEach(message: (channel: number) => number[]): number[] {
    return this.manner.sendsOn.flatMap((channel) => this.cable.compress(message(channel)));
  }
}

/** What a sound module does with a note, and when (0 is now). */
export interface ModuleVoice {
  start(channel: number, program: number, note: number, velocity: number, at: Seconds): void;
  end(channel: number, note: number, at: Seconds): void;
  endAll(channel: number): void;
}

/** A simulated sound module: MIDI bytes in, notes of its sixteen programs out. */
export class StandInModule {
  private readonly programs = new Uint8Array(16);
  private readonly sounding = new Set<number>();
  private readonly parser: MidiParser;
  private at: Seconds = 0;

  constructor(private readonly voice: ModuleVoice) {
    this.parser = new MidiParser({
      message: (status, data1, data2) => this.message(status, data1, data2),
    });
  }

  /** How many notes sound. */
  get notes(): number {
    return this.sounding.size;
  }

  /** Bytes from its MIDI input, and when they are due; 0 is now. */
  receive(bytes: ArrayLike<number>, at: Seconds = 0): void {
    this.at = at;
    this.parser.push(bytes);
  }

  /** Ends everything, as when its cable is pulled out. */
  silence(): void {
    this.sounding.clear();
    for (let channel = 1; channel <= 16; channel++) this.voice.endAll(channel);
  }

  private message(status: number, data1: number, data2: number): void {
    const index = status & 0x0f;
    const channel = index + 1;
    const kind = status & 0xf0;
    if (kind === NOTE_ON && data2 > 0) {
      if (this.sounding.has(index * 128 + data1)) this.voice.end(channel, data1, this.at);
      this.sounding.add(index * 128 + data1);
      this.voice.start(channel, this.programs[index], data1, data2, this.at);
    } else if (kind === NOTE_ON || kind === NOTE_OFF) {
      if (this.sounding.delete(index * 128 + data1)) this.voice.end(channel, data1, this.at);
    } else if (kind === PROGRAM_CHANGE) {
      this.programs[index] = data1;
    } else if (kind === CONTROL_CHANGE && (data1 === CC.allSoundOff || data1 === CC.allNotesOff)) {
      for (const note of [...this.sounding]) if (note >> 7 === index) this.sounding.delete(note);
      this.voice.endAll(channel);
    }
  }
}
