import { NOW, type ShowClock } from '../../clock/show-clock.js';
import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import type { NoteSink } from '../../treatments/note-stage.js';
import type { Beats, Seconds } from '../../units/times.js';
import type { PlayerOutput } from './player-output.js';

/** Where a treated layer's notes go: its patch and layer, which are replaced when the patch is edited. */
export interface TreatedTarget {
  patch: CompiledPatch;
  layer: CompiledLayer;
}

/** A note at the end of a chain, with the beats at which it begins and ends. */
interface TimedVoice {
  patch: CompiledPatch;
  layer: CompiledLayer;
  note: number;
  velocity: number;
  gain: number;
  from: Beats;
  until: Beats;
}

/** Notes that are remembered before those that have ended are forgotten. */
const MOST_KNOWN = 64;

/**
 * The end of a layer's chain: turns beats into times and hands the notes over. What has not sounded yet is taken back when
 * it is ended before its time, and handed over anew when the tempo changes.
 */
export class TimedVoices implements NoteSink {
  private readonly voices = new Map<number, TimedVoice>();

  constructor(
    private readonly target: TreatedTarget,
    private readonly output: PlayerOutput,
    private readonly clock: ShowClock,
  ) {}

  /** True when none of its notes is still to begin or to end. */
  get rest(): boolean {
    this.forgetEnded();
    return this.voices.size === 0;
  }

  press(id: number, key: number, velocity: number, gain: number, beat: Beats): void {
    const { patch, layer } = this.target;
    const note = key + layer.shift;
    const touched = layer.touch[velocity];
    if (note < 0 || note > 127 || touched === 0) return;
    const voice = { patch, layer, note, velocity: touched, gain, from: beat, until: Infinity };
    if (this.voices.size >= MOST_KNOWN) this.forgetEnded();
    this.voices.set(id, voice);
    this.start(id, voice, beat === NOW ? 0 : this.clock.timeAt(beat));
  }

  release(id: number, beat: Beats): void {
    const voice = this.voices.get(id);
    if (!voice) return;
    const now = this.clock.beats;
    if (voice.until <= now) {
      this.voices.delete(id);
    } else if (beat <= now || beat <= voice.from) {
      // What would end before it begins does not come at all.
      this.callOff(id);
    } else {
      voice.until = beat;
      this.output.end(id, this.clock.timeAt(beat));
    }
  }

  lean(id: number, value: number): void {
    if (this.voices.has(id)) this.output.voicePressure(id, value);
  }

  /** Takes a note back. Clocks are never quite together: one that has begun already for whoever sounds it ends now. */
  private callOff(id: number): void {
    this.voices.delete(id);
    this.output.takeBack(id);
    this.output.end(id, 0);
  }

  /** The tempo has changed: what is still to come comes at another time. */
  retime(): void {
    const { clock } = this;
    const now = clock.beats;
    for (const [id, { from, until }] of this.voices) {
      if (until <= now) this.voices.delete(id);
      else
        this.output.retime(
          id,
          from === NOW ? 0 : clock.timeAt(from),
          until < Infinity ? clock.timeAt(until) : Infinity,
        );
    }
  }

  private forgetEnded(): void {
    const { beats } = this.clock;
    for (const [id, voice] of this.voices) if (voice.until <= beats) this.voices.delete(id);
  }

  private start(id: number, voice: TimedVoice, at: Seconds): void {
    const { patch, layer, note, velocity, gain } = voice;
    this.output.start(id, patch, layer, note, velocity, { gain, at });
  }
}
