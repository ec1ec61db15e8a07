import { NOW, type ShowClock } from '../../clock/show-clock.js';
import type { Begins } from '../../model/patch/begins.js';
import type { BandKey } from '../../model/patch/accompanist.js';
import { MOST_DEVICES } from '../../model/rig/rig.js';
import {
  triggersOfController,
  triggersOfKey,
  type CompiledBand,
  type ReadyAccompanist,
  type Trigger,
} from '../../patterns/compiled-band.js';
import type { ReadyPattern } from '../../patterns/ready-pattern.js';
import type { CompiledPatch } from '../../routing/compile.js';
import type { Beats } from '../../units/times.js';
import { AUDITION_ID } from '../show/audition.js';
import { AuditionedPatterns } from './auditioned-patterns.js';
import { AT_REST, lookAt, type BandLook } from './band-look.js';
import { beginnings, firstBeginnings, inItsBar, type Beginnings } from './beginnings.js';
import { FollowedChord } from './followed-chord.js';
import { MovedBand } from './moved-band.js';
import type { Run } from './run.js';
import { RunningPattern, type BandOutput } from './running-pattern.js';
import { Standing } from './standing.js';

/** Slots of buttons, behind those of keys. */
const FIRST_BUTTON = MOST_DEVICES * 128;

/**
 * All that runs of patterns, whichever patch began it: one owner, since a layer’s treatments end with its keys.
 *
 * key ─► **band** ─► notes with their beats ─► the layers of the patch they began in
 */
export class Band {
  private band: CompiledBand | null = null;
  private patch: CompiledPatch | null = null;
  /** The accompanists, as hands have moved their settings. */
  readonly moved = new MovedBand();
  private runs: Run[] = [];
  private readonly chord = new FollowedChord();
  private hasJoined = false;
  private readonly standing: Standing;
  /** Patterns that are tried out, beside those of the accompanists. */
  readonly auditioned: AuditionedPatterns;
  /** The last pattern that each accompanist began, by its id. */
  private readonly lastOf = new Map<string, string>();
  private readonly looked: BandLook = { ...AT_REST };

  constructor(
    private readonly clock: ShowClock,
    private readonly output: BandOutput,
  ) {
    this.standing = new Standing(clock);
    this.auditioned = new AuditionedPatterns(clock, output, this.chord);
    clock.onTempo(() => {
      for (const { pattern } of this.runs) pattern.tempoChanged(this.now);
    });
    clock.onBars(() => this.barsMoved());
  }

  /**
   * Plays the accompanists of this patch from now on. What those of another play goes its way. Something that is tried out for a
   * while has all the keys, and what plays plays on.
   */
  take(patch: CompiledPatch | null): void {
    if (patch?.id === AUDITION_ID) {
      // The buttons too, which nobody would hear being let go.
      for (const run of [...this.runs]) if (run.slot >= FIRST_BUTTON) this.release(run.slot);
      this.band = null;
      return;
    }
    const isOther = this.patch?.id !== patch?.id;
    const before = this.patch;
    this.patch = patch;
    this.band = patch?.band ?? null;
    this.moved.take(this.band, isOther);
    this.auditioned.take(patch);
    for (const run of [...this.runs]) {
      if (run.pattern.patch.id === patch?.id) this.adopt(run, patch);
      else if (isOther && run.pattern.patch.id === before?.id) this.leave(run);
    }
    this.rest();
  }

  /** Whether a key starts something, so that no layer answers it. */
  takes(device: number, heardKey: number): boolean {
    return triggersOfKey(this.band, device, heardKey).length > 0;
  }

  private get now(): Beats {
    return this.standing.now;
  }

  /** Whether a button starts something, by the controller that it sends. */
  takesController(device: number, controller: number): boolean {
    return triggersOfController(this.band, device, controller).length > 0;
  }

  /** Such a button is pressed, or let go. */
  button(device: number, controller: number, isDown: boolean): void {
    const triggers = triggersOfController(this.band, device, controller);
    if (triggers.length === 0) return;
    const slot = FIRST_BUTTON + device * 128 + controller;
    if (isDown) this.start(triggers, slot);
    else this.release(slot);
  }

  /** A device has gone: its buttons are let go. */
  deviceGone(device: number): void {
    const first = FIRST_BUTTON + device * 128;
    for (const run of [...this.runs])
      if (run.slot >= first && run.slot < first + 128) this.release(run.slot);
  }

  /** A key that {@link takes} is struck. `slot` is the key by which it will be let go. */
  press(device: number, heardKey: number, slot: number): void {
    this.start(triggersOfKey(this.band, device, heardKey), slot);
  }

  private start(triggers: readonly Trigger[], slot: number): void {
    // Who leads has stopped, and somebody wants to hear something: what stands is given up for it.
    if (this.standing.isOn) this.stopNow();
    this.renew();
    const now = this.beginning();
    for (const trigger of triggers)
      switch (trigger.kind) {
        case 'pattern':
          this.pressed(trigger.accompanist, trigger.pattern, slot, now);
          break;
        case 'stop':
          this.stopAccompanist(trigger.accompanist, now.now);
          break;
        case 'band':
          this.all(trigger.bandKey, now);
      }
    this.rest();
  }

  /** A key that started something is let go. */
  release(slot: number): void {
    for (const run of [...this.runs]) if (run.slot === slot) this.callOff(run);
    this.rest();
  }

  /** A key that is played as usual is struck: what follows the hands hears it. */
  hear(heardKey: number): void {
    if (heardKey < 0 || heardKey > 127) return;
    this.chord.press(heardKey);
    this.followAnew();
  }

  /** Such a key is let go. */
  hearRelease(heardKey: number): void {
    if (heardKey < 0 || heardKey > 127) return;
    this.chord.release(heardKey);
    if (!this.chord.isHeld) this.followAnew();
  }

  /** Ends all that runs, at once. */
  stopNow(): void {
    for (const { pattern } of this.runs) pattern.end(NOW);
    this.runs = [];
    this.auditioned.stop();
    this.standing.giveUp();
    this.rest();
  }

  /** Ends everything at once, and forgets what hands hold. */
  silence(): void {
    this.stopNow();
    this.chord.letGo();
  }

  /** Those who lead have stopped the clock: everything stands still where it is. */
  clockStopped(): void {
    this.auditioned.stop();
    if (!this.hasJoined) return;
    this.standing.begin(this.runs);
    this.leaveClock();
  }

  /** The clock goes on, and what stood with it, from where it stood or from its beginning. */
  clockWentOn(fromTheBeginning: boolean): void {
    if (!this.standing.isOn) return;
    // What was ending has ended; whoever was to follow it begins.
    if (fromTheBeginning)
      for (const run of [...this.runs]) if (run.pattern.isEnding) this.drop(run, NOW);
    this.hasJoined = this.standing.end(this.runs, fromTheBeginning);
    if (!this.hasJoined) return;
    this.barsMoved();
    for (const { pattern } of this.runs) pattern.advance(this.clock.horizon);
  }

  /** Bars are counted as those who lead count them: what went on with them comes to where they are. */
  clockAligned(): void {
    this.standing.align(this.runs);
  }

  /** Works out what becomes due within the next moments. */
  advance(): void {
    this.auditioned.advance();
    this.renew();
    if (this.runs.length === 0 || this.standing.isOn) return;
    const { beats: now, horizon } = this.clock;
    for (let i = 0; i < this.runs.length; i++) {
      const run = this.runs[i];
      if (run.waitsFor !== null && run.pattern.hasBegun(now)) {
        run.waitsFor = null;
        run.replaces.length = 0;
      }
      run.pattern.advance(horizon);
    }
    for (let i = this.runs.length - 1; i >= 0; i--)
      if (this.runs[i].pattern.until <= now) {
        this.runs.splice(i, 1);
      }
    if (this.runs.length === 0) this.rest();
  }

  /** Plays what hands have moved as they have moved it. */
  private renew(): void {
    const { patch } = this;
    if (this.moved.renew() && patch)
      for (const run of [...this.runs])
        if (run.pattern.patch.id === patch.id) this.adopt(run, patch);
  }

  /** What an accompanist of the patch being played does now. */
  look(accompanistId: string): Readonly<BandLook> {
    const { looked, now } = this;
    lookAt(looked, this.runs, now, ({ pattern }) => this.isOf(pattern, accompanistId));
    return looked;
  }

  /** The clock runs from now on; gives the beats at which what is struck now can begin. */
  private beginning(): Beginnings {
    if (this.hasJoined) return beginnings(this.clock);
    this.hasJoined = true;
    return firstBeginnings(this.clock);
  }

  private all(key: BandKey, now: Beginnings): void {
    for (const accompanist of this.moved.accompanists) {
      if (key.does === 'stop') this.stopAccompanist(accompanist.index, now.now);
      else if (key.does === 'next') {
        // Who rests has no next.
        const next = this.runsOf(accompanist).length > 0 && this.nextOf(accompanist);
        if (next) this.begin(accompanist, next, -1, now);
      } else {
        const ready = accompanist.patterns.find(({ id }) => id === key.starts[accompanist.id]);
        if (ready && !this.isPlaying(accompanist, ready)) this.begin(accompanist, ready, -1, now);
      }
    }
  }

  private nextOf({ id, patterns }: ReadyAccompanist): ReadyPattern | undefined {
    const at = patterns.findIndex((one) => one.id === this.lastOf.get(id));
    return patterns.at((at + 1) % Math.max(1, patterns.length));
  }

  private pressed(index: number, pressed: ReadyPattern, slot: number, now: Beginnings): void {
    const accompanist = this.moved.accompanists.at(index);
    const ready = accompanist?.patterns.find(({ id }) => id === pressed.id);
    if (!accompanist || !ready) return;
    const { starting } = accompanist.source;
    const mine = this.runsOf(accompanist).filter(({ pattern }) => pattern.ready.id === ready.id);
    const plays = mine.find(({ pattern }) => pattern.until === Infinity);
    if (starting === 'startStop' && plays) {
      this.stopRun(plays, now.now);
      return;
    }
    if (starting === 'untilNext' && plays?.waitsFor === null) return;
    this.begin(accompanist, ready, starting === 'whileHeld' ? slot : -1, now);
  }

  private begin(
    accompanist: ReadyAccompanist,
    ready: ReadyPattern,
    slot: number,
    now: Beginnings,
  ): void {
    const { patch } = this;
    if (!patch) return;
    const { begins, takesOver, several, starting } = accompanist.source;
    const mine = this.runsOf(accompanist);
    // What waits has not been heard: the new one takes its place.
    const waiting = several ? [] : mine.filter(({ waitsFor }) => waitsFor !== null);
    for (const run of waiting) this.callOff(run);
    const old = several ? [] : mine.filter(({ waitsFor }) => waitsFor === null);
    const soonest = old.find(({ pattern }) => pattern.until > now.now);
    let at = now[begins];
    let waitsFor: Begins | null = begins;
    if (soonest) {
      if (takesOver === 'through') at = soonest.pattern.throughAt(now.now);
      else if (takesOver === 'bar') at = now.bar;
      else at = now.now;
      waitsFor = takesOver === 'bar' ? 'bar' : 'now';
    }
    const origin =
      soonest && takesOver === 'atOnce' ? inItsBar(this.clock, ready.round, now.now) : at;
    const pattern = new RunningPattern(
      patch,
      accompanist,
      ready,
      origin,
      this.clock,
      this.output,
      this.chord,
      starting === 'once' ? 1 : Infinity,
    );
    const run: Run = { pattern, waitsFor, replaces: old, slot };
    for (const { pattern: other } of old) other.end(at <= now.now ? NOW : at);
    this.runs.push(run);
    this.lastOf.set(accompanist.id, ready.id);
    pattern.advance(this.clock.horizon);
  }

  private stopAccompanist(index: number, beat: Beats): void {
    const accompanist = this.moved.accompanists.at(index);
    if (!accompanist) return;
    // What waits is called off first, or what it was to take over from would seem to be ending already.
    for (const run of this.runsOf(accompanist)) if (run.waitsFor !== null) this.callOff(run);
    for (const run of this.runsOf(accompanist)) this.stopRun(run, beat);
  }

  /** Stops as its accompanist has it; asked once more, at once. */
  private stopRun(run: Run, beat: Beats): void {
    const { pattern } = run;
    const { takesOver } = pattern.accompanist.source;
    if (run.waitsFor !== null) this.callOff(run);
    else if (takesOver === 'atOnce' || pattern.until < Infinity) this.drop(run, NOW);
    else
      pattern.end(takesOver === 'bar' ? this.clock.barFrom(beat + 1e-6) : pattern.throughAt(beat));
  }

  /** Ends at once; where it has not begun, those that it was to take over from go on. */
  private callOff(run: Run): void {
    if (run.waitsFor !== null) for (const { pattern } of run.replaces) pattern.goOn();
    this.drop(run, NOW);
  }

  private drop(run: Run, at: Beats): void {
    run.pattern.end(at);
    const index = this.runs.indexOf(run);
    if (index >= 0) this.runs.splice(index, 1);
  }

  private runsOf({ id }: ReadyAccompanist): Run[] {
    return this.runs.filter(({ pattern }) => this.isOf(pattern, id));
  }

  /** Whether a pattern is one of an accompanist of the patch that is played. */
  private isOf(pattern: RunningPattern, accompanistId: string): boolean {
    return pattern.accompanist.id === accompanistId && pattern.patch.id === this.patch?.id;
  }

  private isPlaying(accompanist: ReadyAccompanist, ready: ReadyPattern): boolean {
    return this.runsOf(accompanist).some(
      ({ pattern }) => pattern.ready.id === ready.id && pattern.until === Infinity,
    );
  }

  /** The patch that a run began in is played, maybe edited. */
  private adopt(run: Run, patch: CompiledPatch): void {
    const accompanist = this.moved.find(run.pattern.accompanist.id);
    const ready = accompanist?.patterns.find(({ id }) => id === run.pattern.ready.id);
    if (accompanist && ready) run.pattern.become(patch, accompanist, ready, this.now);
    else this.drop(run, NOW);
  }

  /** Its patch was left for another one. */
  private leave(run: Run): void {
    const { pattern } = run;
    const { leaving } = pattern.accompanist.source;
    if (leaving === 'carryOn') return;
    if (leaving === 'stop' || run.waitsFor !== null || this.standing.isOn) this.drop(run, NOW);
    else pattern.end(this.clock.barFrom(this.clock.beats + 1e-6));
  }

  private barsMoved(): void {
    if (this.standing.isOn) return;
    const { beats, firstBeat } = this.clock;
    for (const run of this.runs) {
      const { waitsFor, pattern } = run;
      if (waitsFor !== 'bar' && waitsFor !== 'fourBars') continue;
      if (pattern.hasBegun(beats) && pattern.origin >= firstBeat) continue;
      const at = this.clock.barFrom(beats, waitsFor === 'fourBars' ? 4 : 1);
      const before = pattern.origin;
      pattern.moveTo(at);
      for (const { pattern: other } of run.replaces)
        if (other.until === before) {
          other.goOn();
          other.end(at);
        }
    }
  }

  private followAnew(): void {
    if (this.standing.isOn) return;
    // Every key comes along here: where nothing runs nothing is made for it.
    for (let i = 0; i < this.runs.length; i++) {
      const { pattern } = this.runs[i];
      if (pattern.accompanist.source.follows === 'stays') continue;
      pattern.redo();
      pattern.advance(this.clock.horizon);
    }
  }

  /** Nothing runs any more: the clock is not needed. */
  private rest(): void {
    if (this.runs.length === 0) this.leaveClock();
  }

  private leaveClock(): void {
    if (!this.hasJoined) return;
    this.hasJoined = false;
    this.clock.leave();
  }
}
