import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatSliderModule } from '@angular/material/slider';
import { barOfMidi, patternOfTrack, type MidiFile } from '@pentachord/core/exchange';
import { LONGEST_PATTERN, type Pattern } from '@pentachord/core/model';
import { musicalKeyName, noteName, type NoteNaming } from '@pentachord/core/pitch';
import { TrackDrawing } from './track-drawing';

/** A MIDI file whose tracks are offered. */
export interface MidiOffer {
  /** Its name without what tells its kind. */
  title: string;
  midi: MidiFile;
  middleC: NoteNaming;
}

/** What is chosen of a track. */
interface Choice {
  isTaken: boolean;
  /** Bars, the first of the file being 0; `to` is the one behind the last. */
  from: number;
  to: number;
}

/** The tracks of a MIDI file, each with what it holds; bars are chosen on its drawing. Closed with the patterns that are taken. */
@Component({
  selector: 'pc-midi-dialog',
  imports: [MatButtonModule, MatCheckboxModule, MatDialogModule, MatSliderModule, TrackDrawing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Patterns of {{ offer.title }}</h2>
    <mat-dialog-content>
      @for (row of rows(); track $index; let at = $index) {
        <section [attr.aria-label]="row.pattern.name">
          <mat-checkbox [checked]="row.isTaken" (change)="choose(at, { isTaken: $event.checked })">
            <b>{{ row.pattern.name }}</b>
          </mat-checkbox>
          <span class="mono">{{ row.about }}</span>
          <pc-track-drawing [notes]="row.notes" [length]="beats" [chosen]="row.beats" />
          <mat-slider min="0" [max]="bars" step="1" discrete [displayWith]="barInWords">
            <input
              matSliderStartThumb
              [attr.aria-label]="'First bar of ' + row.pattern.name"
              [value]="row.from"
              (valueChange)="choose(at, { from: $event })"
            />
            <input
              matSliderEndThumb
              [attr.aria-label]="'End of ' + row.pattern.name"
              [value]="row.to"
              (valueChange)="choose(at, { to: $event })"
            />
          </mat-slider>
          <span class="mono">bars {{ row.from + 1 }}–{{ row.to }}</span>
          @for (doubt of row.doubts; track doubt) {
            <p>{{ doubt }}</p>
          }
        </section>
      }
      @for (doubt of offer.midi.doubts; track doubt) {
        <p>{{ doubt }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      <button type="button" matButton="filled" [disabled]="taken().length === 0" (click)="take()">
        Take {{ taken().length }} {{ taken().length === 1 ? 'pattern' : 'patterns' }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    section {
      margin: 8px 0 14px;
    }
    section > .mono {
      margin-left: 12px;
      color: var(--ink-soft);
    }
    mat-slider {
      width: calc(100% - 16px);
      margin: 0 8px;
    }
    p {
      margin: 4px 0;
      color: var(--ink-soft);
    }
  `,
})
export class MidiDialog {
  protected readonly offer = inject<MidiOffer>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<MidiDialog, Pattern[]>>(MatDialogRef);
  private readonly tracks = this.offer.midi.tracks.filter(({ notes }) => notes.length > 0);
  private readonly ids = this.tracks.map(() => crypto.randomUUID());
  private readonly bar = barOfMidi(this.offer.midi);
  protected readonly bars = Math.max(
    1,
    ...this.tracks.map(({ notes }) =>
      notes.reduce((most, { beat }) => Math.max(most, Math.floor(beat / this.bar + 1e-9) + 1), 1),
    ),
  );
  protected readonly beats = this.bars * this.bar;
  private readonly choices = signal<readonly Choice[]>(
    this.tracks.map(({ notes }) => {
      const first = notes.reduce((least, { beat }) => Math.min(least, beat), Infinity);
      const last = notes.reduce((most, { beat }) => Math.max(most, beat), 0);
      const from = Math.floor(first / this.bar + 1e-9);
      const most = from + Math.floor(LONGEST_PATTERN / this.bar);
      return {
        ...{ isTaken: true, from },
        to: Math.min(most, Math.floor(last / this.bar + 1e-9) + 1),
      };
    }),
  );
  protected readonly rows = computed(() =>
    this.choices().map(({ isTaken, from, to }, at) => {
      const track = this.tracks[at];
      const bars = { from, count: Math.max(1, to - from) };
      const many = this.tracks.length > 1;
      const name = track.name || (many ? `${this.offer.title} ${at + 1}` : this.offer.title);
      const made = patternOfTrack(this.offer.midi, track, { id: this.ids[at], name }, bars);
      const beats = { from: from * this.bar, to: to * this.bar };
      return {
        ...{ ...made, isTaken, from, to, beats, notes: track.notes },
        about: this.aboutOf(made.pattern, track.channel),
      };
    }),
  );
  protected readonly taken = computed(() =>
    this.rows().filter(({ isTaken, pattern }) => isTaken && pattern.notes.length > 0),
  );
  protected readonly barInWords = (bar: number): string => String(bar + 1);

  protected choose(at: number, changes: Partial<Choice>): void {
    this.choices.update((all) =>
      all.map((one, i) => {
        if (i !== at) return one;
        const next = { ...one, ...changes };
        // A pattern holds one bar at least.
        if (next.to <= next.from)
          return changes.to === undefined
            ? { ...next, to: next.from + 1 }
            : { ...next, from: next.to - 1 };
        return next;
      }),
    );
  }

  protected take(): void {
    this.dialog.close(this.taken().map(({ pattern }) => pattern));
  }

  private aboutOf({ notes, key, category, tempo }: Pattern, channel: number): string {
    if (notes.length === 0) return 'no notes in these bars';
    const keys = notes.map((note) => note.key);
    const low = keys.reduce((least, one) => Math.min(least, one), 127);
    const high = keys.reduce((most, one) => Math.max(most, one), 0);
    const name = (one: number) => noteName(one, this.offer.middleC);
    const keyed = key ? `, in ${musicalKeyName(key)}` : '';
    return `channel ${channel} · ${category} · ${notes.length} notes, ${name(low)}–${name(high)}${keyed} · ${tempo}`;
  }
}
