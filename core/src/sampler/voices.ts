import { isWide, type Zone } from '../synthesis/zone.js';
import type { SlideGoal, VoiceStart } from './voice-start.js';
import { WAY, type InnerLoop } from './inner-loop.js';
import { LOOK_AHEAD, LOOK_BACK, sampleAtSeam } from './interpolation.js';
import {
  ATTACK,
  CUT,
  DECAY,
  FREE,
  HOLD,
  MOST_VOICES,
  RELEASE,
  VOICES,
  VoiceTables,
} from './voice-tables.js';

export { MOST_VOICES, VOICES };

/** Amplitude below which a voice that has risen is over (−90 dB), held or not. */
const INAUDIBLE = 3.2e-5;
const FALL_60_DB = Math.log(1000);
/** Seconds in which a voice that is cut fades out: as good as at once, and as smoothly as half a wave, so that nothing clicks. */
const CUT_SECONDS = 0.012;
/** Frames of that fade that are worked out as a straight line. */
const CUT_FRAMES = 16;
/** Seconds in which a voice that glides goes over into the recording of other keys. */
const CROSSING_SECONDS = 0.012;

/**
 * The voices of the engine, in fixed tables: each plays one zone through an envelope and two one-pole low-passes.
 *
 *     zone ─► interpolation ─► low-pass ─► low-pass ─► envelope ─► strip
 */
export class Voices extends VoiceTables {
  private count = 0;

  constructor(
    private readonly sampleRate: number,
    private readonly loop: InnerLoop,
  ) {
    super();
  }

  /**
   * A free place. When too many play, the oldest that is already going, else the oldest of all, is cut: see {@link stolen}.
   * When as many fade out already, the faintest of those is over at once.
   */
  place(): number {
    this.stolen = -1;
    let free = -1;
    let playing = 0;
    let oldest = -1;
    let oldestRank = Infinity;
    let faintest = -1;
    let faintestStrength = Infinity;
    for (let v = 0; v < VOICES; v++) {
      const stage = this.stage[v];
      if (stage === FREE) free = v;
      else if (stage === CUT) {
        const strength = this.envelope[v] * this.gain[v];
        if (strength >= faintestStrength) continue;
        faintestStrength = strength;
        faintest = v;
      } else {
        playing++;
        const rank = this.begun[v] + (stage === RELEASE ? 0 : 1e12);
        if (rank >= oldestRank) continue;
        oldestRank = rank;
        oldest = v;
      }
    }
    if (playing >= MOST_VOICES) {
      this.stolen = oldest;
      this.cutNote(oldest);
    }
    return free >= 0 ? free : faintest;
  }

  /** A place that is free as it is; −1 when there is none. */
  freePlace(): number {
    for (let v = 0; v < VOICES; v++) if (this.stage[v] === FREE) return v;
    return -1;
  }

  start(v: number, start: VoiceStart): void {
    this.id[v] = start.id;
    this.oneShot[v] = start.oneShot;
    this.choke[v] = start.choke;
    this.strip[v] = start.strip;
    this.instance[v] = start.instance;
    this.slot[v] = start.slot;
    this.velocity[v] = start.velocity;
    this.glideSeconds[v] = start.glideSeconds;
    this.zone[v] = start.zone;
    this.position[v] = 0;
    this.step[v] = start.step;
    this.glideFrames[v] = 0;
    this.pressure[v] = 0;
    this.gain[v] = start.gain;
    this.envelope[v] = 0;
    this.stage[v] = ATTACK;
    this.attackStep[v] = 1 / Math.max(1, start.attackFrames);
    this.releaseFall[v] = Math.exp(-FALL_60_DB / Math.max(1, start.releaseFrames));
    this.holdLeft[v] = start.holdFrames;
    this.decayFall[v] = start.decayFall;
    this.sustain[v] = start.sustain;
    this.loopFall[v] = start.loopFall;
    this.cutoff[v] = start.cutoff;
    this.loop.filters.fill(0, v * 4, v * 4 + 4);
    this.begun[v] = ++this.count;
    // The golden ratio spreads any number of them evenly.
    const place = (this.count * 0.618034) % 1;
    this.vibratoPhase[v] = 2 * Math.PI * place;
    this.vibratoRate[v] = 0.95 + 0.1 * ((this.count * 0.754878) % 1);
  }

  /** Goes into its release. */
  release(v: number): void {
    this.stage[v] = RELEASE;
  }

  /** Fades out within a few milliseconds. */
  cut(v: number): void {
    if (this.stage[v] === CUT || this.stage[v] === FREE) return;
    this.stage[v] = CUT;
    this.cutFrom[v] = this.envelope[v];
    this.cutDone[v] = 0;
  }

  /** Cuts a voice, and all that its note began with it. */
  cutNote(v: number): void {
    for (let other = 0; other < VOICES; other++)
      if (this.id[other] === this.id[v] && this.strip[other] === this.strip[v]) this.cut(other);
  }

  /** Cuts off what of a sound is in a group; not what the same note began. */
  chokeOff(group: number, instance: number, id: number): void {
    for (let v = 0; v < VOICES; v++)
      if (this.choke[v] === group && this.instance[v] === instance && this.id[v] !== id)
        this.cut(v);
  }

  /** Ends at once. */
  free(v: number): void {
    this.stage[v] = FREE;
  }

  /** Goes to another step over some seconds, evenly in pitch, and bears another id from now on. */
  slide(v: number, id: number, { step, glideSeconds }: SlideGoal): void {
    const frames = Math.max(1, Math.round(glideSeconds * this.sampleRate));
    this.id[v] = id;
    this.stepGoal[v] = step;
    this.glideFrames[v] = frames;
    this.stepFactor[v] = (step / this.step[v]) ** (1 / frames);
  }

  isGliding(v: number): boolean {
    return this.glideFrames[v] > 0;
  }

  /** Goes on with voice `v` in another place and another zone, and fades the old one out. `ratio` is that of their steps. */
  cross(v: number, into: number, zone: Zone, ratio: number): void {
    const before = this.zone[v];
    if (!before) return;
    this.id[into] = this.id[v];
    this.oneShot[into] = this.oneShot[v];
    this.choke[into] = this.choke[v];
    this.strip[into] = this.strip[v];
    this.instance[into] = this.instance[v];
    this.slot[into] = this.slot[v];
    this.velocity[into] = this.velocity[v];
    this.glideSeconds[into] = this.glideSeconds[v];
    this.vibratoPhase[into] = this.vibratoPhase[v];
    this.vibratoRate[into] = this.vibratoRate[v];
    this.gain[into] = this.gain[v];
    this.releaseFall[into] = this.releaseFall[v];
    this.holdLeft[into] = this.holdLeft[v];
    this.decayFall[into] = this.decayFall[v];
    this.sustain[into] = this.sustain[v];
    this.loopFall[into] = this.loopFall[v];
    this.cutoff[into] = this.cutoff[v];
    this.begun[into] = this.begun[v];
    this.stepFactor[into] = this.stepFactor[v];
    this.glideFrames[into] = this.glideFrames[v];
    this.pressure[into] = this.pressure[v];
    this.step[into] = this.step[v] * ratio;
    this.stepGoal[into] = this.stepGoal[v] * ratio;
    this.zone[into] = zone;
    let position = (this.position[v] / before.sampleRate) * zone.sampleRate;
    const loop = zone.loopEnd - zone.loopStart;
    if (zone.loopEnd > 0 && position >= zone.loopEnd)
      position = zone.loopStart + ((position - zone.loopStart) % loop);
    this.position[into] = Math.min(position, zone.left.length - 2);
    this.stage[into] = ATTACK;
    this.envelope[into] = 0;
    this.attackStep[into] = 1 / (CROSSING_SECONDS * this.sampleRate);
    this.loop.filters.copyWithin(into * 4, v * 4, v * 4 + 4);
    this.cut(v);
  }

  /** Adds frames `from`…`to` of a voice to the mix, at its {@link pitch} and {@link opened} as they are now. */
  render(v: number, from: number, to: number): void {
    const zone = this.zone[v];
    if (!zone) return;
    const { way } = this.loop;
    this.glide(v, to - from);
    const step = this.step[v] * this.pitch[v];
    way[WAY.step] = step;
    way[WAY.smoothing] =
      1 - Math.exp((-2 * Math.PI * this.cutoff[v] * this.opened[v]) / this.sampleRate);
    const end = zone.loopEnd > 0 ? zone.loopEnd : zone.left.length;
    const loopStart = zone.loopEnd > 0 ? zone.loopStart : -1;
    const most = this.loop.mostFrames();
    let at = from;
    while (at < to && this.stage[v] !== FREE) {
      const position = this.position[v];
      const falls = loopStart >= 0 && position >= loopStart;
      // Up to where its neighbours, or the way it falls, become other ones, all frames are alike.
      const edge = loopStart > position ? Math.min(loopStart, end - LOOK_AHEAD) : end - LOOK_AHEAD;
      // Whole numbers that are known to be small are no objects.
      const alike = position < LOOK_BACK ? 0 : Math.min(most, (edge - position) / step) | 0;
      const run = this.envelopeRun(v, Math.min(to - at, alike));
      if (run <= 0) {
        this.renderAtSeam(v, zone, at, falls, loopStart, end);
        at++;
      } else {
        this.renderAlike(v, zone, at, run, falls);
        at += run;
      }
    }
    const strength = this.envelope[v] * this.gain[v];
    // A number that is none is never below anything; it ends the voice it got into.
    const audible = strength >= INAUDIBLE || (this.stage[v] === ATTACK && strength >= 0);
    if (!audible) this.stage[v] = FREE;
  }

  private glide(v: number, frames: number): void {
    const left = this.glideFrames[v];
    if (left <= 0) return;
    this.glideFrames[v] = left - frames;
    this.step[v] = left <= frames ? this.stepGoal[v] : this.step[v] * this.stepFactor[v] ** frames;
  }

  /** Of some frames, those before the envelope goes on in another way. */
  private envelopeRun(v: number, frames: number): number {
    const stage = this.stage[v];
    if (stage === CUT) return Math.min(frames, CUT_FRAMES);
    if (stage === ATTACK) {
      const left = Math.ceil((1 - this.envelope[v]) / this.attackStep[v]) - 1;
      return Math.min(frames, left) | 0;
    }
    const decayFall = this.decayFall[v];
    if (stage === HOLD && this.falls(v)) return Math.min(frames, this.holdLeft[v]) | 0;
    if (stage !== DECAY || this.sustain[v] === 0) return frames;
    const left = Math.log(this.sustain[v] / this.envelope[v]) / Math.log(decayFall);
    return Math.min(frames, Math.max(0, left)) | 0;
  }

  /** One frame of the envelope. */
  private stepEnvelope(v: number): void {
    if (this.stage[v] === ATTACK) {
      this.envelope[v] += this.attackStep[v];
      if (this.envelope[v] >= 1) {
        this.envelope[v] = 1;
        this.stage[v] = HOLD;
      }
    } else if (this.stage[v] === HOLD || this.stage[v] === DECAY) {
      if (!this.falls(v)) return;
      if (this.stage[v] === HOLD && --this.holdLeft[v] > 0) return;
      this.stage[v] = DECAY;
      this.envelope[v] *= this.decayFall[v];
      if (this.envelope[v] > this.sustain[v]) return;
      this.envelope[v] = this.sustain[v];
      this.decayFall[v] = 1;
      this.stage[v] = HOLD;
    } else if (this.stage[v] === RELEASE) this.envelope[v] *= this.releaseFall[v];
    else if (this.stage[v] === CUT) {
      this.fadeOn(v, 1);
      this.envelope[v] = this.cutTo[v];
    }
  }

  /** Whether a voice that is held at full is going to fall. */
  private falls(v: number): boolean {
    return this.decayFall[v] !== 1;
  }

  /** Has a voice that is cut come some frames further on in its fade. */
  private fadeOn(v: number, frames: number): void {
    this.cutDone[v] += frames;
    const share = Math.min(1, this.cutDone[v] / (CUT_SECONDS * this.sampleRate));
    this.cutTo[v] = this.cutFrom[v] * (0.5 + 0.5 * Math.cos(Math.PI * share));
  }

  /** One frame where the recording begins, wraps round or ends. */
  private renderAtSeam(
    v: number,
    zone: Zone,
    at: number,
    falls: boolean,
    loopStart: number,
    end: number,
  ): void {
    const { filters, mix, way } = this.loop;
    const smoothing = way[WAY.smoothing];
    const m = v * 4;
    this.stepEnvelope(v);
    const strength = this.envelope[v] * this.gain[v];
    const position = this.position[v];
    const { scale } = zone;
    const left = sampleAtSeam(zone.left, position, loopStart, end) * (scale ? scale[0] : 1);
    filters[m] += smoothing * (left - filters[m]);
    filters[m + 1] += smoothing * (filters[m] - filters[m + 1]);
    if (!isWide(zone)) mix.both[at] += filters[m + 1] * strength;
    else {
      const right = sampleAtSeam(zone.right, position, loopStart, end) * (scale ? scale[1] : 1);
      filters[m + 2] += smoothing * (right - filters[m + 2]);
      filters[m + 3] += smoothing * (filters[m + 2] - filters[m + 3]);
      mix.left[at] += filters[m + 1] * strength;
      mix.right[at] += filters[m + 3] * strength;
    }
    let next = position + way[WAY.step];
    if (falls) this.gain[v] *= this.loopFall[v];
    if (loopStart >= 0) {
      while (next >= end) next -= end - loopStart;
    } else if (next >= end - 1) this.stage[v] = FREE;
    this.position[v] = next;
  }

  /** Frames in the midst of a recording, all alike: no seam, one way of the envelope. */
  private renderAlike(v: number, zone: Zone, from: number, frames: number, falls: boolean): void {
    const { way } = this.loop;
    const step = way[WAY.step];
    const fall = falls ? this.loopFall[v] : 1;
    const envelope = this.envelope[v];
    const stage = this.stage[v];
    const shrink =
      stage === RELEASE ? this.releaseFall[v] : stage === DECAY ? this.decayFall[v] : 1;
    if (stage === HOLD) this.holdLeft[v] -= frames;
    let rise = this.stage[v] === ATTACK ? this.attackStep[v] : 0;
    if (this.stage[v] === CUT) {
      this.fadeOn(v, frames);
      rise = (this.cutTo[v] - envelope) / frames;
    }
    const strength = this.gain[v] * shrink;
    way[WAY.position] = this.position[v];
    way[WAY.envelope] = envelope * strength;
    way[WAY.rise] = rise * strength;
    way[WAY.factor] = shrink * fall;
    this.loop.run(v, zone, from, frames);
    this.position[v] += step * frames;
    this.envelope[v] = (envelope + rise * frames) * shrink ** frames;
    this.gain[v] *= fall ** frames;
  }
}
