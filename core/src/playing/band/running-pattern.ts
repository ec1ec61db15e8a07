import { NOW, type ShowClock } from '../../clock/show-clock.js';
import type { ReadyPattern } from '../../patterns/ready-pattern.js';
import type { ReadyAccompanist } from '../../patterns/compiled-band.js';
import type { CompiledPatch } from '../../routing/compile.js';
import type { Beats } from '../../units/times.js';
import type { NoteSource } from '../notes/source-notes.js';
import type { FollowedChord } from './followed-chord.js';

/** What carries the notes of patterns out. Beats are those of the show’s clock; {@link NOW} is at once. */
export interface BandOutput {
  /** Has a note of a pattern played from a beat to another. */
  playNote(source: NoteSource, key: number, velocity: number, from: Beats, until: Beats): void;
  /** Ends at a beat what a pattern has begun; what would begin later does not come. */
  endSource(source: NoteSource, at: Beats): void;
  /** Takes back what has not begun. */
  takeBack(source: NoteSource): void;
}

/** Two places are one when they lie nearer than this. */
const CLOSE: Beats = 1e-9;

/**
 * A pattern that plays, or waits for its beat. Its notes are worked out a little ahead and handed over with their beats.
 *
 *     origin         origin + round              until
 *     ├─ round 0 ────┼─ round 1 ─────┼─ …        ┤
 */
export class RunningPattern implements NoteSource {
  /** Where it ends; what sounds there ends with it. */
  until: Beats = Infinity;
  /** Beats of the clock for one of its own. */
  private scale = 1;
  private round = 0;
  private index = 0;
  /** Whether what sounds has been told to end where it ends. */
  private isCut = false;
  /** The beat up to which notes have been handed over. */
  private handedTo: Beats = -Infinity;

  constructor(
    public patch: CompiledPatch,
    public accompanist: ReadyAccompanist,
    public ready: ReadyPattern,
    /** The beat of the clock at which it begins, or began. */
    public origin: Beats,
    private readonly clock: ShowClock,
    private readonly output: BandOutput,
    private readonly chord: FollowedChord,
    /** Rounds that it plays; infinite unless it plays so many. */
    private readonly rounds = Infinity,
  ) {
    this.scale = this.scaleNow();
    this.until = this.lastBeat;
  }

  /** Where its rounds are through. */
  private get lastBeat(): Beats {
    return this.origin + this.rounds * this.roundBeats;
  }

  get layerIds(): ReadonlySet<string> {
    return this.accompanist.layerIds;
  }

  get isKit(): boolean {
    return this.ready.tonic < 0;
  }

  /** Whether it has begun at a beat. */
  hasBegun(beat: Beats): boolean {
    return this.origin <= beat + CLOSE;
  }

  /** It ends before its rounds are through. */
  get isEnding(): boolean {
    return this.until < this.lastBeat;
  }

  /** Beats of the clock that a round of it lasts. */
  get roundBeats(): Beats {
    return this.ready.round * this.scale;
  }

  /** The end of the round that it is in at a beat. */
  throughAt(beat: Beats): Beats {
    const rounds = Math.floor((beat - this.origin) / this.roundBeats + CLOSE) + 1;
    return this.origin + Math.max(1, rounds) * this.roundBeats;
  }

  /** How far it is in its round at a beat, 0 … 1. */
  placeAt(beat: Beats): number {
    const rounds = (beat - this.origin) / this.roundBeats;
    return rounds < 0 ? 0 : rounds - Math.floor(rounds);
  }

  /** Hands over what begins up to a beat. */
  advance(horizon: Beats): void {
    const { ready } = this;
    const { beats: now } = this.clock;
    if (this.until <= horizon && !this.isCut) {
      this.isCut = true;
      this.output.endSource(this, this.until);
    }
    if (ready.count === 0) return;
    this.skipLongPast(now);
    for (;;) {
      const at = this.beatOfNext();
      if (at > horizon || at >= this.until - CLOSE) break;
      const { index } = this;
      if (++this.index === ready.count) {
        this.index = 0;
        this.round++;
      }
      const end = at + ready.lengths[index] * this.scale;
      // What ends later than that is cut when it is near: until then it can be thought better of.
      const until = this.isCut ? Math.min(this.until, end) : end;
      // What a pause of the machine has swallowed whole is left out; what would still sound begins now.
      if (until <= now + CLOSE) continue;
      if (this.accompanist.source.muted) continue;
      const key = this.followed(ready.keys[index]);
      this.output.playNote(this, key, ready.velocities[index], at < now ? NOW : at, until);
    }
    this.handedTo = horizon;
  }

  /** Ends at a beat, or at once: what sounds ends there, and what would begin later does not come. */
  end(at: Beats): void {
    const { beats: now, horizon } = this.clock;
    this.until = Math.min(this.until, at === NOW ? now : at);
    this.isCut = this.until <= horizon;
    // Until it is near it can still be thought better of.
    if (this.isCut) this.output.endSource(this, at === NOW ? NOW : this.until);
  }

  /** Goes on past where it was to end. */
  goOn(): void {
    this.until = this.lastBeat;
    this.isCut = false;
  }

  /** Begins at another beat than it was to. */
  moveTo(origin: Beats): void {
    if (origin === this.origin) return;
    const isToItsEnd = this.until === this.lastBeat;
    this.output.takeBack(this);
    this.origin = origin;
    if (isToItsEnd) this.until = this.lastBeat;
    this.goTo(-Infinity);
  }

  /** Works out anew what has not begun: what it follows is another. */
  redo(): void {
    this.goTo(this.takeBack(this.clock.beats));
  }

  /** Plays another version of its pattern from here on; it stays where it is in its round. */
  become(
    patch: CompiledPatch,
    accompanist: ReadyAccompanist,
    ready: ReadyPattern,
    now: Beats,
  ): void {
    const isSame = ready === this.ready && accompanist.source === this.accompanist.source;
    this.patch = patch;
    this.accompanist = accompanist;
    if (!isSame) this.rework(ready, now);
  }

  /** The show’s tempo is another: a pattern with its own keeps its place in its round. */
  tempoChanged(now: Beats): void {
    if (this.ready.tempo !== null) this.rework(this.ready, now);
  }

  /** Stands still and ends what sounds. */
  pause(): void {
    this.output.endSource(this, NOW);
  }

  /** Goes on from where it stood at a beat, so many beats later; what began before that does not come again. */
  shift(by: Beats, stoodAt: Beats): void {
    this.origin += by;
    this.until += by;
    this.isCut = false;
    this.goTo(stoodAt + by);
  }

  /** Is so many beats elsewhere while it runs; what has begun does not come again. */
  realign(by: Beats): void {
    this.shift(by, this.takeBack(this.clock.beats));
  }

  /** Begins once more, at a beat. */
  beginAnew(at: Beats): void {
    this.origin = at;
    this.until = this.lastBeat;
    this.isCut = false;
    this.goTo(-Infinity);
  }

  /** Takes back what has not begun; gives the beat from which on notes have to be handed over, late ones too. */
  private takeBack(now: Beats): Beats {
    this.output.takeBack(this);
    return Math.min(now, this.handedTo);
  }

  /** Keeps its place in its round, in the version and at the tempo that count now. */
  private rework(ready: ReadyPattern, now: Beats): void {
    const isToItsEnd = this.until === this.lastBeat;
    const from = this.takeBack(now);
    const place = (now - this.origin) / this.scale;
    const late = (now - from) / this.scale;
    this.ready = ready;
    this.scale = this.scaleNow();
    if (place > 0) this.origin = now - place * this.scale;
    if (isToItsEnd) this.until = this.lastBeat;
    this.goTo(now - late * this.scale);
  }

  private scaleNow(): number {
    const { tempo } = this.ready;
    return tempo === null ? 1 : this.clock.tempo / tempo;
  }

  private beatOfNext(): Beats {
    return (
      this.origin + (this.round * this.ready.round + this.ready.beats[this.index]) * this.scale
    );
  }

  /** The next note is the first one that begins after a beat. */
  private goTo(beat: Beats): void {
    this.handedTo = beat;
    this.round = Math.max(0, Math.floor((beat - this.origin) / this.roundBeats));
    this.index = 0;
    if (this.ready.count === 0) return;
    while (this.beatOfNext() <= beat) {
      if (++this.index < this.ready.count) continue;
      this.index = 0;
      this.round++;
    }
  }

  /** Rounds that are over long since are not gone through note by note. */
  private skipLongPast(now: Beats): void {
    const behind = Math.floor((now - this.origin) / this.roundBeats) - this.round;
    if (behind > 2) {
      this.round += behind - 1;
      this.index = 0;
    }
  }

  private followed(key: number): number {
    const { follows, remembers } = this.accompanist.source;
    const { tonic } = this.ready;
    if (follows === 'stays' || tonic < 0) return key;
    if (!remembers && !this.chord.isHeld) return key;
    return follows === 'root' ? this.chord.onRoot(key, tonic) : this.chord.onChord(key, tonic);
  }
}
