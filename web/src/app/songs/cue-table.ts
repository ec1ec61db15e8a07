import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatTableModule } from '@angular/material/table';
import { cutText, FASTEST_TEMPO, SLOWEST_TEMPO, type Cue } from '@pentachord/core/model';
import { CueEditing } from '../state/editing/cue-editing';
import { NameField } from '../ui/names/name-field';
import { NumberField } from '../ui/numbers/number-field';
import type { CueCard } from './cue-cards';

/** The longest that a cue can glide, in seconds. */
const LONGEST_FADE = 60;
/** The most characters of what a cue tells the player. */
const LONGEST_NOTE = 500;

/** The cues of a song as a table: where, what, over how long, at which tempo, and what the player is told. */
@Component({
  selector: 'pc-cue-table',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatSelectModule,
    MatTableModule,
    NameField,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cue-table.html',
  styleUrl: './cue-table.scss',
})
export class CueTable {
  readonly cards = input.required<readonly CueCard[]>();
  readonly current = input<string | null>(null);
  readonly lengthSeconds = input.required<number>();
  readonly defaultFade = input.required<number>();
  readonly tempo = input.required<number>();
  protected readonly editing = inject(CueEditing);
  protected readonly columns = ['at', 'name', 'patch', 'fade', 'tempo', 'note', 'more'];
  protected readonly longestFade = LONGEST_FADE;
  protected readonly slowest = SLOWEST_TEMPO;
  protected readonly fastest = FASTEST_TEMPO;
  protected readonly idOf = (_: number, { cue }: CueCard) => cue.id;

  protected rename(cue: Cue, name: string): void {
    this.editing.changeCue(cue.id, { name }, 'cue renamed');
  }

  protected setFade(cue: Cue, fadeSeconds: number | null, gesture?: string): void {
    this.editing.changeCue(cue.id, { fadeSeconds }, 'the cue’s fade changed', gesture);
  }

  protected setTempo(cue: Cue, tempo: number | null, gesture?: string): void {
    this.editing.changeCue(cue.id, { tempo }, 'the cue’s tempo changed', gesture);
  }

  protected setNote(cue: Cue, text: string): void {
    const note = cutText(text, LONGEST_NOTE);
    if (note !== cue.note) this.editing.changeCue(cue.id, { note }, 'the cue’s note changed');
  }
}
