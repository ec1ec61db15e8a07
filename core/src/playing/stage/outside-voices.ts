import { HANDED_OVER } from '../../clock/show-clock.js';
import {
  BEND_CENTRE,
  CC,
  CHANNEL_AFTERTOUCH,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PITCH_BEND,
  POLY_AFTERTOUCH,
  PROGRAM_CHANGE,
} from '../../midi/messages.js';
import { gainFromDb } from '../../units/decibels.js';
import type { Seconds } from '../../units/times.js';
import { OutsideLine } from './outside-line.js';
import type { OutsideTarget } from './outside-target.js';

/** Between two volume messages while a level glides. */
const GLIDE_STEP: Seconds = 0.025;
/** Release velocity of every note-off. */
const LET_GO = 64;
/** Voices that are known at one time; the first of them is let go beyond that. */
const MOST_KNOWN = 512;

/** A message that is not due yet. */
interface Waiting {
  at: Seconds;
  voice: number;
  starts: boolean;
}

/**
 * Plays outside modules: notes, programs and gliding volumes as MIDI bytes. Of a note that another one follows on the same key,
 * the end that was handed over ahead comes first: otherwise it would cut the other.
 */
export class OutsideVoices {
  private readonly ids = new Float64Array(MOST_KNOWN);
  private readonly notes = new Uint8Array(MOST_KNOWN);
  private readonly velocities = new Uint8Array(MOST_KNOWN);
  /** When each begins; 0 for at once. */
  private readonly from = new Float64Array(MOST_KNOWN);
  /** 1 while its beginning waits to be handed over. */
  private readonly isToCome = new Uint8Array(MOST_KNOWN);
  private readonly lineOfVoice: (OutsideLine | null)[] = new Array<OutsideLine | null>(
    MOST_KNOWN,
  ).fill(null);
  private count = 0;
  private readonly waiting: Waiting[] = [];
  private readonly lines: OutsideLine[] = [];
  /** What is being sent; reused, since a port has read it when it returns. */
  private readonly three = [0, 0, 0];
  private readonly two = [0, 0];
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
    const line = this.lineOf(target);
    this.choose(line, target);
    const place = Math.round(63.5 + 63.5 * pan);
    if (line.controllers[CC.pan] !== place) this.tellController(line, CC.pan, place);
    if (!line.hasLevel) line.level.to(level, 0, this.now());
    // A glide that is on its way there already goes on as it is.
    else if (line.level.goal !== level) line.level.to(level, seconds, this.now());
    line.hasLevel = true;
    this.sendVolumes();
  }

  /** Bank and program, as far as the channel was not told of them: a bank counts from the next program on. */
  private choose(line: OutsideLine, target: OutsideTarget): void {
    const { bank, program } = target;
    const { told } = line;
    line.told = target;
    const otherBank = bank && (bank.msb !== told?.bank?.msb || bank.lsb !== told.bank.lsb);
    if (otherBank) {
      this.tellController(line, CC.bank, bank.msb);
      this.tellController(line, CC.bankFine, bank.lsb);
    }
    if (otherBank || told?.program !== program) this.sendTwo(line, PROGRAM_CHANGE, program);
  }

  start(voice: number, target: OutsideTarget, note: number, velocity: number, at: Seconds): void {
    if (this.count === MOST_KNOWN) this.letGo(0, 0);
    const i = this.count++;
    this.ids[i] = voice;
    this.notes[i] = note;
    this.velocities[i] = velocity;
    this.lineOfVoice[i] = this.lineOf(target);
    this.from[i] = at;
    this.isToCome[i] = at > 0 ? 1 : 0;
    if (at > 0) this.wait({ at, voice, starts: true });
    else this.strike(i, 0);
  }

  /** Ends a voice; false when it is none of these. */
  end(voice: number, at: Seconds): boolean {
    const i = this.find(voice);
    if (i < 0) return false;
    if (at > 0) this.wait({ at, voice, starts: false });
    else if (this.isToCome[i] === 1) this.takeBack(voice);
    else this.letGo(i, 0);
    return true;
  }

  /**
   * Calls off what is still to come of a voice; false when it is none of these. A beginning that was handed over already
   * cannot be called off: it ends as soon as it has come.
   */
  takeBack(voice: number): boolean {
    const i = this.find(voice);
    if (i < 0) return false;
    this.callOff(voice, true);
    if (this.isToCome[i] === 1) this.forgetVoice(i);
    else if (this.from[i] > this.now()) this.letGo(i, 0);
    return true;
  }

  /**
   * Has what is not due yet of a voice come at other times, `until` infinite for no end yet; false when it is none of these. A
   * beginning that was handed over already stays where it is.
   */
  retime(voice: number, from: Seconds, until: Seconds): boolean {
    const i = this.find(voice);
    if (i < 0) return false;
    const isToCome = this.isToCome[i] === 1;
    this.callOff(voice, isToCome);
    if (isToCome) {
      this.from[i] = from;
      this.wait({ at: from, voice, starts: true });
    }
    if (until < Infinity) this.wait({ at: until, voice, starts: false });
    return true;
  }

  /** Hands over what is due within the next moments, and lets volumes glide on. */
  advance(): void {
    const time = this.now();
    while (this.waiting.length > 0 && this.waiting[0].at <= time + HANDED_OVER) {
      const [{ at, voice, starts }] = this.waiting.splice(0, 1);
      const i = this.find(voice);
      if (i < 0) continue;
      if (starts) this.strike(i, at);
      else this.letGo(i, at);
    }
    if (this.gliding && time >= this.volumesDue) this.sendVolumes();
  }

  /** Sends a controller to a module. */
  control(target: OutsideTarget, controller: number, value: number): void {
    this.tellController(this.lineOf(target), controller, value);
  }

  /** Where a module was told that a controller stands; −1 when it was not told. */
  toldOf(target: OutsideTarget, controller: number): number {
    return this.lineOf(target).controllers[controller];
  }

  /** Bends a channel of a module, −8191…8191. */
  bend(target: OutsideTarget, steps: number): void {
    this.bendLine(this.lineOf(target), steps);
  }

  private bendLine(line: OutsideLine, steps: number): void {
    line.bend = steps;
    const value = BEND_CENTRE + steps;
    this.sendThree(line, PITCH_BEND, value & 0x7f, value >> 7, 0);
  }

  /** How far a module was bent last, −8191…8191. */
  bendOf(target: OutsideTarget): number {
    return this.lineOf(target).bend;
  }

  /** Channel aftertouch for a module, 0–127. */
  pressure(target: OutsideTarget, value: number): void {
    this.sendTwo(this.lineOf(target), CHANNEL_AFTERTOUCH, value);
  }

  /** Aftertouch of the note that a voice plays, 0–127; false when it is none of these. */
  voicePressure(voice: number, value: number): boolean {
    const i = this.find(voice);
    const line = i < 0 ? null : this.lineOfVoice[i];
    if (!line) return false;
    this.sendThree(line, POLY_AFTERTOUCH, this.notes[i], value, 0);
    return true;
  }

  /** Another device stands behind the name of a port: it plays nothing yet, and is told all that the one before was told. */
  renew(port: string): void {
    for (let i = this.count - 1; i >= 0; i--) {
      if (this.lineOfVoice[i]?.port.name !== port) continue;
      this.callOff(this.ids[i], true);
      this.forgetVoice(i);
    }
    for (const line of this.lines) {
      if (line.port.name !== port) continue;
      const controllers = line.controllers.slice();
      const { bend, told } = line;
      this.silenceLine(line);
      line.told = null;
      if (told) this.choose(line, told);
      for (let controller = 0; controller < CC.allSoundOff; controller++)
        if (controllers[controller] >= 0 && !isBank(controller))
          this.tellController(line, controller, controllers[controller]);
      if (bend !== 0) this.bendLine(line, bend);
    }
  }

  /** All sound off, controllers reset, all notes off, on every channel that was used; wheels and pedals stand where they stood. */
  silence(): void {
    const time = this.now();
    this.waiting.length = 0;
    for (const line of this.lines) {
      const { bend, controllers } = line;
      const modulation = controllers[CC.modulation];
      const expression = controllers[CC.expression];
      this.silenceLine(line);
      if (modulation > 0) this.tellController(line, CC.modulation, modulation);
      if (expression >= 0 && expression < 127) this.tellController(line, CC.expression, expression);
      if (bend !== 0) this.bendLine(line, bend);
    }
    // What was handed over ahead comes after that, and is ended as it comes.
    for (let i = this.count - 1; i >= 0; i--) {
      const line = this.lineOfVoice[i];
      if (line && this.isToCome[i] === 0 && this.from[i] > time)
        this.sendThree(line, NOTE_OFF, this.notes[i], LET_GO, this.from[i]);
      this.forgetVoice(i);
    }
  }

  private silenceLine(line: OutsideLine): void {
    for (const controller of [CC.allSoundOff, CC.resetAllControllers, CC.allNotesOff])
      this.sendThree(line, CONTROL_CHANGE, controller, 0, 0);
    line.rest();
  }

  private strike(i: number, at: Seconds): void {
    const line = this.lineOfVoice[i];
    if (!line) return;
    const note = this.notes[i];
    const off = line.offAt[note];
    // Mostly nothing was handed over ahead, and nobody need ask what time it is.
    const from = off > 0 && off > (at > 0 ? at : this.now()) ? off : at;
    this.from[i] = from;
    this.isToCome[i] = 0;
    line.holding[note]++;
    this.sendThree(line, NOTE_ON, note, this.velocities[i], from);
  }

  /** Ends a voice, never before it has begun. */
  private letGo(i: number, at: Seconds): void {
    const line = this.lineOfVoice[i];
    const note = this.notes[i];
    const from = this.from[i];
    const isToCome = this.isToCome[i] === 1;
    if (isToCome) this.callOff(this.ids[i], true);
    this.forgetVoice(i);
    if (!line || isToCome || --line.holding[note] > 0) return;
    const off = from > 0 && from > (at > 0 ? at : this.now()) ? from : at;
    line.offAt[note] = off;
    this.sendThree(line, NOTE_OFF, note, LET_GO, off);
  }

  private find(voice: number): number {
    for (let i = 0; i < this.count; i++) if (this.ids[i] === voice) return i;
    return -1;
  }

  private forgetVoice(i: number): void {
    const last = --this.count;
    this.ids[i] = this.ids[last];
    this.notes[i] = this.notes[last];
    this.velocities[i] = this.velocities[last];
    this.from[i] = this.from[last];
    this.isToCome[i] = this.isToCome[last];
    this.lineOfVoice[i] = this.lineOfVoice[last];
    this.lineOfVoice[last] = null;
  }

  private wait(message: Waiting): void {
    let at = this.waiting.length;
    while (at > 0 && this.waiting[at - 1].at > message.at) at--;
    this.waiting.splice(at, 0, message);
  }

  /** Calls off the end of a voice that waits, and its beginning where that is asked for. */
  private callOff(voice: number, starts: boolean): void {
    for (let i = this.waiting.length - 1; i >= 0; i--)
      if (this.waiting[i].voice === voice && (starts || !this.waiting[i].starts))
        this.waiting.splice(i, 1);
  }

  private lineOf({ port, channel }: OutsideTarget): OutsideLine {
    for (const line of this.lines) if (line.port === port && line.channel === channel) return line;
    const line = new OutsideLine(port, channel);
    this.lines.push(line);
    return line;
  }

  private tellController(line: OutsideLine, controller: number, value: number): void {
    line.controllers[controller] = value;
    this.sendThree(line, CONTROL_CHANGE, controller, value, 0);
  }

  private sendThree(line: OutsideLine, kind: number, a: number, b: number, at: Seconds): void {
    const { three } = this;
    three[0] = kind | (line.channel - 1);
    three[1] = a & 0x7f;
    three[2] = b & 0x7f;
    line.port.send(three, at);
  }

  private sendTwo(line: OutsideLine, kind: number, a: number): void {
    const { two } = this;
    two[0] = kind | (line.channel - 1);
    two[1] = a & 0x7f;
    line.port.send(two, 0);
  }

  private sendVolumes(): void {
    const time = this.now();
    this.volumesDue = time + GLIDE_STEP;
    this.gliding = false;
    for (const line of this.lines) {
      if (!line.hasLevel) continue;
      const level = line.level.at(time);
      const volume = volumeOf(level);
      if (volume !== line.controllers[CC.volume]) this.tellController(line, CC.volume, volume);
      if (level !== line.level.goal) this.gliding = true;
    }
  }
}

/** Channel volume for a level: 40 dB · log10(volume / 127), as the General MIDI recommendation has it; 0 dB is 127. */
export function volumeOf(level: number): number {
  return Math.min(127, Math.round(127 * Math.sqrt(gainFromDb(level))));
}

/** Banks go with the program that they are for. */
function isBank(controller: number): boolean {
  return controller === CC.bank || controller === CC.bankFine;
}
