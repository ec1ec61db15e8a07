import { gainFromDb, SILENCE_DB } from '../range/decibels.js';
import { Glide } from '../setlist/glide.js';
import { zoneFor, type Voicing, type Zone } from '../synthesis/zone.js';
import { COMMAND, RECORD, type CommandRing } from './command-ring.js';

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

/** Where a block goes: the mix and what is sent to the shared reverb, both stereo. */
export interface EngineOutput {
  left: Float32Array;
  right: Float32Array;
  reverbLeft: Float32Array;
  reverbRight: Float32Array;
}

/** Numbers that the engine shows to views: one peak per strip, then these. */
export const METER = { voices: STRIPS, stolen: STRIPS + 1, blocks: STRIPS + 2 } as const;
export const METERS = STRIPS + 3;

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
 * Plays zones. One strip a layer: voices ─► strip (level, pan, expression) ─► mix, reverb send.
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
  private readonly gain = new Float64Array(VOICES);
  private readonly envelope = new Float64Array(VOICES);
  private readonly attackStep = new Float64Array(VOICES);
  private readonly releaseFall = new Float64Array(VOICES);
  private readonly loopFall = new Float64Array(VOICES);
  private readonly smoothing = new Float64Array(VOICES);
  private readonly memory = new Float64Array(VOICES * 4);
  private readonly begun = new Float64Array(VOICES);
  private count = 0;

  private readonly level: Glide[] = [];
  private readonly modulation: Glide[] = [];
  private readonly expression: Glide[] = [];
  private readonly heardGain = new Float64Array(STRIPS);
  private readonly pan = new Float64Array(STRIPS);
  private readonly reverbGain = new Float64Array(STRIPS);
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
    }
  }

  /** Puts a sound into a slot. Voices that play the slot's old zones go on. */
  load(slot: number, sound: LoadedSound): void {
    this.sounds[slot] = sound;
  }

  /** Renders the next {@link BLOCK} frames, after carrying out every waiting command. The output is overwritten. */
  render(output: EngineOutput): void {
    while (this.commands.read(this.record)) this.carryOut(this.record);
    output.left.fill(0);
    output.right.fill(0);
    output.reverbLeft.fill(0);
    output.reverbRight.fill(0);
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
      output.left[i] = softClip(output.left[i]);
      output.right[i] = softClip(output.right[i]);
    }
    this.meters[METER.voices] = sounding;
    this.meters[METER.blocks]++;
  }

  private renderStrip(s: number, vibrato: number, output: EngineOutput): void {
    const from = this.heardGain[s];
    const to = gainFromDb(this.level[s].at(this.time)) * this.expression[s].at(this.time);
    this.heardGain[s] = to;
    // Meters fall by themselves, about 20 dB a second.
    let peak = this.meters[s] * 0.994;
    if (this.stripVoices[s] > 0) {
      const { stripLeft, stripRight } = this;
      stripLeft.fill(0);
      stripRight.fill(0);
      const pitch = this.bendFactor[s] * (1 + vibrato * this.modulation[s].at(this.time));
      for (let v = 0; v < VOICES; v++)
        if (this.stage[v] !== FREE && this.strip[v] === s) this.renderVoice(v, pitch);
      const angle = ((this.pan[s] + 1) * Math.PI) / 4;
      const toLeft = Math.cos(angle) * Math.SQRT2;
      const toRight = Math.sin(angle) * Math.SQRT2;
      const send = this.reverbGain[s];
      for (let i = 0; i < BLOCK; i++) {
        const gain = from + ((to - from) * (i + 1)) / BLOCK;
        const left = stripLeft[i] * gain * toLeft;
        const right = stripRight[i] * gain * toRight;
        output.left[i] += left;
        output.right[i] += right;
        output.reverbLeft[i] += left * send;
        output.reverbRight[i] += right * send;
        const size = Math.max(Math.abs(left), Math.abs(right));
        if (size > peak) peak = size;
      }
    }
    this.meters[s] = peak < 1e-6 ? 0 : peak;
  }

  private renderVoice(v: number, pitch: number): void {
    const zone = this.zone[v];
    if (!zone) return;
    const { left, right, loopStart, loopEnd } = zone;
    const mono = left === right;
    const { stripLeft, stripRight, memory } = this;
    const length = left.length;
    const looped = loopEnd > 0;
    const loopLength = loopEnd - loopStart;
    const step = this.step[v] * pitch;
    const gain = this.gain[v];
    const smoothing = this.smoothing[v];
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
        this.start(r[1], r[2], r[3], r[4], r[5], r[6], r[7], r[8]);
        break;
      case COMMAND.end:
        for (let v = 0; v < VOICES; v++)
          if (this.id[v] === r[1] && this.stage[v] !== FREE) this.stage[v] = RELEASE;
        break;
      case COMMAND.level:
        this.level[r[1]].to(r[2], r[3], this.time);
        break;
      case COMMAND.pan:
        this.pan[r[1]] = r[2];
        break;
      case COMMAND.send:
        this.reverbGain[r[1]] = gainFromDb(r[2]);
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
        break;
    }
  }

  private resetStrip(s: number): void {
    for (let v = 0; v < VOICES; v++) if (this.strip[v] === s) this.stage[v] = FREE;
    this.level[s].to(SILENCE_DB, 0, this.time);
    this.modulation[s].to(0, 0, this.time);
    this.expression[s].to(1, 0, this.time);
    this.heardGain[s] = 0;
    this.pan[s] = 0;
    this.reverbGain[s] = 0;
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
  ): void {
    const sound = this.sounds[slot];
    const zone = sound && zoneFor(sound.zones, note, velocity);
    if (!zone) return;
    if (polyphony > 0) this.makeRoom(instance, polyphony);
    const v = this.freeVoice();
    const { voicing } = sound;
    const { sampleRate } = this;
    this.id[v] = id;
    this.strip[v] = strip;
    this.instance[v] = instance;
    this.zone[v] = zone;
    this.position[v] = 0;
    this.step[v] = (zone.sampleRate / sampleRate) * 2 ** ((note - zone.rootKey) / 12);
    this.gain[v] =
      gain * gainFromDb(Math.max(SILENCE_DB + 1, (velocity / 127 - 1) * voicing.dynamics));
    this.envelope[v] = 0;
    this.stage[v] = ATTACK;
    this.attackStep[v] = 1 / Math.max(1, voicing.attack * sampleRate);
    this.releaseFall[v] = Math.exp(-FALL_60_DB / Math.max(1, voicing.release * sampleRate));
    this.loopFall[v] = 10 ** (-zone.loopDecay / 20 / sampleRate);
    const cutoff = voicing.brightness * 2 ** ((velocity / 127 - 1) * voicing.darkening);
    this.smoothing[v] = 1 - Math.exp((-2 * Math.PI * cutoff) / sampleRate);
    this.memory.fill(0, v * 4, v * 4 + 4);
    this.begun[v] = ++this.count;
    // A strip that was at rest starts at its level; only a sounding strip glides within the block.
    if (this.stripVoices[strip] === 0)
      this.heardGain[strip] =
        gainFromDb(this.level[strip].at(this.time)) * this.expression[strip].at(this.time);
    this.stripVoices[strip]++;
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
      this.meters[METER.stolen]++;
    }
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
    this.meters[METER.stolen]++;
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
