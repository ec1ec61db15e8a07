import { beatsOf, type Treatment } from '../model/treatment.js';
import { firstStep } from './show-clock.js';
import { Stage, type NoteSink, type StageSurroundings } from './stage.js';

type Settings = Extract<Treatment, { kind: 'repeat' }>;

interface Repeated {
  id: number;
  key: number;
  velocity: number;
  gain: number;
  /** The note that sounds now, or −1, and the beat at which it ends. */
  sounding: number;
  until: number;
  next: number;
}

/** Strikes every held key again on each step. */
export class RepeatStage extends Stage {
  private readonly held: Repeated[] = [];

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
  }

  /** Goes on with other settings. */
  set(settings: Settings): void {
    const step = beatsOf(settings.rate);
    if (step !== beatsOf(this.settings.rate))
      for (const key of this.held) key.next = Math.ceil(this.around.clock.beats / step - 1e-9);
    this.settings = settings;
  }

  override advance(): void {
    const step = beatsOf(this.settings.rate);
    const { beats } = this.around.clock;
    for (const key of this.held) {
      if (key.sounding >= 0 && key.until <= beats + 1e-9) this.end(key);
      if (beats / step > key.next + 2) key.next = Math.floor(beats / step);
      if (beats / step < key.next - 1e-9) continue;
      if (key.sounding >= 0) this.end(key);
      this.strike(key, key.next * step, step);
      key.next++;
    }
  }

  override stop(): void {
    for (const key of this.held) {
      this.end(key);
      this.around.clock.leave();
    }
    this.held.length = 0;
  }

  protected override get rests(): boolean {
    return this.held.length === 0;
  }

  protected override take(id: number, key: number, velocity: number, gain: number): void {
    const { clock } = this.around;
    clock.join();
    const step = beatsOf(this.settings.rate);
    const { beats } = clock;
    const next = firstStep(beats, step);
    const repeated = { id, key, velocity, gain, sounding: -1, until: 0, next };
    this.held.push(repeated);
    // A key answers at once; only its repeats wait for the clock.
    this.strike(repeated, Math.max(beats, next * step), step);
    if (next * step <= beats + 1e-9) repeated.next = next + 1;
  }

  protected override give(id: number): void {
    const at = this.held.findIndex((h) => h.id === id);
    if (at < 0) return;
    const [key] = this.held.splice(at, 1);
    this.end(key);
    this.around.clock.leave();
  }

  private strike(key: Repeated, beat: number, step: number): void {
    key.sounding = this.around.newId();
    key.until = beat + step * this.settings.gate;
    this.sink.press(key.sounding, key.key, key.velocity, key.gain);
  }

  private end(key: Repeated): void {
    if (key.sounding < 0) return;
    const ended = key.sounding;
    key.sounding = -1;
    this.sink.release(ended);
  }
}
