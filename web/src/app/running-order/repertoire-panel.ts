import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { Router } from '@angular/router';
import { compareNames, cutText, LONGEST_NAME, type Song } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { clockTime } from '@pentachord/core/units';
import { readSongLine, songLineInWords, type SongLine } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import { selectShow, selectThings, selectTotalSeconds } from '../state/selectors';

/** Letters of a line that is read as a song. */
const LONGEST_LINE = LONGEST_NAME + 24;

/** The player’s songs: found as one types, taken into the night, or written there by the name alone. */
@Component({
  selector: 'pc-repertoire-panel',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    ScrollingModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './repertoire-panel.html',
  styleUrl: './repertoire-panel.scss',
})
export class RepertoirePanel {
  protected readonly editing = inject(ShowEditing);
  private readonly router = inject(Router);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly show = this.store.selectSignal(selectShow);
  private readonly total = this.store.selectSignal(selectTotalSeconds);
  protected readonly typed = signal('');

  /** In how many shows each song stands. */
  private readonly stands = computed(() => {
    const counts = new Map<string, number>();
    for (const { order } of Object.values(this.things().shows))
      for (const songId of new Set(order.flatMap((e) => (e.kind === 'song' ? [e.songId] : []))))
        counts.set(songId, (counts.get(songId) ?? 0) + 1);
    return counts;
  });
  private readonly here = computed(
    () => new Set(this.show()?.order.flatMap((e) => (e.kind === 'song' ? [e.songId] : []))),
  );
  protected readonly songs = computed(() => {
    const wanted = this.typed().trim().toLowerCase();
    const isHere = this.here();
    return Object.values(this.things().songs)
      .filter(({ name }) => name.toLowerCase().includes(wanted))
      .sort(
        (a, b) =>
          Number(isHere.has(a.id)) - Number(isHere.has(b.id)) || compareNames(a.name, b.name),
      )
      .map((song) => ({
        song,
        key: musicalKeyName(song.sounding),
        length: clockTime(song.lengthSeconds),
        where: this.whereOf(song, isHere),
      }));
  });
  /** What Enter does: of a song that is written, also what its line says beside the name. */
  protected readonly meant = computed(() => {
    const line = this.line();
    if (line.name === '') return '';
    const first = this.exact() ?? this.songs().at(0)?.song;
    return first ? `Enter takes ${first.name}` : `Enter writes ${lineInWords(line)}`;
  });
  /** What was typed, read as a song in one line: `Anchor Am 104`. */
  protected readonly line = computed(() => readSongLine(cutText(this.typed(), LONGEST_LINE)));
  protected readonly lineInWords = computed(() => lineInWords(this.line()));
  /** True where the line says more than a name, so that all of it could be meant as one. */
  protected readonly saysMore = computed(() => songLineInWords(this.line()) !== '');
  /** A song that would fill what is left of the slot. */
  protected readonly fits = computed(() => {
    const left = (this.show()?.slotSeconds ?? 0) - this.total();
    if (left <= 0) return null;
    const [longest] = Object.values(this.things().songs)
      .filter(({ id, lengthSeconds }) => !this.here().has(id) && lengthSeconds <= left)
      .sort((a, b) => b.lengthSeconds - a.lengthSeconds);
    return (longest as Song | undefined) ? { song: longest, left: clockTime(left) } : null;
  });
  private readonly exact = computed(() => {
    const name = this.typed().trim().toLowerCase();
    return this.songs().find(({ song }) => song.name.toLowerCase() === name)?.song;
  });

  protected enter(event: Event): void {
    event.preventDefault();
    event.stopPropagation();
    if (this.line().name === '') return;
    const song = this.exact() ?? this.songs().at(0)?.song;
    if (song) this.editing.addSong(song);
    else this.editing.writeSong(this.line());
    this.typed.set('');
  }

  /** Writes the song that was typed, though others fit. */
  protected write(): void {
    this.editing.writeSong(this.line());
    this.typed.set('');
  }

  /** Writes a song of which all that was typed is the name. */
  protected writeName(): void {
    const name = cutText(this.typed(), LONGEST_NAME);
    this.editing.writeSong({ name, key: null, tempo: null, lengthSeconds: null });
    this.typed.set('');
  }

  /** Opens a song outside of the running order. */
  protected open(song: Song): void {
    this.editing.goTo(null, song.id);
    void this.router.navigateByUrl('/song');
  }

  protected readonly idOf = (_: number, { song }: { song: Song }) => song.id;

  private whereOf({ id }: Song, isHere: ReadonlySet<string>): string {
    if (isHere.has(id)) return 'in this night';
    const shows = this.stands().get(id) ?? 0;
    return shows === 0 ? 'in no show' : `in ${shows} ${shows === 1 ? 'show' : 'shows'}`;
  }
}

/** `“Anchor” in Am, at 104`. */
function lineInWords(line: SongLine): string {
  return [`“${line.name}”`, songLineInWords(line)].filter(Boolean).join(' ');
}
