import { computed, inject, Injectable, signal } from '@angular/core';
import { newNight, type Night } from '@pentachord/core/model';
import { movedSong, playedSong, trimmed, type TrimmedLayer } from '@pentachord/core/setlist';
import { Live } from '../../live/live';
import { DeskCopy } from '../keeping/desk-copy';

/** Milliseconds after which what a hand has moved is shown and kept. */
const SOON = 30;

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
    this.live.runner.onNight = (night) => this.takeSoon(night);
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

  /** The first song begins now. */
  begin(): void {
    this.change({ ...this.latest, begunAt: Date.now() });
  }

  /** The show has not begun: what was moved stays. */
  unbegin(): void {
    this.change({ ...this.latest, begunAt: null });
  }

  /** Gives a trim up. */
  dropTrim(layer: TrimmedLayer): void {
    this.change(trimmed(this.latest, { ...layer, cueId: null, by: 0 }));
  }

  /** Gives up what was moved of a song's place. */
  dropSong(entryId: string): void {
    this.change(movedSong(this.latest, entryId, { tempo: null, transposed: 0 }));
  }

  /** What was moved in a place of the night; null for nothing. */
  songAt(entryId: string | null) {
    return playedSong(this.present(), entryId);
  }

  /** Gives everything up that was moved, and the night is over. */
  end(): void {
    this.change(newNight(this.latest.showId));
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
