import type { Zone } from '../synthesis/zone.js';

/** Voices that play at one time; the oldest gives way beyond that. */
export const MOST_VOICES = 128;
/** Places for voices: as many again as play, in which those that gave way fade out. */
export const VOICES = 2 * MOST_VOICES;

/* How a voice stands. */
export const FREE = 0;
export const ATTACK = 1;
export const HOLD = 2;
export const RELEASE = 3;
export const CUT = 4;
/** Falling to the sustain level. */
export const DECAY = 5;

/** What is known of voices, in fixed tables, and what can be asked of it. */
export class VoiceTables {
  readonly id = new Float64Array(VOICES);
  readonly strip = new Int16Array(VOICES);
  readonly instance = new Int32Array(VOICES);
  readonly slot = new Int32Array(VOICES);
  readonly velocity = new Float64Array(VOICES);
  /** 1 for those that play to their end, whenever the key is let go. */
  readonly oneShot = new Uint8Array(VOICES);
  /** The group of the sound of which each is cut off by another; 0 for none. */
  readonly choke = new Uint8Array(VOICES);
  readonly glideSeconds = new Float64Array(VOICES);
  /** Where in its swing the vibrato of each is, radians, and how quick it is: no two hands tremble alike. */
  readonly vibratoPhase = new Float64Array(VOICES);
  readonly vibratoRate = new Float64Array(VOICES);
  /** Vibrato depth 0–1 that a key’s own aftertouch adds. */
  readonly pressure = new Float64Array(VOICES);
  /** Places of its recording that each goes on by with every frame, as far as it has glided. */
  readonly step = new Float64Array(VOICES);
  /** Factors on the step of each and on the cut-off of its low-pass, for what is rendered next. */
  readonly pitch = new Float64Array(VOICES).fill(1);
  readonly opened = new Float64Array(VOICES).fill(1);
  /** The voice that gave way to the one placed last; −1 for none. */
  stolen = -1;
  protected readonly stage = new Uint8Array(VOICES);
  protected readonly zone: (Zone | null)[] = new Array<Zone | null>(VOICES).fill(null);
  protected readonly position = new Float64Array(VOICES);
  /** While it glides: the step it goes to, the factor a frame, and the frames that are left. */
  protected readonly stepGoal = new Float64Array(VOICES);
  protected readonly stepFactor = new Float64Array(VOICES);
  protected readonly glideFrames = new Float64Array(VOICES);
  protected readonly gain = new Float64Array(VOICES);
  protected readonly envelope = new Float64Array(VOICES);
  protected readonly attackStep = new Float64Array(VOICES);
  protected readonly releaseFall = new Float64Array(VOICES);
  /** Frames that each still stays at full, the factor a frame by which it falls then, and what it falls to. */
  protected readonly holdLeft = new Float64Array(VOICES);
  protected readonly decayFall = new Float64Array(VOICES);
  protected readonly sustain = new Float64Array(VOICES);
  protected readonly loopFall = new Float64Array(VOICES);
  protected readonly cutoff = new Float64Array(VOICES);
  protected readonly begun = new Float64Array(VOICES);
  /** While it is cut: the envelope it fades from, frames since, and the envelope that it has come to. */
  protected readonly cutFrom = new Float64Array(VOICES);
  protected readonly cutDone = new Float64Array(VOICES);
  protected readonly cutTo = new Float64Array(VOICES);

  isSounding(v: number): boolean {
    return this.stage[v] !== FREE;
  }

  /** The key of a note is leant on: vibrato depth 0…1 that every voice of it adds. */
  lean(id: number, depth: number): void {
    for (let v = 0; v < VOICES; v++)
      if (this.id[v] === id && this.isSounding(v)) this.pressure[v] = depth;
  }

  /** True until it is let go. */
  isHeld(v: number): boolean {
    const stage = this.stage[v];
    return stage === ATTACK || stage === HOLD || stage === DECAY;
  }

  /** When it began, counted in voices. */
  ageOf(v: number): number {
    return this.begun[v];
  }

  /** Whether a note holds any voice. */
  holds(id: number): boolean {
    for (let v = 0; v < VOICES; v++) if (this.id[v] === id && this.isHeld(v)) return true;
    return false;
  }

  /** Whether a note holds a voice of a zone. */
  plays(id: number, zone: Zone): boolean {
    for (let v = 0; v < VOICES; v++)
      if (this.id[v] === id && this.isHeld(v) && this.zone[v] === zone) return true;
    return false;
  }

  /** Of the held voices of a note the first stands for it where notes are counted. */
  isFirstOfNote(v: number): boolean {
    for (let before = 0; before < v; before++)
      if (this.id[before] === this.id[v] && this.isHeld(before)) return false;
    return true;
  }

  zoneOf(v: number): Zone | null {
    return this.zone[v];
  }
}
