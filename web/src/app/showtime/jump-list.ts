import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatListModule } from '@angular/material/list';
import { musicalKeyName } from '@pentachord/core/pitch';
import { numberOfSong, songsByLetters, type Step } from '@pentachord/core/setlist';
import type { Cue, Song } from '@pentachord/core/model';

/** What the list is made of. */
export interface JumpData {
  steps: readonly Step[];
  songs: ReadonlyMap<string, Song>;
  /** Songs as they are played this night, by their place in it. */
  played: ReadonlyMap<string, Song>;
  cues: Readonly<Record<string, Cue>>;
  entryId: string | null;
  /** Gives what was typed before the list was there, and types no more into it. */
  takeTyped(): string;
}

/** Songs of the night by number or first letters, and the cues of the one that is chosen; it gives back a step. */
@Component({
  selector: 'pc-jump-list',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatListModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Go to</h2>
    <mat-dialog-content>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <input
          matInput
          #box
          placeholder="number or first letters"
          aria-label="Number or first letters"
          autocomplete="off"
          aria-controls="jump-songs"
          [value]="typed()"
          [attr.aria-activedescendant]="chosen() ? 'jump-' + chosen()!.at : null"
          (input)="type(box.value)"
          (keydown)="key($event)"
        />
      </mat-form-field>
      <mat-nav-list id="jump-songs" aria-label="Songs of the night">
        @for (song of found(); track song.at; let at = $index) {
          <button
            mat-list-item
            type="button"
            [id]="'jump-' + song.at"
            [activated]="at === here()"
            (click)="go(song.at)"
          >
            <span matListItemTitle>
              <b class="mono">{{ song.number }}</b> {{ song.name }}
              @if (song.isHere) {
                <em>now</em>
              }
            </span>
            <span matListItemMeta class="mono">{{ song.key }} · {{ song.tempo }}</span>
          </button>
        } @empty {
          <p role="status">No song of tonight has that number or these letters.</p>
        }
      </mat-nav-list>
      @if (chosenCues().length > 1) {
        <div class="cues" role="group" aria-label="Cues of the song">
          @for (cue of chosenCues(); track cue.at) {
            <button type="button" matButton="outlined" (click)="go(cue.at)">{{ cue.name }}</button>
          }
        </div>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Stay here</button>
      <button
        type="button"
        matButton="filled"
        [disabled]="!chosen()"
        (click)="chosen() && go(chosen()!.at)"
      >
        Go
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin: 10px 0;
    }
    button[mat-list-item] {
      border: 0;
      background: none;
      text-align: left;
      font: inherit;
    }
    em {
      font-style: normal;
      color: var(--now, #8a5a00);
    }
    .cues {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      padding-top: 10px;
    }
    mat-nav-list {
      max-height: 46vh;
      overflow: auto;
    }
  `,
})
export class JumpList {
  private readonly data = inject<JumpData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<JumpList, number>>(MatDialogRef);
  protected readonly typed = signal('');
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  protected readonly found = computed(() => {
    const { steps, songs, played, entryId } = this.data;
    return songsByLetters(steps, songs, this.typed()).map(({ at, song }) => {
      const tonight = played.get(steps[at].entryId) ?? song;
      return {
        at,
        name: song.name,
        number: numberOfSong(song, steps[at].songNumber),
        key: musicalKeyName(tonight.fingered),
        tempo: tonight.tempo,
        isHere: steps[at].entryId === entryId,
      };
    });
  });
  /** The song that Enter goes to; before anything is typed the one after the present one. */
  private readonly moved = signal(this.found().findIndex(({ isHere }) => isHere) + 1);
  protected readonly here = computed(() =>
    Math.max(0, Math.min(this.found().length - 1, this.moved())),
  );
  protected readonly chosen = computed(() => this.found().at(this.here()));
  protected readonly chosenCues = computed(() => {
    const { steps, cues } = this.data;
    const entryId = steps.at(this.chosen()?.at ?? -1)?.entryId;
    if (!this.chosen()) return [];
    return steps.flatMap((step, at) =>
      step.entryId === entryId && step.cueId ? [{ at, name: cues[step.cueId].name }] : [],
    );
  });

  constructor() {
    afterNextRender(() => {
      const box = this.box().nativeElement;
      const typed = this.data.takeTyped() + box.value;
      box.value = typed;
      box.focus();
      if (typed !== '') this.type(typed);
    });
  }

  protected type(text: string): void {
    this.typed.set(text);
    this.moved.set(0);
  }

  protected key(event: KeyboardEvent): void {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by !== 0) this.moved.set(Math.max(0, Math.min(this.found().length - 1, this.here() + by)));
    else if (event.key === 'Enter' && this.chosen()) this.go(this.chosen()?.at ?? 0);
    else return;
    event.preventDefault();
  }

  protected go(at: number): void {
    this.dialog.close(at);
  }
}
