import { gainFromDb, SILENCE_DB } from '../range/decibels.js';
import { Glide } from '../setlist/glide.js';
import { zoneFor, type Voicing, type Zone } from '../synthesis/zone.js';
import { BUSES, COMMAND, RECORD, type CommandRing } from './command-ring.js';
import { HeldLine } from './held-line.js';
import { Shelf } from './shelf.js';
import { attackSeconds, brightnessFactor, releaseSeconds } from './timbre.js';

/** Voices that sound at one time; the oldest gives way beyond that. */
export const VOICES = 128;
/** Strips: one for each layer that sounds, those of a patch just left included. */
export const STRIPS = 128;
/** Frames that are rendered at a time, as an audio worklet does. */
export const BLOCK = 128;

/** A sound as the engine holds it. */
export interface LoadedSound {
  voicing: Voicing;
  zones: Zone[];
}

/** Two channels of a block. */
export interface Stereo {
  left: Float32Array;
  right: Float32Array;
}

/** Where a block goes: the mix, and what is sent to the shared effects, by bus. */
export interface EngineOutput {
  mix: Stereo;
  buses: Stereo[];
}

/** Buffers for one block. */
export function blockOutput(): EngineOutput {
  const stereo = () => ({ left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) });
  return { mix: stereo(), buses: Array.from({ length: BUSES }, stereo) };
}

/**
 * Numbers that the engine shows to views: one peak per strip, then these; from `stolenFrom` on, how many notes each strip has
 * lost to its polyphony.
 */
export const METER = {
  voices: STRIPS,
  stolen: STRIPS + 1,
  stolenFrom: STRIPS + 2,
} as const;
export const METERS = METER.stolenFrom + STRIPS;

const FREE = 0;
const ATTACK = 1;
const HOLD = 2;
const RELEASE = 3;

/** Amplitude below which a voice is over (−84 dB). */
const INAUDIBLE = 6e-5;
const VIBRATO_HZ = 5.4;
/** Depth of full vibrato, as a factor of pitch (35 cents). */
const VIBRATO_DEPTH = 2 ** (35 / 1200) - 1;
const FALL_60_DB = Math.log(1000);
/** Peaks above this are bent softly instead of clipped. */
const KNEE = 0.7;

/**
 * Plays zones. One strip a layer: voices ─► strip (tone, level, pan, expression) ─► mix, sends.
 *
 * Everything a block needs is allocated once; `render` allocates nothing. It knows no audio API, so that the same engine
 * plays in an audio worklet and renders in a test.
 */
export class VoiceEngine {
  private readonly sounds: (LoadedSound | null)[] = [];
  private readonly record = new Float64Array(RECORD);
  private readonly stripLeft = new Float32Array(BLOCK);
  private readonly stripRight = new Float32Array(BLOCK);

  private readonly stage = new Uint8Array(VOICES);
  private readonly id = new Float64Array(VOICES);
  private readonly strip = new Int16Array(VOICES);
  private readonly instance = new Int32Array(VOICES);
  private readonly zone: (Zone | null)[] = new Array<Zone | null>(VOICES).fill(null);
  private readonly position = new Float64Array(VOICES);
  private readonly step = new Float64Array(VOICES);
  /** While it glides: the step it goes to, the factor a block, and the blocks that are left. */
  private readonly stepGoal = new Float64Array(VOICES);
  private readonly stepFactor = new Float64Array(VOICES);
  private readonly glideBlocks = new Float64Array(VOICES);
  private readonly glideSeconds = new Float64Array(VOICES);
  private readonly gain = new Float64Array(VOICES);
  private readonly envelope = new Float64Array(VOICES);
  private readonly attackStep = new Float64Array(VOICES);
  private readonly releaseFall = new Float64Array(VOICES);
  private readonly loopFall = new Float64Array(VOICES);
  private readonly cutoff = new Float64Array(VOICES);
  private readonly memory = new Float64Array(VOICES * 4);
  private readonly begun = new Float64Array(VOICES);
  private count = 0;

  private readonly level: Glide[] = [];
  private readonly modulation: Glide[] = [];
  private readonly expression: Glide[] = [];
  /** Gains as they were at the end of the last block, to go on from without a step. */
  private readonly heardLeft = new Float64Array(STRIPS);
  private readonly heardRight = new Float64Array(STRIPS);
  private readonly heardSend = new Float64Array(STRIPS * BUSES);
  private readonly pan = new Float64Array(STRIPS);
  private readonly sendGain = new Float64Array(STRIPS * BUSES);
  private readonly lowShelf: Shelf[] = [];
  private readonly highShelf: Shelf[] = [];
  private readonly brightness = new Float64Array(STRIPS);
  private readonly attack = new Float64Array(STRIPS);
  private readonly release = new Float64Array(STRIPS);
  private readonly vibrato = new Float64Array(STRIPS);
  /** Notes held on sounds of one voice, by instance. */
  private readonly lines = new Map<number, HeldLine>();
  private readonly bendFactor = new Float64Array(STRIPS).fill(1);
  private readonly stripVoices = new Int16Array(STRIPS);
  private time = 0;
  private vibratoPhase = 0;

  /**
   * @param sampleRate frames per second
   * @param commands where the playing side writes
   * @param meters shared with views, {@link METERS} numbers
   */
  constructor(
    private readonly sampleRate: number,
    private readonly commands: CommandRing,
    private readonly meters: Float32Array,
  ) {
    for (let s = 0; s < STRIPS; s++) {
      this.level.push(new Glide(SILENCE_DB));
      this.modulation.push(new Glide(0));
      this.expression.push(new Glide(1));
      this.lowShelf.push(new Shelf('low', sampleRate));
      this.highShelf.push(new Shelf('high', sampleRate));
    }
  }

  /** Puts a sound into a slot. Voices that play the slot's old zones go on. */
  load(slot: number, sound: LoadedSound): void {
    this.sounds[slot] = sound;
  }

  /** Renders the next {@link BLOCK} frames, after carrying out every waiting command. The output is overwritten. */
  render(output: EngineOutput): void {
    while (this.commands.read(this.record)) this.carryOut(this.record);
    const { left, right } = output.mix;
    left.fill(0);
    right.fill(0);
    for (let bus = 0; bus < BUSES; bus++) {
      output.buses[bus].left.fill(0);
      output.buses[bus].right.fill(0);
    }
    this.stripVoices.fill(0);
    let sounding = 0;
    for (let v = 0; v < VOICES; v++) {
      if (this.stage[v] === FREE) continue;
      this.stripVoices[this.strip[v]]++;
      sounding++;
    }
    const seconds = BLOCK / this.sampleRate;
    this.vibratoPhase = (this.vibratoPhase + 2 * Math.PI * VIBRATO_HZ * seconds) % (2 * Math.PI);
    const vibrato = Math.sin(this.vibratoPhase) * VIBRATO_DEPTH;
    this.time += seconds;
    for (let s = 0; s < STRIPS; s++) this.renderStrip(s, vibrato, output);
    for (let i = 0; i < BLOCK; i++) {
      left[i] = softClip(left[i]);
      right[i] = softClip(right[i]);
    }
    this.meters[METER.voices] = sounding;
  }

  private renderStrip(s: number, vibrato: number, output: EngineOutput): void {
    const gain = gainFromDb(this.level[s].at(this.time)) * this.expression[s].at(this.time);
    const angle = ((this.pan[s] + 1) * Math.PI) / 4;
    const toLeft = gain * Math.cos(angle) * Math.SQRT2;
    const toRight = gain * Math.sin(angle) * Math.SQRT2;
    // Meters fall by themselves, about 20 dB a second.
    let peak = this.meters[s] * 0.994;
    if (this.stripVoices[s] > 0) {
      const { stripLeft, stripRight } = this;
      stripLeft.fill(0);
      stripRight.fill(0);
      const depth = Math.min(1, this.modulation[s].at(this.time) + this.vibrato[s]);
      const pitch = this.bendFactor[s] * (1 + vibrato * depth);
      const opened = brightnessFactor(this.brightness[s]);
      for (let v = 0; v < VOICES; v++)
        if (this.stage[v] !== FREE && this.strip[v] === s) this.renderVoice(v, pitch, opened);
      this.lowShelf[s].render(stripLeft, stripRight);
      this.highShelf[s].render(stripLeft, stripRight);
      const { left, right } = output.mix;
      const fromLeft = this.heardLeft[s];
      const fromRight = this.heardRight[s];
      for (let i = 0; i < BLOCK; i++) {
        const t = (i + 1) / BLOCK;
        stripLeft[i] *= fromLeft + (toLeft - fromLeft) * t;
        stripRight[i] *= fromRight + (toRight - fromRight) * t;
        left[i] += stripLeft[i];
        right[i] += stripRight[i];
        const size = Math.max(Math.abs(stripLeft[i]), Math.abs(stripRight[i]));
        if (size > peak) peak = size;
      }
      for (let bus = 0; bus < BUSES; bus++) this.sendStrip(s, bus, output.buses[bus]);
    }
    this.heardLeft[s] = toLeft;
    this.heardRight[s] = toRight;
    this.meters[s] = peak < 1e-6 ? 0 : peak;
  }

  private sendStrip(s: number, bus: number, into: Stereo): void {
    const at = s * BUSES + bus;
    const from = this.heardSend[at];
    const to = this.sendGain[at];
    this.heardSend[at] = to;
    if (from === 0 && to === 0) return;
    const { stripLeft, stripRight } = this;
    for (let i = 0; i < BLOCK; i++) {
      const gain = from + ((to - from) * (i + 1)) / BLOCK;
      into.left[i] += stripLeft[i] * gain;
      into.right[i] += stripRight[i] * gain;
    }
  }

  private renderVoice(v: number, pitch: number, opened: number): void {
    const zone = this.zone[v];
    if (!zone) return;
    const { left, right, loopStart, loopEnd } = zone;
    const mono = left === right;
    const { stripLeft, stripRight, memory } = this;
    const length = left.length;
    const looped = loopEnd > 0;
    const loopLength = loopEnd - loopStart;
    if (this.glideBlocks[v] > 0) {
      this.glideBlocks[v]--;
      this.step[v] =
        this.glideBlocks[v] <= 0 ? this.stepGoal[v] : this.step[v] * this.stepFactor[v];
    }
    const step = this.step[v] * pitch;
    const gain = this.gain[v];
    const smoothing = 1 - Math.exp((-2 * Math.PI * this.cutoff[v] * opened) / this.sampleRate);
    const loopFall = this.loopFall[v];
    const releaseFall = this.releaseFall[v];
    const attackStep = this.attackStep[v];
    let position = this.position[v];
    let envelope = this.envelope[v];
    let amplitude = gain;
    let stage = this.stage[v];
    let l1 = memory[v * 4];
    let l2 = memory[v * 4 + 1];
    let r1 = memory[v * 4 + 2];
    let r2 = memory[v * 4 + 3];
    for (let i = 0; i < BLOCK; i++) {
      const at = Math.floor(position);
      const t = position - at;
      // Neighbours across the loop's seam, so that interpolation never hears it.
      const before = at > 0 ? at - 1 : 0;
      let next = at + 1;
      let after = at + 2;
      if (looped) {
        if (next >= loopEnd) next -= loopLength;
        if (after >= loopEnd) after -= loopLength;
      } else {
        if (next >= length) next = length - 1;
        if (after >= length) after = length - 1;
      }
      if (stage === ATTACK) {
        envelope += attackStep;
        if (envelope >= 1) {
          envelope = 1;
          stage = HOLD;
        }
      } else if (stage === RELEASE) {
        envelope *= releaseFall;
      }
      const strength = envelope * amplitude;
      l1 += smoothing * (hermite(left[before], left[at], left[next], left[after], t) - l1);
      l2 += smoothing * (l1 - l2);
      stripLeft[i] += l2 * strength;
      if (mono) {
        stripRight[i] += l2 * strength;
      } else {
        r1 += smoothing * (hermite(right[before], right[at], right[next], right[after], t) - r1);
        r2 += smoothing * (r1 - r2);
        stripRight[i] += r2 * strength;
      }
      position += step;
      if (looped) {
        if (position >= loopStart) amplitude *= loopFall;
        if (position >= loopEnd) position -= loopLength;
      } else if (position >= length - 1) {
        stage = FREE;
        break;
      }
    }
    memory[v * 4] = l1;
    memory[v * 4 + 1] = l2;
    memory[v * 4 + 2] = r1;
    memory[v * 4 + 3] = r2;
    this.position[v] = position;
    this.envelope[v] = envelope;
    this.gain[v] = amplitude;
    const over = (stage === RELEASE && envelope < INAUDIBLE) || amplitude < INAUDIBLE * 0.01;
    this.stage[v] = over ? FREE : stage;
  }

  private carryOut(r: Float64Array): void {
    switch (r[0]) {
      case COMMAND.start:
        this.start(r[1], r[2], r[3], r[4], r[5], r[6], r[7], r[8], r[9]);
        break;
      case COMMAND.end:
        this.end(r[1]);
        break;
      case COMMAND.level:
        this.level[r[1]].to(r[2], r[3], this.time);
        break;
      case COMMAND.pan:
        this.pan[r[1]] = r[2];
        break;
      case COMMAND.send:
        this.sendGain[r[1] * BUSES + r[2]] = gainFromDb(r[3]);
        break;
      case COMMAND.bend:
        this.bendFactor[r[1]] = 2 ** (r[2] / 12);
        break;
      case COMMAND.modulation:
        this.modulation[r[1]].to(r[2], r[3], this.time);
        break;
      case COMMAND.expression:
        this.expression[r[1]].to(r[2], r[3], this.time);
        break;
      case COMMAND.reset:
        this.resetStrip(r[1]);
        break;
      case COMMAND.silence:
        for (let v = 0; v < VOICES; v++) if (this.stage[v] !== FREE) this.hush(v);
        for (const line of this.lines.values()) line.clear();
        break;
      case COMMAND.tone: {
        const rests = this.stripVoices[r[1]] === 0;
        this.lowShelf[r[1]].to(r[2], rests);
        this.highShelf[r[1]].to(r[3], rests);
        break;
      }
      case COMMAND.timbre:
        this.brightness[r[1]] = r[2];
        this.attack[r[1]] = r[3];
        this.release[r[1]] = r[4];
        this.vibrato[r[1]] = r[5];
        break;
    }
  }

  private resetStrip(s: number): void {
    for (let v = 0; v < VOICES; v++) if (this.strip[v] === s) this.stage[v] = FREE;
    this.level[s].to(SILENCE_DB, 0, this.time);
    this.modulation[s].to(0, 0, this.time);
    this.expression[s].to(1, 0, this.time);
    this.heardLeft[s] = 0;
    this.heardRight[s] = 0;
    this.pan[s] = 0;
    for (let bus = 0; bus < BUSES; bus++) {
      this.sendGain[s * BUSES + bus] = 0;
      this.heardSend[s * BUSES + bus] = 0;
    }
    for (const shelf of [this.lowShelf[s], this.highShelf[s]]) {
      shelf.to(0, true);
      shelf.rest();
    }
    this.brightness[s] = 0;
    this.attack[s] = 0;
    this.release[s] = 0;
    this.vibrato[s] = 0;
    this.meters[METER.stolenFrom + s] = 0;
    this.bendFactor[s] = 1;
    this.meters[s] = 0;
  }

  private start(
    id: number,
    strip: number,
    slot: number,
    instance: number,
    polyphony: number,
    note: number,
    velocity: number,
    gain: number,
    glide: number,
  ): void {
    const sound = this.sounds[slot];
    const zone = sound && zoneFor(sound.zones, note, velocity);
    if (!zone) return;
    if (polyphony === 1) {
      this.lineOf(instance).push(id, note);
      if (glide > 0 && this.slide(instance, id, strip, note, glide)) return;
      this.hushInstance(instance, strip);
    } else if (polyphony > 0) this.makeRoom(instance, polyphony);
    const v = this.freeVoice();
    const { voicing } = sound;
    const { sampleRate } = this;
    this.id[v] = id;
    this.strip[v] = strip;
    this.instance[v] = instance;
    this.zone[v] = zone;
    this.position[v] = 0;
    this.step[v] = this.stepOf(zone, note);
    this.glideBlocks[v] = 0;
    this.glideSeconds[v] = polyphony === 1 ? glide : -1;
    this.gain[v] =
      gain * gainFromDb(Math.max(SILENCE_DB + 1, (velocity / 127 - 1) * voicing.dynamics));
    this.envelope[v] = 0;
    this.stage[v] = ATTACK;
    const attack = attackSeconds(voicing, { attack: this.attack[strip] });
    this.attackStep[v] = 1 / Math.max(1, attack * sampleRate);
    const release = releaseSeconds(voicing, { release: this.release[strip] });
    this.releaseFall[v] = Math.exp(-FALL_60_DB / Math.max(1, release * sampleRate));
    this.loopFall[v] = 10 ** (-zone.loopDecay / 20 / sampleRate);
    this.cutoff[v] = voicing.brightness * 2 ** ((velocity / 127 - 1) * voicing.darkening);
    this.memory.fill(0, v * 4, v * 4 + 4);
    this.begun[v] = ++this.count;
    // A strip that was at rest starts at its level; only a sounding strip glides within the block.
    if (this.stripVoices[strip] === 0) this.wakeStrip(strip);
    this.stripVoices[strip]++;
  }

  private wakeStrip(s: number): void {
    const gain = gainFromDb(this.level[s].at(this.time)) * this.expression[s].at(this.time);
    const angle = ((this.pan[s] + 1) * Math.PI) / 4;
    this.heardLeft[s] = gain * Math.cos(angle) * Math.SQRT2;
    this.heardRight[s] = gain * Math.sin(angle) * Math.SQRT2;
    for (let bus = 0; bus < BUSES; bus++)
      this.heardSend[s * BUSES + bus] = this.sendGain[s * BUSES + bus];
    this.lowShelf[s].rest();
    this.highShelf[s].rest();
  }

  private stepOf(zone: Zone, note: number): number {
    return (zone.sampleRate / this.sampleRate) * 2 ** ((note - zone.rootKey) / 12);
  }

  private end(id: number): void {
    let sounding = -1;
    for (let v = 0; v < VOICES; v++)
      if (this.id[v] === id && (this.stage[v] === ATTACK || this.stage[v] === HOLD)) sounding = v;
    const mono = sounding >= 0 && this.glideSeconds[sounding] >= 0;
    for (const line of this.lines.values()) {
      if (!line.remove(id)) continue;
      // The note that is still held comes back.
      if (mono && line.note >= 0) {
        this.slideTo(sounding, line.id, line.note, this.glideSeconds[sounding]);
        return;
      }
    }
    if (sounding >= 0) this.stage[sounding] = RELEASE;
  }

  private lineOf(instance: number): HeldLine {
    let line = this.lines.get(instance);
    if (!line) {
      line = new HeldLine();
      this.lines.set(instance, line);
    }
    return line;
  }

  /** Takes the voice of a one-voice sound to another note; false when none sounds on that strip. */
  private slide(
    instance: number,
    id: number,
    strip: number,
    note: number,
    seconds: number,
  ): boolean {
    for (let v = 0; v < VOICES; v++) {
      if (this.instance[v] !== instance || this.strip[v] !== strip) continue;
      if (this.stage[v] !== ATTACK && this.stage[v] !== HOLD) continue;
      this.slideTo(v, id, note, seconds);
      return true;
    }
    return false;
  }

  private slideTo(v: number, id: number, note: number, seconds: number): void {
    const zone = this.zone[v];
    if (!zone) return;
    this.id[v] = id;
    this.stepGoal[v] = this.stepOf(zone, note);
    const blocks = Math.max(1, Math.round((seconds * this.sampleRate) / BLOCK));
    this.glideBlocks[v] = blocks;
    this.stepFactor[v] = (this.stepGoal[v] / this.step[v]) ** (1 / blocks);
  }

  /** Ends the voice of a one-voice sound. Taken from another layer it counts as stolen; within one it is just the next note. */
  private hushInstance(instance: number, strip: number): void {
    for (let v = 0; v < VOICES; v++) {
      if (this.instance[v] !== instance) continue;
      if (this.stage[v] !== ATTACK && this.stage[v] !== HOLD) continue;
      this.hush(v);
      if (this.strip[v] !== strip) this.countStolen(v);
    }
  }

  /** Ends the oldest voices of an instance until one more fits its polyphony. */
  private makeRoom(instance: number, polyphony: number): void {
    for (;;) {
      let used = 0;
      let oldest = -1;
      for (let v = 0; v < VOICES; v++) {
        if (this.instance[v] !== instance) continue;
        if (this.stage[v] !== ATTACK && this.stage[v] !== HOLD) continue;
        used++;
        if (oldest < 0 || this.begun[v] < this.begun[oldest]) oldest = v;
      }
      if (used < polyphony || oldest < 0) return;
      this.hush(oldest);
      this.countStolen(oldest);
    }
  }

  private countStolen(v: number): void {
    this.meters[METER.stolen]++;
    this.meters[METER.stolenFrom + this.strip[v]]++;
  }

  /** A free voice, else the oldest that is already going, else the oldest of all. */
  private freeVoice(): number {
    let best = 0;
    let bestRank = Infinity;
    for (let v = 0; v < VOICES; v++) {
      if (this.stage[v] === FREE) return v;
      const rank = this.begun[v] + (this.stage[v] === RELEASE ? 0 : 1e12);
      if (rank < bestRank) {
        bestRank = rank;
        best = v;
      }
    }
    this.countStolen(best);
    return best;
  }

  /** Lets a voice fall by 60 dB in eight milliseconds: as good as at once, without a click. */
  private hush(v: number): void {
    this.stage[v] = RELEASE;
    this.releaseFall[v] = Math.exp(-FALL_60_DB / (0.008 * this.sampleRate));
  }
}

/** Four-point, third-order Hermite interpolation between y0 and y1. */
function hermite(before: number, y0: number, y1: number, after: number, t: number): number {
  const c1 = 0.5 * (y1 - before);
  const c2 = before - 2.5 * y0 + 2 * y1 - 0.5 * after;
  const c3 = 0.5 * (after - before) + 1.5 * (y0 - y1);
  return ((c3 * t + c2) * t + c1) * t + y0;
}

function softClip(sample: number): number {
  const size = Math.abs(sample);
  if (size <= KNEE) return sample;
  const bent = KNEE + (1 - KNEE) * Math.tanh((size - KNEE) / (1 - KNEE));
  return sample < 0 ? -bent : bent;
}
