import { beatsOf, type Treatment } from '../model/treatment.js';
import { firstStep } from './show-clock.js';
import { Stage, type NoteSink, type StageSurroundings } from './stage.js';

type Settings = Extract<Treatment, { kind: 'arpeggio' }>;

interface HeldKey {
  id: number;
  key: number;
  velocity: number;
  gain: number;
  down: boolean;
}

interface Sounding {
  id: number;
  /** Beat at which it ends. */
  until: number;
}

/** Plays the keys that are held one after the other, or all at each step. */
export class ArpeggioStage extends Stage {
  /** In the order in which they were struck. */
  private readonly held: HeldKey[] = [];
  /** Sorted anew for every step; kept so that a step allocates nothing. */
  private readonly ordered: HeldKey[] = [];
  private readonly sounding: Sounding[] = [];
  private place = 0;
  /** The step that comes next, counted from beat 0. */
  private next = 0;
  private runs = false;

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
    if (step !== beatsOf(this.settings.rate) && this.runs)
      this.next = Math.ceil(this.around.clock.beats / step - 1e-9);
    const lettingGo = this.settings.hold && !settings.hold;
    this.settings = settings;
    if (lettingGo) this.letGo();
  }

  override letGo(): void {
    for (let i = this.held.length - 1; i >= 0; i--) if (!this.held[i].down) this.held.splice(i, 1);
    if (this.held.length === 0) this.stop();
  }

  override advance(): void {
    if (!this.runs) return;
    const step = beatsOf(this.settings.rate);
    const { beats } = this.around.clock;
    // After a pause of the machine the steps that were missed are left out, not caught up with.
    if (beats / step > this.next + 2) this.next = Math.floor(beats / step);
    this.endUntil(beats);
    while (this.runs && beats / step >= this.next - 1e-9) {
      this.playStep(this.next * step, step);
      this.next++;
    }
  }

  override stop(): void {
    this.held.length = 0;
    this.endUntil(Infinity);
    if (this.runs) this.around.clock.leave();
    this.runs = false;
    this.place = 0;
  }

  protected override get rests(): boolean {
    return this.held.length === 0 && this.sounding.length === 0;
  }

  protected override take(id: number, key: number, velocity: number, gain: number): void {
    const { clock } = this.around;
    if (this.settings.hold && !this.held.some((h) => h.down)) this.held.length = 0;
    const held = { id, key, velocity, gain, down: true };
    this.held.push(held);
    const step = beatsOf(this.settings.rate);
    if (!this.runs) {
      this.runs = true;
      clock.join();
      this.place = 0;
      this.next = firstStep(clock.beats, step);
      this.advance();
      return;
    }
    // The keys of a chord are never struck quite together; those that come a little late still belong to the step.
    const begun = this.next - 1;
    if (this.settings.order === 'chord' && firstStep(clock.beats, step) === begun)
      this.play(held, 0, begun * step, step);
  }

  protected override give(id: number): void {
    const at = this.held.findIndex((h) => h.id === id);
    if (at < 0) return;
    if (this.settings.hold) {
      this.held[at].down = false;
      return;
    }
    this.held.splice(at, 1);
    if (this.held.length === 0) this.stop();
  }

  private playStep(beat: number, step: number): void {
    const { order, octaves } = this.settings;
    const { ordered, held } = this;
    this.endUntil(beat);
    if (order === 'chord') {
      for (const key of held) this.play(key, 0, beat, step);
      return;
    }
    ordered.length = 0;
    for (const key of held) ordered.push(key);
    if (order !== 'as played') ordered.sort(byKey);
    const count = ordered.length * octaves;
    if (count === 0) return;
    const round = order === 'both' ? Math.max(1, 2 * count - 2) : count;
    const at = this.place++ % round;
    const index = order === 'down' ? count - 1 - at : at < count ? at : round - at;
    const octave = Math.floor(index / ordered.length);
    this.play(ordered[index % ordered.length], octave, beat, step);
  }

  private play({ key, velocity, gain }: HeldKey, octave: number, beat: number, step: number): void {
    const id = this.around.newId();
    this.sounding.push({ id, until: beat + step * this.settings.gate });
    this.sink.press(id, key + 12 * octave, velocity, gain);
  }

  private endUntil(beat: number): void {
    for (let i = this.sounding.length - 1; i >= 0; i--) {
      if (this.sounding[i].until > beat + 1e-9) continue;
      const [{ id }] = this.sounding.splice(i, 1);
      this.sink.release(id);
    }
  }
}

function byKey(a: HeldKey, b: HeldKey): number {
  return a.key - b.key || a.id - b.id;
}
