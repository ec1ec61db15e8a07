import { NOW, type ShowClock } from '../../clock/show-clock.js';
import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import type { NoteSink } from '../../treatments/note-stage.js';
import type { Beats } from '../../units/times.js';
import type { Onset, PlayerOutput } from './player-output.js';

/** Where a treated layer's notes go: its patch and layer, which are replaced when the patch is edited. */
export interface TreatedTarget {
  patch: CompiledPatch;
  layer: CompiledLayer;
}

/** Notes that there is room for at first. */
const ROOM = 64;

/**
 * The end of a layer's chain: turns beats into times and hands the notes over. What has not sounded yet is taken back when
 * it is ended before its time, and handed over anew when the tempo changes.
 */
export class TimedVoices implements NoteSink {
  /** Notes that are still to end, in tables, so that a note allocates nothing: id, and the beats at which it begins and ends. */
  private ids = new Float64Array(ROOM);
  private from = new Float64Array(ROOM);
  private until = new Float64Array(ROOM);
  private count = 0;
  private readonly onset: Onset = { gain: 1, at: 0 };

  constructor(
    private readonly target: TreatedTarget,
    private readonly output: PlayerOutput,
    private readonly clock: ShowClock,
  ) {}

  /** True when none of its notes is still to begin or to end. */
  get rest(): boolean {
    this.forgetEnded();
    return this.count === 0;
  }

  press(id: number, key: number, velocity: number, gain: number, beat: Beats): void {
    const { patch, layer } = this.target;
    const note = key + layer.shift;
    const touched = layer.touch[velocity];
    if (note < 0 || note > 127 || touched === 0) return;
    if (this.count === this.ids.length) this.makeRoom();
    const at = this.count++;
    this.ids[at] = id;
    this.from[at] = beat;
    this.until[at] = Infinity;
    const { onset } = this;
    onset.gain = gain;
    onset.at = beat === NOW ? 0 : this.clock.timeAt(beat);
    this.output.start(id, patch, layer, note, touched, onset);
  }

  release(id: number, beat: Beats): void {
    const at = this.find(id);
    if (at < 0) return;
    const now = this.clock.beats;
    if (this.until[at] <= now) {
      this.forget(at);
    } else if (beat <= now || beat <= this.from[at]) {
      // What would end before it begins does not come at all.
      this.callOff(at);
    } else {
      this.until[at] = beat;
      this.output.end(id, this.clock.timeAt(beat));
    }
  }

  lean(id: number, value: number): void {
    if (this.find(id) >= 0) this.output.voicePressure(id, value);
  }

  /** Takes a note back. Clocks are never quite together: one that has begun already for whoever sounds it ends now. */
  private callOff(at: number): void {
    const id = this.ids[at];
    this.forget(at);
    this.output.takeBack(id);
    this.output.end(id, 0);
  }

  /** The tempo has changed: what is still to come comes at another time. */
  retime(): void {
    const { clock } = this;
    this.forgetEnded();
    for (let i = 0; i < this.count; i++) {
      const [from, until] = [this.from[i], this.until[i]];
      this.output.retime(
        this.ids[i],
        from === NOW ? 0 : clock.timeAt(from),
        until < Infinity ? clock.timeAt(until) : Infinity,
      );
    }
  }

  private forgetEnded(): void {
    const { beats } = this.clock;
    for (let i = this.count - 1; i >= 0; i--) if (this.until[i] <= beats) this.forget(i);
  }

  private find(id: number): number {
    for (let i = this.count - 1; i >= 0; i--) if (this.ids[i] === id) return i;
    return -1;
  }

  /** The last one takes its place: their order means nothing. */
  private forget(at: number): void {
    const last = --this.count;
    this.ids[at] = this.ids[last];
    this.from[at] = this.from[last];
    this.until[at] = this.until[last];
  }

  private makeRoom(): void {
    this.forgetEnded();
    if (this.count < this.ids.length) return;
    this.ids = twice(this.ids);
    this.from = twice(this.from);
    this.until = twice(this.until);
  }
}

function twice(table: Float64Array<ArrayBuffer>): Float64Array<ArrayBuffer> {
  const larger = new Float64Array(table.length * 2);
  larger.set(table);
  return larger;
}
