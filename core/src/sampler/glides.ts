import { SILENCE_DB } from '../units/decibels.js';

/**
 * Many values on their way, each as {@link Glide} goes, in fixed tables: the audio side asks for hundreds of them a block, and a
 * fraction that one function hands to another would be an object.
 */
export class Glides {
  /** Where each was when it was last {@link look looked} at. */
  readonly value: Float64Array;
  /** Where each goes, and in how many seconds (0 is at once): to be set after {@link setOff}. */
  readonly target: Float64Array;
  readonly seconds: Float64Array;
  private readonly from: Float64Array;
  private readonly start: Float64Array;

  /** @param moment its first number is the time that is looked at, seconds */
  constructor(
    count: number,
    atRest: number,
    private readonly moment: Float64Array,
  ) {
    const table = () => new Float64Array(count);
    this.from = table().fill(atRest);
    this.target = table().fill(atRest);
    this.value = table().fill(atRest);
    this.start = table();
    this.seconds = table();
  }

  /** Puts where one is at the moment into {@link value}; true once it is there. */
  look(i: number): boolean {
    const gone = this.moment[0] - this.start[i];
    const { value, from, target, seconds } = this;
    const isThere = gone >= seconds[i];
    if (isThere) value[i] = target[i];
    else if (gone <= 0) value[i] = from[i];
    else value[i] = from[i] + ((target[i] - from[i]) * gone) / seconds[i];
    return isThere || from[i] === target[i];
  }

  /** Seconds until one is there. */
  left(i: number): number {
    return Math.max(0, this.start[i] + this.seconds[i] - this.moment[0]);
  }

  /** Puts the linear gain of one that is a level in dB into {@link value}: what `gainFromDb` says, without handing a fraction over. */
  lookAsGain(i: number): void {
    this.look(i);
    const level = this.value[i];
    this.value[i] = level <= SILENCE_DB ? 0 : 10 ** (level / 20);
  }

  /** Lets one begin at the moment from wherever it is; where to, and how long it takes, is set by the caller. */
  setOff(i: number): void {
    this.look(i);
    this.from[i] = this.value[i];
    this.start[i] = this.moment[0];
  }

  /** Puts one to rest at a value. */
  rest(i: number, value: number): void {
    this.from[i] = value;
    this.target[i] = value;
    this.seconds[i] = 0;
    this.start[i] = this.moment[0];
  }
}
