import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import type { Trim } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { songAsMoved, songEntryOf, songTonight } from '@pentachord/core/setlist';
import { formatDb } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import { SongEditing } from '../state/editing/song-editing';
import type { AppState } from '../state/reducers';
import { selectThings } from '../state/selectors';
import { NightDesk } from '../state/session/night-desk';

/** What was moved while playing: levels are offered to their cues, keys and tempos to tonight. */
@Component({
  selector: 'pc-night-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Moved tonight</h2>
    <mat-dialog-content>
      <p>
        It holds in Showtime until you drop it. Given to its cue, a level holds on every other night
        too; undo takes that back.
      </p>
      <ul>
        @for (one of trims(); track one.key) {
          <li>
            <span>
              {{ one.song }}, {{ one.cue }}: <b>{{ one.layer }}</b>
              <span class="mono">{{ one.by }}</span>
            </span>
            <button
              type="button"
              matButton="outlined"
              [disabled]="!one.canKeep"
              (click)="give(one.trim)"
            >
              {{ one.canKeep ? 'To the cue' : 'the cue is gone' }}
            </button>
            <button type="button" matButton="outlined" (click)="desk.dropTrim(one.trim)">
              Drop
            </button>
          </li>
        }
        @for (one of songs(); track one.entryId) {
          <li>
            <span>
              {{ one.song }}: <b>{{ one.words }}</b>
            </span>
            <button
              type="button"
              matButton="outlined"
              [disabled]="!one.canKeep"
              (click)="keep(one.entryId)"
            >
              {{ one.canKeep ? 'To this show' : 'more than a key’s way' }}
            </button>
            <button type="button" matButton="outlined" (click)="desk.dropSong(one.entryId)">
              Drop
            </button>
          </li>
        }
      </ul>
      @if (desk.moved() === 0) {
        <p>Nothing is moved any more.</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" (click)="desk.end()">
        The night is over: drop all
      </button>
      <button type="button" matButton="outlined" mat-dialog-close>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    ul {
      margin: 8px 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto auto;
      align-items: center;
      gap: 8px;
      min-height: 38px;
      border-top: 1px solid var(--hairline);
    }
  `,
})
export class NightDialog {
  protected readonly desk = inject(NightDesk);
  private readonly shows = inject(ShowEditing);
  private readonly editing = inject(SongEditing);
  private readonly things = inject<Store<AppState>>(Store).selectSignal(selectThings);

  protected readonly trims = computed(() => {
    const { songs, cues, patches } = this.things();
    const show = this.shows.show();
    return this.desk.night().trims.map((trim) => {
      const songId = (show && songEntryOf(show, trim.entryId)?.songId) ?? '';
      const patch = trim.patchId in patches ? patches[trim.patchId] : null;
      const cue = trim.cueId !== null && trim.cueId in cues ? cues[trim.cueId] : null;
      return {
        trim,
        key: `${trim.entryId} ${trim.patchId} ${trim.layerId}`,
        song: songId in songs ? songs[songId].name : 'a song that is gone',
        cue: cue?.name ?? 'a cue that is gone',
        layer: patch?.layers.find(({ id }) => id === trim.layerId)?.name ?? 'a layer that is gone',
        by: `${trim.by > 0 ? '+' : ''}${formatDb(trim.by)}`,
        canKeep: cue !== null && cue.patchId === trim.patchId,
      };
    });
  });

  protected readonly songs = computed(() => {
    const { songs } = this.things();
    const show = this.shows.show();
    return this.desk.night().songs.flatMap((moved) => {
      const entry = show && songEntryOf(show, moved.entryId);
      if (!entry || !(entry.songId in songs)) return [];
      const song = songTonight(songs[entry.songId], entry.tonight);
      const played = songAsMoved(song, moved);
      const words = [
        moved.tempo !== null ? `at ${played.tempo}` : '',
        moved.transposed !== 0 ? `sounding in ${musicalKeyName(played.sounding)}` : '',
      ];
      const told = words.filter((word) => word !== '').join(', ');
      // A show’s tonight names a key, and goes there by the nearer way: further than that only the song’s octaves reach.
      const canKeep = played.octaves === song.octaves;
      return [{ entryId: moved.entryId, song: song.name, words: told, played, canKeep }];
    });
  });

  /** The level holds in the cue from now on. */
  protected give(trim: Trim): void {
    this.editing.giveTrim(trim);
    this.desk.dropTrim(trim);
  }

  /** Key and tempo are otherwise in this show from now on, as if they had been written there. */
  protected keep(entryId: string): void {
    const found = this.songs().find((one) => one.entryId === entryId);
    if (!found) return;
    const { tempo, sounding } = found.played;
    this.shows.changeTonight(entryId, { tempo, sounding });
    this.desk.dropSong(entryId);
  }
}
