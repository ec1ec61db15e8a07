import { NOW, ShowClock } from '../clock/show-clock.js';
import type { Treatment } from '../model/patch/treatment.js';
import { Chain } from '../treatments/chain.js';
import type { Beats } from '../units/times.js';

/** A clock that counts those who need it. */
class CountingClock extends ShowClock {
  needs = 0;

  override join(): void {
    super.join();
    this.needs++;
  }

  override leave(): void {
    super.leave();
    this.needs--;
  }
}

/**
 * Treatments without a player, on a clock that runs at 120 beats a minute and that the test turns; it notes down what they hand
 * on. Beats are counted from the beginning of the test.
 */
export class ChainAlone {
  private seconds = 0;
  private made = 100;
  private readonly keys = new Map<number, number>();
  private told: string[] = [];
  /** Every note as it sounded: its key, and the beats at which it began and ended. */
  private readonly sounded = new Map<number, { key: number; from: Beats; until: Beats }>();
  /** Seconds between two looks at the clock. */
  tick = 0.004;
  private readonly clock = new CountingClock(() => this.seconds);
  private readonly chain: Chain;
  private readonly first: Beats;

  constructor(...treatments: Treatment[]) {
    this.clock.join();
    this.first = this.clock.beats;
    const at = (beat: Beats) => (beat === NOW ? '' : ` ${+(beat - this.first).toFixed(3)}`);
    this.chain = new Chain(
      treatments,
      {
        press: (id, key, _velocity, _gain, beat) => {
          this.keys.set(id, key);
          this.sounded.set(id, { key, from: this.beatOf(beat), until: Infinity });
          this.told.push(`+${key}${at(beat)}`);
        },
        release: (id, beat) => {
          this.told.push(`−${this.keys.get(id)}${at(beat)}`);
          const note = this.sounded.get(id);
          if (note) note.until = Math.min(note.until, this.beatOf(beat));
          if (note && note.until <= note.from) this.sounded.delete(id);
        },
        lean: (id, value) => this.told.push(`~${this.keys.get(id)} ${value}`),
      },
      { clock: this.clock, newId: () => ++this.made, scale: () => new Uint8Array(12) },
    );
  }

  /** Whether nothing is held and nothing sounds. */
  get idle(): boolean {
    return this.chain.idle;
  }

  /** Whether a treatment needs the clock. */
  get needsClock(): boolean {
    return this.clock.needs > 1;
  }

  /** Presses a key, at once or at a beat. */
  press(key: number, beat: Beats = NOW, velocity = 90): this {
    this.chain.press(key, key, velocity, 1, this.first + beat);
    return this;
  }

  release(key: number, beat: Beats = NOW): this {
    this.chain.release(key, this.first + beat);
    return this;
  }

  lean = (key: number, value: number) => (this.chain.lean(key, value), this);

  /** Goes on with other settings. */
  set(...treatments: Treatment[]): this {
    this.chain.set(treatments);
    return this;
  }

  /** Bars are counted from another beat on. */
  countBarsFrom(beat: Beats): this {
    this.clock.countFrom(this.first + beat);
    return this;
  }

  switchOff = (id: string) => (this.chain.switchOff(id), this);
  letGo = (id?: string) => (this.chain.letGo(id), this);
  stop = () => (this.chain.stop(), this);
  leave = () => (this.chain.leave(), this);

  /** Lets the clock go on to a beat, in steps of a player. */
  until(beat: Beats): this {
    const end = this.seconds + (this.first + beat - this.clock.beats) / 2;
    while (this.seconds < end - 1e-9) {
      this.seconds = Math.min(end, this.seconds + this.tick);
      this.chain.advance(this.clock.horizon);
    }
    return this;
  }

  /** The notes that sounded, as `key from–until`, in the order of their beginnings. */
  notes(): string[] {
    return [...this.sounded.values()]
      .sort((a, b) => a.from - b.from || a.key - b.key || a.until - b.until)
      .map(({ key, from, until }) => `${key} ${from.toFixed(3)}–${until.toFixed(3)}`);
  }

  private beatOf(beat: Beats): Beats {
    return Math.max(beat, this.clock.beats) - this.first;
  }

  /** What was handed on since it was asked last: keys with + or −, and their beats, or nothing for at once. */
  heard(): string[] {
    const { told } = this;
    this.told = [];
    return told;
  }
}
