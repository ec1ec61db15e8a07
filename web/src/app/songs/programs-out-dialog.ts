import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  MOST_PROGRAMS_OUT,
  placeInWords,
  type Place,
  type ProgramOut,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { CueEditing } from '../state/editing/cue-editing';
import type { AppState } from '../state/reducers';
import { selectDevices, selectThings } from '../state/selectors';
import { NumberField } from '../ui/numbers/number-field';

/** Programs that a cue chooses on instruments that no layer plays. */
@Component({
  selector: 'pc-programs-out-dialog',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatSelectModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Programs that {{ cue()?.name }} chooses elsewhere</h2>
    <mat-dialog-content>
      <p>
        They are sent when the cue is recalled, to instruments that play by themselves or have
        another player. What layers play chooses its own program.
      </p>
      <ul>
        @for (one of programs(); track $index; let at = $index) {
          <li>
            <mat-form-field appearance="outline" subscriptSizing="dynamic">
              <mat-select
                [aria-label]="'Instrument ' + (at + 1)"
                [value]="one.place"
                (selectionChange)="set(at, { place: $event.value })"
              >
                @for (place of places(); track place.place) {
                  <mat-option [value]="place.place">{{ place.words }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
            <span>
              channel
              <pc-number-field
                [label]="'Channel of instrument ' + (at + 1)"
                [value]="one.channel"
                [min]="1"
                [max]="16"
                (changed)="set(at, { channel: $event.value }, $event.gesture)"
              />
            </span>
            <span>
              program
              <pc-number-field
                [label]="'Program of instrument ' + (at + 1)"
                [value]="one.program + 1"
                [min]="1"
                [max]="128"
                (changed)="set(at, { program: $event.value - 1 }, $event.gesture)"
              />
            </span>
            <mat-checkbox
              [checked]="one.bank !== null"
              (change)="set(at, { bank: $event.checked ? { msb: 0, lsb: 0 } : null })"
            >
              bank
            </mat-checkbox>
            @if (one.bank; as bank) {
              <span>
                <pc-number-field
                  [label]="'Bank MSB of instrument ' + (at + 1)"
                  [value]="bank.msb"
                  (changed)="
                    set(at, { bank: { msb: $event.value, lsb: bank.lsb } }, $event.gesture)
                  "
                />
                <pc-number-field
                  [label]="'Bank LSB of instrument ' + (at + 1)"
                  [value]="bank.lsb"
                  (changed)="
                    set(at, { bank: { msb: bank.msb, lsb: $event.value } }, $event.gesture)
                  "
                />
              </span>
            }
            <button
              type="button"
              matButton
              [attr.aria-label]="'Remove instrument ' + (at + 1)"
              (click)="remove(at)"
            >
              remove
            </button>
          </li>
        } @empty {
          <li>None yet.</li>
        }
      </ul>
      <button
        type="button"
        matButton="outlined"
        [disabled]="programs().length >= most || places().length === 0"
        (click)="add()"
      >
        Add a program
      </button>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="filled" mat-dialog-close>Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: 10px;
      justify-items: start;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      align-items: center;
      gap: 14px;
      min-height: 40px;
      white-space: nowrap;
    }
    mat-form-field {
      width: 190px;
    }
  `,
})
export class ProgramsOutDialog {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly cueId = inject<string>(MAT_DIALOG_DATA);
  private readonly editing = inject(CueEditing);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly devices = this.store.selectSignal(selectDevices);
  protected readonly most = MOST_PROGRAMS_OUT;
  protected readonly cue = computed(() =>
    this.cueId in this.things().cues ? this.things().cues[this.cueId] : null,
  );
  protected readonly programs = computed(() => this.cue()?.programs ?? []);
  /** Instruments of the rig, and places that are named though nothing stands there. */
  protected readonly places = computed(() => {
    const here = this.devices()
      .filter(({ kind }) => kind === 'module' || kind === 'keyboard')
      .map(({ place, name }) => ({ place, words: name }));
    const gone = this.programs()
      .map(({ place }) => place)
      .filter((place) => !here.some((one) => one.place === place));
    const named = (place: Place) => ({ place, words: `${placeInWords(place)} (not here)` });
    return [...here, ...[...new Set(gone)].map(named)];
  });

  protected add(): void {
    const module = this.devices().find(({ kind }) => kind === 'module');
    const place = module?.place ?? this.places()[0].place;
    this.change([...this.programs(), { place, channel: 1, bank: null, program: 0 }]);
  }

  protected set(at: number, changes: Partial<ProgramOut>, gesture?: string): void {
    this.change(this.programs().with(at, { ...this.programs()[at], ...changes }), gesture);
  }

  protected remove(at: number): void {
    this.change(this.programs().toSpliced(at, 1));
  }

  private change(programs: ProgramOut[], gesture?: string): void {
    this.editing.changeCue(this.cueId, { programs }, 'programs of the cue changed', gesture);
  }
}
