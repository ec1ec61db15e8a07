/** Beats are quarter notes; times are seconds on the clock that is passed in. */
export class ShowClock {
  private beatsThen = 0;
  private then = 0;
  private beatsPerMinute = 120;
  private users = 0;

  /** @param now the present time in seconds; it never runs backwards */
  constructor(private readonly now: () => number) {}

  /** Beats per minute. A change of tempo goes on from the beat that has been reached. */
  get tempo(): number {
    return this.beatsPerMinute;
  }

  set tempo(tempo: number) {
    this.beatsThen = this.beats;
    this.then = this.now();
    this.beatsPerMinute = tempo;
  }

  /** Beats since the clock began. */
  get beats(): number {
    return this.beatsThen + ((this.now() - this.then) * this.beatsPerMinute) / 60;
  }

  /** True while something runs on the clock. */
  get isRunning(): boolean {
    return this.users > 0;
  }

  /** Something begins to run. The first one starts the clock anew, so that it need not wait for a beat. */
  join(): void {
    if (this.users++ > 0) return;
    this.beatsThen = 0;
    this.then = this.now();
  }

  /** Something has stopped running. */
  leave(): void {
    this.users--;
  }
}

/** The part of a step by which a note may be late and still counts as on it. */
const LATE = 1 / 3;

/** The step on which something struck now begins: the one just begun, or the next; counted in steps from beat 0. */
export function firstStep(beats: number, stepBeats: number): number {
  const steps = beats / stepBeats;
  const begun = Math.floor(steps + 1e-9);
  return steps - begun <= LATE ? begun : begun + 1;
}
