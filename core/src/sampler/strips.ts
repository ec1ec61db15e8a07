import { gainFromDb, SILENCE_DB } from '../units/decibels.js';
import type { Seconds } from '../units/times.js';
import { BLOCK, type EngineOutput, type Stereo } from './block.js';
import { ARGUMENTS, BUSES, COMMAND, PAIRS } from './command-ring.js';
import { Glides } from './glides.js';
import type { VoiceMix } from './inner-loop.js';
import { METER, STRIPS } from './meters.js';
import { ShelfFilter } from './shelf-filter.js';
import { brightnessFactor } from './timbre.js';

/** Seconds in which a wheel or a knob that jumps is followed, so that pitch and cut-off make no steps. */
const SMOOTH: Seconds = 0.012;
/** Frames over which a gain goes that is asked for at once: however little of a block is left, it makes no step. */
const RAMP = BLOCK;
/** Meters fall by this factor a block, about 20 dB a second. */
const METER_FALL = 0.994;

/**
 * One strip a layer: what its voices make, through tone, level, pan and expression, to the mix and the shared effects.
 *
 *     voices ─► shelves ─► level · expression · pan ─┬─► mix
 *                                                    └─► sends
 */
export class Strips {
  /** The moment that is rendered, seconds: a fraction that one function hands to another would be an object. */
  readonly moment = new Float64Array(1);
  /** What the voices of each strip are to do at the moment that was last {@link turn turned} to. */
  readonly bendNow = new Float64Array(STRIPS);
  readonly vibratoNow = new Float64Array(STRIPS);
  readonly openedNow = new Float64Array(STRIPS);
  /** How many voices sound on each; the engine counts them. While none does, nothing need glide. */
  readonly voices = new Int16Array(STRIPS);
  readonly attack = new Float64Array(STRIPS);
  readonly release = new Float64Array(STRIPS);
  private readonly level = new Glides(STRIPS, SILENCE_DB, this.moment);
  private readonly modulation = new Glides(STRIPS, 0, this.moment);
  private readonly expression = new Glides(STRIPS, 1, this.moment);
  /** Gains as they were at the end of the last frames, to go on from without a step. */
  private readonly heardLeft = new Float64Array(STRIPS);
  private readonly heardRight = new Float64Array(STRIPS);
  private readonly heardSend = new Float64Array(STRIPS * BUSES);
  /** Frames that gains still take to where they were asked for at once. */
  private readonly rampLeft = new Int16Array(STRIPS);
  private readonly sendRampLeft = new Int16Array(STRIPS * BUSES);
  private readonly pan = new Float64Array(STRIPS);
  private readonly sendLevel = new Glides(STRIPS * BUSES, SILENCE_DB, this.moment);
  /** Where each send is going as a gain, and when it is there: mostly it is. */
  private readonly sendGain = new Float64Array(STRIPS * BUSES);
  private readonly sendArrives = new Float64Array(STRIPS * BUSES);
  private readonly lowShelf: ShelfFilter[] = [];
  private readonly highShelf: ShelfFilter[] = [];
  private readonly brightness = new Glides(STRIPS, 0, this.moment);
  private readonly vibrato = new Float64Array(STRIPS);
  /** By which way each leaves: 0 with the mix, else by a pair. */
  private readonly way = new Uint8Array(STRIPS);
  /** Semitones. */
  private readonly bend = new Glides(STRIPS, 0, this.moment);

  constructor(
    sampleRate: number,
    private readonly meters: Float32Array,
    /** What the voices of the strip being rendered make. */
    private readonly mix: VoiceMix,
  ) {
    for (let s = 0; s < STRIPS; s++) {
      this.lowShelf.push(new ShelfFilter('low', sampleRate));
      this.highShelf.push(new ShelfFilter('high', sampleRate));
    }
  }

  /** Carries out a command that is for a strip, at the {@link moment}. */
  obey(record: Float64Array): void {
    const s = record[ARGUMENTS];
    const { voices } = this;
    switch (record[0]) {
      case COMMAND.level:
        glideTo(this.level, s, record, 1);
        if (record[ARGUMENTS + 2] === 0) this.rampLeft[s] = RAMP;
        break;
      case COMMAND.pan:
        this.pan[s] = record[ARGUMENTS + 1];
        this.rampLeft[s] = RAMP;
        break;
      case COMMAND.send: {
        const at = s * BUSES + record[ARGUMENTS + 1];
        glideTo(this.sendLevel, at, record, 2);
        this.sendGain[at] = gainFromDb(record[ARGUMENTS + 2]);
        this.sendArrives[at] = this.moment[0] + record[ARGUMENTS + 3];
        if (record[ARGUMENTS + 3] === 0) this.sendRampLeft[at] = RAMP;
        break;
      }
      case COMMAND.bend:
        this.obeyBend(record);
        break;
      case COMMAND.modulation:
        glideTo(this.modulation, s, record, 1);
        break;
      case COMMAND.expression:
        glideTo(this.expression, s, record, 1);
        if (record[ARGUMENTS + 2] === 0) this.rampLeft[s] = RAMP;
        break;
      case COMMAND.output:
        this.way[s] = record[ARGUMENTS + 1] <= PAIRS ? Math.max(0, record[ARGUMENTS + 1]) : 0;
        break;
      case COMMAND.reset:
        this.reset(s);
        break;
      case COMMAND.tone:
        this.lowShelf[s].to(record[ARGUMENTS + 1], voices[s] === 0);
        this.highShelf[s].to(record[ARGUMENTS + 2], voices[s] === 0);
        break;
      case COMMAND.timbre:
        this.brightness.setOff(s);
        this.brightness.target[s] = record[ARGUMENTS + 1];
        this.brightness.seconds[s] = voices[s] === 0 ? 0 : SMOOTH;
        this.attack[s] = record[ARGUMENTS + 2];
        this.release[s] = record[ARGUMENTS + 3];
        this.vibrato[s] = record[ARGUMENTS + 4];
        break;
    }
  }

  private obeyBend(record: Float64Array): void {
    for (let s = 0; s < STRIPS; s++) {
      if (((record[ARGUMENTS + 1 + (s >> 5)] >>> (s & 31)) & 1) === 0) continue;
      this.bend.setOff(s);
      this.bend.target[s] = record[ARGUMENTS];
      this.bend.seconds[s] = this.voices[s] === 0 ? 0 : SMOOTH;
    }
  }

  /** Everything at once to rest. */
  private reset(s: number): void {
    this.level.rest(s, SILENCE_DB);
    this.modulation.rest(s, 0);
    this.expression.rest(s, 1);
    this.brightness.rest(s, 0);
    this.bend.rest(s, 0);
    for (let at = s * BUSES; at < (s + 1) * BUSES; at++) {
      this.sendLevel.rest(at, SILENCE_DB);
      this.sendGain[at] = 0;
      this.sendArrives[at] = 0;
      this.heardSend[at] = 0;
    }
    for (const shelf of [this.lowShelf[s], this.highShelf[s]]) {
      shelf.to(0, true);
      shelf.rest();
    }
    const rest = [this.heardLeft, this.heardRight, this.pan, this.way, this.meters];
    for (const table of [...rest, this.attack, this.release, this.vibrato]) table[s] = 0;
    this.meters[METER.stolenFrom + s] = 0;
  }

  /** A strip that was at rest starts at its level at the {@link moment}; only a sounding strip glides within the frames. */
  wake(s: number): void {
    const gain = this.gainAt(s);
    const angle = ((this.pan[s] + 1) * Math.PI) / 4;
    this.heardLeft[s] = gain * Math.cos(angle) * Math.SQRT2;
    this.heardRight[s] = gain * Math.sin(angle) * Math.SQRT2;
    this.rampLeft[s] = 0;
    for (let bus = 0; bus < BUSES; bus++) {
      this.heardSend[s * BUSES + bus] = this.sendAt(s * BUSES + bus);
      this.sendRampLeft[s * BUSES + bus] = 0;
    }
    this.lowShelf[s].rest();
    this.highShelf[s].rest();
  }

  /** True while pitch or cut-off of its voices are on their way at the {@link moment}, so that they are asked for more often. */
  moves(s: number): boolean {
    this.modulation.look(s);
    return (
      this.modulation.value[s] + this.vibrato[s] > 0 ||
      !this.bend.look(s) ||
      !this.brightness.look(s)
    );
  }

  /**
   * Takes its voices to the {@link moment}: the factor on their pitch, how much of full vibrato they have (0–1), and the factor on
   * their cut-off.
   */
  turn(s: number): void {
    this.bend.look(s);
    this.modulation.look(s);
    this.brightness.look(s);
    const semitones = this.bend.value[s];
    this.bendNow[s] = semitones === 0 ? 1 : 2 ** (semitones / 12);
    this.vibratoNow[s] = Math.min(1, this.modulation.value[s] + this.vibrato[s]);
    this.openedNow[s] = brightnessFactor(this.brightness.value[s]);
  }

  /** Lets the meters fall by a block. */
  fallMeters(): void {
    const { meters } = this;
    for (let s = 0; s < STRIPS; s++) meters[s] = meters[s] < 1e-6 ? 0 : meters[s] * METER_FALL;
  }

  /** Empties the mix for frames `from`…`to` of a strip. */
  begin(from: number, to: number): void {
    this.mix.both.fill(0, from, to);
    this.mix.left.fill(0, from, to);
    this.mix.right.fill(0, from, to);
  }

  /**
   * Takes frames `from`…`to` of the mix to the outputs, as things stand at the {@link moment}; false when something was no number,
   * which goes nowhere.
   */
  finish(s: number, from: number, to: number, output: EngineOutput): boolean {
    const { both, left: stripLeft, right: stripRight } = this.mix;
    for (let i = from; i < to; i++) {
      stripLeft[i] += both[i];
      stripRight[i] += both[i];
    }
    this.lowShelf[s].render(stripLeft, stripRight, from, to);
    this.highShelf[s].render(stripLeft, stripRight, from, to);
    if (!this.areNumbers(from, to)) {
      this.lowShelf[s].rest();
      this.highShelf[s].rest();
      return false;
    }
    const gain = this.gainAt(s);
    const angle = ((this.pan[s] + 1) * Math.PI) / 4;
    const toLeft = gain * Math.cos(angle) * Math.SQRT2;
    const toRight = gain * Math.sin(angle) * Math.SQRT2;
    const way = this.way[s];
    const { left, right } = way === 0 ? output.mix : output.pairs[way - 1];
    const frames = Math.max(to - from, this.rampLeft[s]);
    this.rampLeft[s] = frames - (to - from);
    const leftStep = (toLeft - this.heardLeft[s]) / frames;
    const rightStep = (toRight - this.heardRight[s]) / frames;
    let gainLeft = this.heardLeft[s];
    let gainRight = this.heardRight[s];
    let peak = this.meters[s];
    for (let i = from; i < to; i++) {
      gainLeft += leftStep;
      gainRight += rightStep;
      const l = stripLeft[i] * gainLeft;
      const r = stripRight[i] * gainRight;
      stripLeft[i] = l;
      stripRight[i] = r;
      left[i] += l;
      right[i] += r;
      const size = Math.max(Math.abs(l), Math.abs(r));
      if (size > peak) peak = size;
    }
    this.meters[s] = peak;
    const isThere = this.rampLeft[s] === 0;
    this.heardLeft[s] = isThere ? toLeft : gainLeft;
    this.heardRight[s] = isThere ? toRight : gainRight;
    for (let bus = 0; bus < BUSES; bus++) this.send(s, bus, from, to, output.buses[bus]);
    return true;
  }

  private areNumbers(from: number, to: number): boolean {
    const { left, right } = this.mix;
    let sum = 0;
    for (let i = from; i < to; i++) sum += left[i] * right[i];
    return Number.isFinite(sum) && Number.isFinite(left[to - 1] + right[to - 1]);
  }

  private send(s: number, bus: number, from: number, to: number, into: Stereo): void {
    const at = s * BUSES + bus;
    const before = this.heardSend[at];
    const goal = this.sendAt(at);
    const frames = Math.max(to - from, this.sendRampLeft[at]);
    this.sendRampLeft[at] = frames - (to - from);
    if (before === 0 && goal === 0) return;
    const { left, right } = this.mix;
    const step = (goal - before) / frames;
    let gain = before;
    for (let i = from; i < to; i++) {
      gain += step;
      into.left[i] += left[i] * gain;
      into.right[i] += right[i] * gain;
    }
    this.heardSend[at] = this.sendRampLeft[at] === 0 ? goal : gain;
  }

  /** Gain of a send at the {@link moment}. */
  private sendAt(at: number): number {
    if (this.moment[0] >= this.sendArrives[at]) return this.sendGain[at];
    this.sendLevel.lookAsGain(at);
    return this.sendLevel.value[at];
  }

  /** Gain of a strip at the {@link moment}. */
  private gainAt(s: number): number {
    this.level.lookAsGain(s);
    this.expression.look(s);
    return this.level.value[s] * this.expression.value[s];
  }
}

/** Has one set off for what stands in a record from an argument on: where to, and in how many seconds. */
function glideTo(glides: Glides, i: number, record: Float64Array, argument: number): void {
  glides.setOff(i);
  glides.target[i] = record[ARGUMENTS + argument];
  glides.seconds[i] = record[ARGUMENTS + argument + 1];
}
