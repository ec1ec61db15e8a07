import { computed, inject, Injectable, signal } from '@angular/core';
import { newNight, type Night } from '@pentachord/core/model';
import { movedSong, playedSong, trimmed, type TrimmedLayer } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { dequal } from 'dequal';
import { Live } from '../../live/live';
import { selectHistory } from '../editing/selectors';
import type { AppState } from '../reducers';
import { DeskCopy } from '../keeping/desk-copy';

/** Milliseconds after which what a hand has moved is shown and kept. */
const SOON = 30;

/** What was given up of a night: discarded, or given to an edit that took it over. */
interface GivenUp {
  before: Night;
  after: Night;
  given: boolean;
  /** The last edit when that was done. */
  step: unknown;
}

/** The night as it is played: when it began, what was trimmed, transposed and tapped. Kept in this browser, and no part of the show. */
@Injectable({ providedIn: 'root' })
export class NightDesk {
  private readonly live = inject(Live);
  private readonly copy = inject(DeskCopy);
  /** What hands have moved and is not shown yet. */
  private moving: Night | null = null;
  private readonly present = signal<Night>(newNight('none'));
  readonly night = this.present.asReadonly();
  /** What waits to be offered to the cues and songs. */
  readonly moved = computed(() => {
    const { trims, songs } = this.present();
    return trims.length + songs.length;
  });

  constructor() {
    this.live.runner.onNight = (night) => {
      // What is moved while a take is heard again is none of this night.
      if (!this.live.isLent) this.takeSoon(night);
    };
  }

  /** What a hand moves is shown and kept when the hand’s own path has been gone: a knob sends a hundred a second. */
  private takeSoon(night: Night): void {
    const isWaiting = this.moving !== null;
    this.moving = night;
    if (isWaiting) return;
    setTimeout(() => {
      const latest = this.moving;
      this.moving = null;
      if (latest) this.take(latest);
    }, SOON);
  }

  /** A show is opened: its night goes on if one was kept, else another one begins. */
  open(showId: string | null, kept: readonly Night[]): void {
    const here = this.present();
    if (showId !== null && here.showId === showId) return;
    const night = kept.find((one) => one.showId === showId) ?? newNight(showId ?? 'none');
    this.moving = null;
    this.present.set(night);
    this.live.runner.takeNight(night);
  }

  /** The show begins now, as if some seconds of its plan had been played. */
  begin(secondsIn = 0): void {
    this.change({ ...this.latest, begunAt: Date.now() - secondsIn * 1000 });
  }

  /** The show has not begun: what was moved stays. */
  unbegin(): void {
    this.change({ ...this.latest, begunAt: null });
  }

  /** Gives a trim up; `given` when an edit has just taken it over. */
  dropTrim(layer: TrimmedLayer, given = false): void {
    this.giveUp(trimmed(this.latest, { ...layer, cueId: null, by: 0 }), given);
  }

  /** Gives up what was moved of a song's place; `given` when an edit has just taken it over. */
  dropSong(entryId: string, given = false): void {
    this.giveUp(movedSong(this.latest, entryId, { tempo: null, transposed: 0 }), given);
  }

  /**
   * Takes back what was given up last, if nothing was edited or moved since: `true`. With it goes the edit that took it over, which
   * is the caller's to undo: `given`. False when something else was done last.
   */
  undo(): 'given' | boolean {
    const last = this.givenUp.at(-1);
    if (!last || last.step !== this.lastStep() || !dequal(last.after, this.latest)) return false;
    this.givenUp = this.givenUp.slice(0, -1);
    if (last.given) this.takenBack = [...this.takenBack, last];
    this.change(last.before);
    return last.given ? 'given' : true;
  }

  /** An edit was redone: what it took over, and undoing it has brought back, is given up with it again. */
  redone(): void {
    const last = this.takenBack.at(-1);
    if (!last || last.step !== this.lastStep() || !dequal(last.before, this.latest)) return;
    this.takenBack = this.takenBack.slice(0, -1);
    this.givenUp = [...this.givenUp, last];
    this.change(last.after);
  }

  private giveUp(after: Night, given: boolean): void {
    this.givenUp = [...this.givenUp, { before: this.latest, after, given, step: this.lastStep() }];
    this.takenBack = [];
    this.change(after);
  }
  private givenUp: readonly GivenUp[] = [];
  private takenBack: readonly GivenUp[] = [];
  private readonly history = inject<Store<AppState>>(Store).selectSignal(selectHistory);
  /** The last edit that can be undone, by its changes: they are the same ones after undoing and redoing. */
  private lastStep(): unknown {
    return this.history().past.at(-1)?.forth;
  }

  /** What was moved in a place of the night; null for nothing. */
  songAt(entryId: string | null) {
    return playedSong(this.present(), entryId);
  }

  /** Gives everything up that was moved, and the night is over. */
  end(): void {
    this.giveUp(newNight(this.latest.showId), false);
  }

  /** With what a hand has moved a moment ago. */
  private get latest(): Night {
    return this.live.runner.night;
  }

  private change(night: Night): void {
    this.moving = null;
    this.live.runner.takeNight(night);
    this.take(night);
  }

  private take(night: Night): void {
    this.present.set(night);
    this.copy.keepNight(night);
  }
}
