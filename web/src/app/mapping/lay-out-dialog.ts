import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatRadioModule } from '@angular/material/radio';
import { MatSelectModule } from '@angular/material/select';
import {
  asInstrument,
  byName,
  conventionOf,
  oneAfterTheOther,
  onPads,
  proposedDynamics,
  stacked,
  type NamedMiddleC,
  type StrengthsPlaced,
} from '@pentachord/core/mapping';
import { MOST_ZONES, shortName, type Recording, type SampleZone } from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { NumberField } from '../ui/numbers/number-field';

/** What is laid out. */
export interface LayOutData {
  recordings: readonly Recording[];
  keys: { low: number; high: number };
  /** Keys that the pads of the rig send. */
  pads: readonly number[];
  named: NamedMiddleC;
  middleC: NoteNaming;
}

/** How it was laid out. */
export interface LaidOut {
  zones: readonly SampleZone[];
  dynamics: number;
  words: string;
}

type Way = 'instrument' | 'row' | 'pads' | 'name' | 'stack';

const WAYS: readonly { way: Way; name: string; about: string }[] = [
  {
    way: 'instrument',
    name: 'As an instrument',
    about:
      'roots in the middle of their keys, louder ones at higher velocities, alternates in turn',
  },
  {
    way: 'row',
    name: 'One after the other',
    about: 'some keys each, at their own pitch, played to their end',
  },
  { way: 'pads', name: 'On pads', about: 'one for each pad of the rig' },
  { way: 'name', name: 'By name', about: 'keys and velocities as the files say' },
  { way: 'stack', name: 'Stacked', about: 'all of them on all keys' },
];

/** Asks how recordings are to be laid out, and shows what comes of it. */
@Component({
  selector: 'pc-lay-out-dialog',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatRadioModule,
    MatSelectModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Lay out {{ data.recordings.length }} recordings</h2>
    <mat-dialog-content>
      <mat-radio-group aria-label="How" [value]="way()" (change)="way.set($event.value)">
        @for (one of ways; track one.way) {
          <mat-radio-button
            [value]="one.way"
            [disabled]="one.way === 'pads' && data.pads.length === 0"
          >
            <b>{{ one.name }}</b>
            <small>{{
              one.way === 'pads' && data.pads.length === 0 ? 'this rig has no pads' : one.about
            }}</small>
          </mat-radio-button>
        }
      </mat-radio-group>
      <div class="how">
        @if (way() === 'instrument') {
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-label>velocities</mat-label>
            <mat-select [value]="placed()" (valueChange)="placed.set($event)">
              <mat-option value="byLoudness">by loudness</mat-option>
              <mat-option value="evenly">evenly</mat-option>
              <mat-option value="crossfaded">crossfaded</mat-option>
            </mat-select>
          </mat-form-field>
        }
        @for (field of fields(); track field.label) {
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-label>{{ field.name }}</mat-label>
            <pc-number-field
              [kind]="field.isKey ? 'key' : 'plain'"
              [label]="field.label"
              [value]="field.value()"
              [min]="field.isKey ? 0 : 1"
              [max]="field.isKey ? 127 : 128"
              [middleC]="data.middleC"
              (changed)="field.value.set($event.value)"
            />
          </mat-form-field>
        }
      </div>
      <p role="status">
        {{ laid().length }} zones.
        @if (leftOut().length > 0) {
          Left out, since {{ whyLeftOut() }}: {{ leftOutInWords() }}.
        }
        {{ convention() }}
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      <button type="button" matButton="filled" [disabled]="laid().length === 0" (click)="take()">
        Lay out
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-radio-group {
      display: grid;
    }
    small {
      margin-left: 8px;
      color: var(--ink-soft);
    }
    .how {
      display: flex;
      align-items: start;
      gap: 10px;
      min-height: 56px;
      margin-top: 8px;
    }
    mat-form-field {
      width: 150px;
    }
  `,
})
export class LayOutDialog {
  protected readonly data = inject<LayOutData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<LayOutDialog, LaidOut>>(MatDialogRef);
  protected readonly ways = WAYS;
  protected readonly way = signal<Way>('instrument');
  protected readonly placed = signal<StrengthsPlaced>('byLoudness');
  protected readonly low = signal(this.data.keys.low);
  protected readonly high = signal(this.data.keys.high);
  protected readonly from = signal(36);
  protected readonly each = signal(1);
  /** Numbers that the way of laying out asks for. */
  protected readonly fields = computed(() => {
    if (this.way() === 'instrument')
      return [
        { name: 'from', label: 'Lowest key', isKey: true, value: this.low },
        { name: 'to', label: 'Highest key', isKey: true, value: this.high },
      ];
    if (this.way() !== 'row') return [];
    return [
      { name: 'from', label: 'First key', isKey: true, value: this.from },
      { name: 'keys each', label: 'Keys each', isKey: false, value: this.each },
    ];
  });

  protected readonly laid = computed((): SampleZone[] => this.laidOut().slice(0, MOST_ZONES));
  private readonly laidOut = computed((): SampleZone[] => {
    const laying = {
      recordings: this.data.recordings,
      middleC: this.data.named,
      newId: () => crypto.randomUUID(),
    };
    const keys = {
      low: Math.min(this.low(), this.high()),
      high: Math.max(this.low(), this.high()),
    };
    switch (this.way()) {
      case 'instrument':
        return asInstrument(laying, keys, this.placed()).zones;
      case 'row':
        return oneAfterTheOther(laying, this.from(), this.each());
      case 'pads':
        return onPads(laying, this.data.pads);
      case 'name':
        return byName(laying).zones;
      case 'stack':
        return stacked(laying);
    }
  });
  protected readonly leftOut = computed(() => {
    const laid = new Set(this.laid().map(({ recordingId }) => recordingId));
    return this.data.recordings.filter(({ id }) => !laid.has(id));
  });
  protected readonly whyLeftOut = computed(() => {
    if (this.laidOut().length > MOST_ZONES) return `a sound has ${MOST_ZONES} zones at most`;
    if (this.way() === 'row') return 'the keys end';
    return this.way() === 'pads' ? 'there are no more pads' : 'nothing tells their key';
  });
  protected readonly leftOutInWords = computed(() => {
    const names = this.leftOut().map(shortName);
    return names.slice(0, 4).join(', ') + (names.length > 4 ? ` and ${names.length - 4} more` : '');
  });
  /** Which convention of middle C the names follow. */
  protected readonly convention = computed(() => {
    const found = conventionOf(this.data.recordings);
    return found
      ? `By their names middle C is C${found.middleC}: ${found.agree} of ${found.of} agree with what was heard.`
      : '';
  });

  protected take(): void {
    const zones = this.laid();
    const known = Object.fromEntries(this.data.recordings.map((one) => [one.id, one]));
    const words = `laid out ${WAYS.find(({ way }) => way === this.way())?.name.toLowerCase() ?? ''}`;
    this.dialog.close({ zones, dynamics: proposedDynamics(zones, known), words });
  }
}
