import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { cutText, type Cue, type Song } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { Live } from '../live/live';
import { CueEditing } from '../state/editing/cue-editing';
import { NightDesk } from '../state/session/night-desk';

/** The most characters of a cue’s note. */
const LONGEST_NOTE = 500;

/** What can be changed in Showtime once its lock is lifted: how high the song sounds, what the cue says; and the ways out. */
@Component({
  selector: 'pc-unlocked-bar',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="sounds" role="group" aria-label="How high the song sounds tonight">
      <button
        type="button"
        matButton="outlined"
        aria-label="A semitone lower"
        (click)="transpose('transposeDown')"
      >
        −
      </button>
      <span>
        sounds in <b data-testid="sounds-in">{{ soundsIn() }}</b>
      </span>
      <button
        type="button"
        matButton="outlined"
        aria-label="A semitone higher"
        (click)="transpose('transposeUp')"
      >
        +
      </button>
    </span>
    @if (cue(); as present) {
      <mat-form-field appearance="outline" subscriptSizing="dynamic" class="note">
        <textarea
          matInput
          #note
          rows="1"
          placeholder="what the cue says"
          aria-label="What the cue says"
          [value]="present.note"
          (change)="setNote(present, note.value)"
          (keydown)="$event.stopPropagation()"
        ></textarea>
      </mat-form-field>
    }
    <span class="ways">
      @if (desk.night().begunAt !== null) {
        <button type="button" matButton="outlined" (click)="desk.unbegin()">Not begun yet</button>
      }
      <button type="button" matButton="outlined" (click)="fullScreen()">Full screen</button>
      <a matButton="outlined" routerLink="/patch">Desk</a>
    </span>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 10px 24px;
      padding: 8px 12px;
      border: 2px dashed var(--now);
      border-radius: 8px;
    }
    .sounds,
    .ways {
      display: flex;
      align-items: center;
      gap: 10px;
    }
    .note {
      flex: 1 1 320px;
    }
  `,
})
export class UnlockedBar {
  readonly song = input.required<Song>();
  readonly cue = input.required<Cue | null>();
  private readonly live = inject(Live);
  private readonly editing = inject(CueEditing);
  protected readonly desk = inject(NightDesk);
  protected readonly soundsIn = computed(() => musicalKeyName(this.song().sounding));

  protected transpose(press: 'transposeUp' | 'transposeDown'): void {
    this.live.order((orders) => orders.press(press));
  }

  protected setNote(cue: Cue, text: string): void {
    const note = cutText(text, LONGEST_NOTE);
    if (note !== cue.note) this.editing.changeCue(cue.id, { note }, 'cue’s note changed');
  }

  /** Works only in answer to a click; otherwise the view simply stays in its window. */
  protected fullScreen(): void {
    void document.documentElement.requestFullscreen().catch(() => undefined);
  }
}
