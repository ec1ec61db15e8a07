import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import type { PlayedSong, Trim } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { levelWithTrim, songAsMoved, songEntryOf, songTonight } from '@pentachord/core/setlist';
import { formatDb } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import { CueEditing } from '../state/editing/cue-editing';
import type { AppState } from '../state/reducers';
import { selectThings } from '../state/selectors';
import { NightDesk } from '../state/session/night-desk';

/** Something that was moved, and what can become of it. */
interface Offer {
  key: string;
  where: string;
  what: string;
  by: string;
  /** Where it can be given to, and why it cannot; empty when it can. */
  to: string;
  whyNot: string;
  give(this: void): void;
  drop(this: void): void;
}

/** What was moved while playing: levels are offered to their cues, keys and tempos to tonight. */
@Component({
  selector: 'pc-night-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Changed while playing</h2>
    <mat-dialog-content>
      <p>
        It holds in Showtime until you discard it. Given to its cue, a level holds on every other
        night too; undo takes that back.
      </p>
      <ul>
        @for (one of offers(); track one.key) {
          <li>
            <span>
              {{ one.where }}: <b>{{ one.what }}</b>
              <span class="mono">{{ one.by }}</span>
            </span>
            <button
              type="button"
              matButton="outlined"
              [disabled]="one.whyNot !== ''"
              (click)="one.give()"
            >
              {{ one.whyNot || one.to }}
            </button>
            <button type="button" matButton="outlined" (click)="one.drop()">Discard</button>
          </li>
        }
      </ul>
      @if (desk.moved() === 0) {
        <p>Nothing is changed any more.</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" (click)="desk.end()">
        End the night and discard these
      </button>
      <button type="button" matButton="outlined" mat-dialog-close>Done</button>
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
  private readonly editing = inject(CueEditing);
  private readonly things = inject<Store<AppState>>(Store).selectSignal(selectThings);

  protected readonly offers = computed((): Offer[] => [
    ...this.desk.night().trims.map((trim) => this.trimOffer(trim)),
    ...this.desk.night().songs.flatMap((moved) => this.songOffer(moved)),
  ]);

  /** A trimmed level: in its cue it holds from then on. */
  private trimOffer(trim: Trim): Offer {
    const { songs, cues, patches } = this.things();
    const show = this.shows.show();
    const songId = (show && songEntryOf(show, trim.entryId)?.songId) ?? '';
    const patch = trim.patchId in patches ? patches[trim.patchId] : null;
    const cue = trim.cueId !== null && trim.cueId in cues ? cues[trim.cueId] : null;
    const song = songId in songs ? songs[songId].name : 'a song that is gone';
    const canGive = cue && patch && levelWithTrim(trim, cue, patch) !== null;
    return {
      key: `${trim.entryId} ${trim.patchId} ${trim.layerId}`,
      where: `${song}, ${cue?.name ?? 'a cue that is gone'}`,
      what: patch?.layers.find(({ id }) => id === trim.layerId)?.name ?? 'a layer that is gone',
      by: `${trim.by > 0 ? '+' : ''}${formatDb(trim.by)}`,
      to: 'To the cue',
      whyNot: canGive ? '' : 'the cue plays it no more',
      give: () => {
        this.editing.giveTrim(trim);
        this.desk.dropTrim(trim, true);
      },
      drop: () => this.desk.dropTrim(trim),
    };
  }

  /** Key and tempo: given, they are otherwise in this show from then on, as if they had been written there. */
  private songOffer(moved: PlayedSong): Offer[] {
    const { entryId } = moved;
    const { songs } = this.things();
    const show = this.shows.show();
    const entry = show && songEntryOf(show, entryId);
    if (!entry || !(entry.songId in songs)) return [];
    const song = songTonight(songs[entry.songId], entry.tonight);
    const { tempo, sounding, octaves } = songAsMoved(song, moved);
    const words = [
      moved.tempo !== null ? `at ${tempo}` : '',
      moved.transposed !== 0 ? `sounding in ${musicalKeyName(sounding)}` : '',
    ];
    return [
      {
        key: entryId,
        where: song.name,
        what: words.filter((word) => word !== '').join(', '),
        by: '',
        to: 'To this show',
        // A show’s tonight names a key, and goes there by the nearer way: further than that only the song’s octaves reach.
        whyNot: octaves === song.octaves ? '' : 'only the song’s octaves reach it',
        give: () => {
          this.shows.changeTonight(entryId, { tempo, sounding });
          this.desk.dropSong(entryId, true);
        },
        drop: () => this.desk.dropSong(entryId),
      },
    ];
  }
}
