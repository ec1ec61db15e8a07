import { Glide } from '../clock/glide.js';
import { gainFromDb, SILENCE_DB } from '../units/decibels.js';
import type { Seconds } from '../units/times.js';
import { BLOCK, type EngineOutput, type Stereo } from './block.js';
import { BUSES, PAIRS } from './command-ring.js';
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
  readonly attack = new Float64Array(STRIPS);
  readonly release = new Float64Array(STRIPS);
  private readonly level: Glide[] = [];
  private readonly modulation: Glide[] = [];
  private readonly expression: Glide[] = [];
  /** Gains as they were at the end of the last frames, to go on from without a step. */
  private readonly heardLeft = new Float64Array(STRIPS);
  private readonly heardRight = new Float64Array(STRIPS);
  private readonly heardSend = new Float64Array(STRIPS * BUSES);
  /** Frames that gains still take to where they were asked for at once. */
  private readonly rampLeft = new Int16Array(STRIPS);
  private readonly sendRampLeft = new Int16Array(STRIPS * BUSES);
  private readonly pan = new Float64Array(STRIPS);
  private readonly sendLevel: Glide[] = [];
  /** Where each send is going as a gain, and when it is there: mostly it is. */
  private readonly sendGain = new Float64Array(STRIPS * BUSES);
  private readonly sendArrives = new Float64Array(STRIPS * BUSES);
  private readonly lowShelf: ShelfFilter[] = [];
  private readonly highShelf: ShelfFilter[] = [];
  private readonly brightness: Glide[] = [];
  private readonly vibrato = new Float64Array(STRIPS);
  /** By which way each leaves: 0 with the mix, else by a pair. */
  private readonly way = new Uint8Array(STRIPS);
  /** Semitones. */
  private readonly bend: Glide[] = [];

  constructor(
    sampleRate: number,
    private readonly meters: Float32Array,
    /** What the voices of the strip being rendered make. */
    private readonly mix: VoiceMix,
  ) {
    for (let s = 0; s < STRIPS; s++) {
      this.level.push(new Glide(SILENCE_DB));
      this.modulation.push(new Glide(0));
      this.expression.push(new Glide(1));
      this.brightness.push(new Glide(0));
      this.bend.push(new Glide(0));
      for (let bus = 0; bus < BUSES; bus++) this.sendLevel.push(new Glide(SILENCE_DB));
      this.lowShelf.push(new ShelfFilter('low', sampleRate));
      this.highShelf.push(new ShelfFilter('high', sampleRate));
    }
  }

  setLevel(s: number, level: number, seconds: Seconds, now: Seconds): void {
    this.level[s].to(level, seconds, now);
    if (seconds === 0) this.rampLeft[s] = RAMP;
  }

  setModulation(s: number, depth: number, seconds: Seconds, now: Seconds): void {
    this.modulation[s].to(depth, seconds, now);
  }

  setExpression(s: number, gain: number, seconds: Seconds, now: Seconds): void {
    this.expression[s].to(gain, seconds, now);
    if (seconds === 0) this.rampLeft[s] = RAMP;
  }

  setPan(s: number, pan: number): void {
    this.pan[s] = pan;
    this.rampLeft[s] = RAMP;
  }

  setSend(s: number, bus: number, level: number, seconds: Seconds, now: Seconds): void {
    const at = s * BUSES + bus;
    this.sendLevel[at].to(level, seconds, now);
    this.sendGain[at] = gainFromDb(level);
    this.sendArrives[at] = now + seconds;
    if (seconds === 0) this.sendRampLeft[at] = RAMP;
  }

  /** @param rests true while nothing sounds on it, so that it need not glide */
  setBend(s: number, semitones: number, rests: boolean, now: Seconds): void {
    this.bend[s].to(semitones, rests ? 0 : SMOOTH, now);
  }

  /** @param rests true while nothing sounds on it, so that the shelves need not glide */
  setTone(s: number, low: number, high: number, rests: boolean): void {
    this.lowShelf[s].to(low, rests);
    this.highShelf[s].to(high, rests);
  }

  /** @param rests true while nothing sounds on it, so that the cut-off need not glide */
  setTimbre(
    s: number,
    brightness: number,
    attack: number,
    release: number,
    vibrato: number,
    rests: boolean,
    now: Seconds,
  ): void {
    this.brightness[s].to(brightness, rests ? 0 : SMOOTH, now);
    this.attack[s] = attack;
    this.release[s] = release;
    this.vibrato[s] = vibrato;
  }

  /** Everything at once to rest. */
  reset(s: number, now: Seconds): void {
    this.level[s].to(SILENCE_DB, 0, now);
    this.way[s] = 0;
    this.modulation[s].to(0, 0, now);
    this.expression[s].to(1, 0, now);
    this.heardLeft[s] = 0;
    this.heardRight[s] = 0;
    this.pan[s] = 0;
    for (let bus = 0; bus < BUSES; bus++) {
      this.setSend(s, bus, SILENCE_DB, 0, now);
      this.heardSend[s * BUSES + bus] = 0;
    }
    for (const shelf of [this.lowShelf[s], this.highShelf[s]]) {
      shelf.to(0, true);
      shelf.rest();
    }
    this.setTimbre(s, 0, 0, 0, 0, true, now);
    this.meters[METER.stolenFrom + s] = 0;
    this.bend[s].to(0, 0, now);
    this.meters[s] = 0;
  }

  /** A strip that was at rest starts at its level; only a sounding strip glides within the frames. */
  wake(s: number, now: Seconds): void {
    const gain = this.gainAt(s, now);
    const angle = ((this.pan[s] + 1) * Math.PI) / 4;
    this.heardLeft[s] = gain * Math.cos(angle) * Math.SQRT2;
    this.heardRight[s] = gain * Math.sin(angle) * Math.SQRT2;
    this.rampLeft[s] = 0;
    for (let bus = 0; bus < BUSES; bus++) {
      this.heardSend[s * BUSES + bus] = this.sendAt(s * BUSES + bus, now);
      this.sendRampLeft[s * BUSES + bus] = 0;
    }
    this.lowShelf[s].rest();
    this.highShelf[s].rest();
  }

  /** True while pitch or cut-off of its voices are on their way at the {@link moment}, so that they are asked for more often. */
  moves(s: number): boolean {
    const now: Seconds = this.moment[0];
    return (
      this.vibratoOf(s, now) > 0 ||
      this.bend[s].at(now) !== this.bend[s].goal ||
      this.brightness[s].at(now) !== this.brightness[s].goal
    );
  }

  /** Factor on the pitch of its voices. */
  bendOf(s: number, now: Seconds): number {
    const semitones = this.bend[s].at(now);
    return semitones === 0 ? 1 : 2 ** (semitones / 12);
  }

  /** How much of full vibrato its voices have, 0–1. */
  vibratoOf(s: number, now: Seconds): number {
    return Math.min(1, this.modulation[s].at(now) + this.vibrato[s]);
  }

  /** Factor on the cut-off of its voices. */
  openedOf(s: number, now: Seconds): number {
    return brightnessFactor(this.brightness[s].at(now));
  }

  /** Lets the meters fall by a block. */
  fallMeters(): void {
    const { meters } = this;
    for (let s = 0; s < STRIPS; s++) meters[s] = meters[s] < 1e-6 ? 0 : meters[s] * METER_FALL;
  }

  /** Has a strip leave with the mix (0), or by one of the pairs. */
  setWay(s: number, way: number): void {
    this.way[s] = way > 0 && way <= PAIRS ? way : 0;
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
    const now: Seconds = this.moment[0];
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
    const gain = this.gainAt(s, now);
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
    const goal = this.sendAt(at, this.moment[0]);
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

  private sendAt(at: number, now: Seconds): number {
    return now >= this.sendArrives[at] ? this.sendGain[at] : gainFromDb(this.sendLevel[at].at(now));
  }

  private gainAt(s: number, now: Seconds): number {
    return gainFromDb(this.level[s].at(now)) * this.expression[s].at(now);
  }
}
