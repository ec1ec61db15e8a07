import { NOW } from '../clock/show-clock.js';
import { beatsOf, type Treatment } from '../model/patch/treatment.js';
import { beatsOfSeconds, type Beats, type Seconds } from '../units/times.js';
import { NotesUntil, NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'strum' }>;

/** Notes struck within this time of the first are one chord: hands are never quite together. */
const TOGETHER: Seconds = 0.02;
/** The least that a note lasts whose key was let go before its turn came. */
const SHORTEST: Seconds = 0.04;

interface Gathered {
  id: number;
  key: number;
  velocity: number;
  gain: number;
  /** When it was struck. */
  beat: Beats;
  /** When its key is let go, as far as that is known already. */
  until: Beats | null;
}

/** A note that waits for its turn: at a beat, or at a time where the strum is so many milliseconds long, whatever the tempo does. */
interface Turn extends Gathered {
  at: Beats | null;
  atTime: Seconds;
}

/** Spreads the notes of a chord over some time, one after the other. */
export class StrumStage extends NoteStage {
  /** The chord that is being struck, until it is complete. */
  private readonly chord: Gathered[] = [];
  /** Notes of chords that are being spread, whose turn is still to come. */
  private readonly turns: Turn[] = [];
  /** When it is complete. */
  private due: Beats = 0;
  /** Whether it came in ahead of its time, from a treatment on the clock. */
  private isAhead = false;
  /** When the last note that was spread begins: so long the clock is needed. */
  private lastBegins: Beats = NOW;
  private runs = false;
  /** Notes that were handed on, with the beats at which each was struck and begins. */
  private readonly begun: NotesUntil<{ struck: Beats; begins: Beats }>;

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
    this.begun = new NotesUntil(around.clock);
  }

  /** Goes on with other settings; what was struck stays as it is. */
  set(settings: Settings): void {
    this.settings = settings;
  }

  override advance(until: Beats): void {
    const { beats } = this.around.clock;
    // What a hand strikes is not spread ahead of its time: fingers that are still to come belong to it.
    if (this.chord.length > 0 && this.due <= (this.isAhead ? until : beats)) this.spread();
    this.takeTurns(until);
    const waits = this.chord.length > 0 || this.turns.length > 0;
    if (this.runs && !waits && this.lastBegins <= beats) this.rest();
  }

  override stop(): void {
    this.chord.length = 0;
    this.turns.length = 0;
    for (const [id] of this.begun.take()) this.sink.release(id, NOW);
    if (this.runs) this.rest();
  }

  protected override get rests(): boolean {
    // It counts on the clock until the last note would have begun, though that was called off: nobody else sees it off.
    return !this.runs && this.begun.rest;
  }

  protected override take(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    const { clock } = this.around;
    if (!this.runs) clock.join();
    this.runs = true;
    const at = this.beatOf(beat);
    if (at > this.due) this.spread();
    if (this.chord.length === 0) {
      this.due = at + beatsOfSeconds(TOGETHER, clock.tempo);
      this.isAhead = at > clock.beats;
    }
    this.chord.push({ id, key, velocity, gain, beat: at, until: null });
  }

  protected override give(id: number, beat: Beats): void {
    const turn = this.turns.find((note) => note.id === id);
    if (turn) {
      // What has not been struck yet does not come; a chord that has been is heard whole.
      if (turn.beat > this.beatOf(beat)) this.turns.splice(this.turns.indexOf(turn), 1);
      else turn.until ??= beat;
      return;
    }
    const at = this.chord.findIndex((note) => note.id === id);
    if (at >= 0) {
      const note = this.chord[at];
      const lifted = this.beatOf(beat);
      // What has not been struck yet does not come.
      if (note.beat > lifted) this.chord.splice(at, 1);
      else note.until = beat;
      // A key that is let go ends the gathering: the chord was that short.
      if (note.beat <= lifted && lifted <= this.due) this.spread();
      return;
    }
    this.end(id, beat);
  }

  private end(id: number, beat: Beats): void {
    const { clock } = this.around;
    const note = this.begun.find(id);
    if (!note) return;
    const earliest = note.begins + beatsOfSeconds(SHORTEST, clock.tempo);
    const isAtOnce = beat === NOW && earliest <= clock.beats;
    const ends = isAtOnce || note.struck > this.beatOf(beat) ? NOW : Math.max(beat, earliest);
    this.begun.end(id, ends);
    this.sink.release(id, ends);
  }

  /** Gives each note of the chord that was gathered its turn, spread over the strum’s time. */
  private spread(): void {
    const { order, over } = this.settings;
    const { clock } = this.around;
    this.chord.sort((a, b) => (order === 'up' ? a.key - b.key : b.key - a.key));
    const from = Math.max(clock.beats, ...this.chord.map(({ beat }) => beat));
    const gaps = Math.max(1, this.chord.length - 1);
    const begun = clock.timeAt(from);
    this.chord.splice(0).forEach((note, place) => {
      if (typeof over === 'number')
        this.turns.push({ ...note, at: null, atTime: begun + (place * over) / 1000 / gaps });
      else this.turns.push({ ...note, at: from + (place * beatsOf(over)) / gaps, atTime: 0 });
    });
    this.takeTurns(clock.horizon);
  }

  /** Strikes what is due up to a beat. */
  private takeTurns(until: Beats): void {
    const { clock } = this.around;
    for (let i = 0; i < this.turns.length;) {
      const { id, key, velocity, gain, beat, until: lifted, at, atTime } = this.turns[i];
      const begins = at ?? clock.beatsAt(atTime);
      if (begins > until) {
        i++;
        continue;
      }
      this.turns.splice(i, 1);
      this.begun.begin(id, { struck: beat, begins });
      this.sink.press(id, key, velocity, gain, begins);
      this.lastBegins = Math.max(this.lastBegins, begins);
      if (lifted !== null) this.end(id, lifted);
    }
  }

  private rest(): void {
    this.runs = false;
    this.around.clock.leave();
  }
}
