import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatListModule } from '@angular/material/list';
import {
  newOf,
  swapRecordings,
  type NamedMiddleC,
  type Recordings,
  type ZoneChanges,
} from '@pentachord/core/mapping';
import { shortName, type Recording, type SampleZone } from '@pentachord/core/model';

/** Zones that are to get other recordings: one alone, or all of a sound. */
export interface SwapData {
  zones: readonly SampleZone[];
  known: Recordings;
  /** What there is to take. */
  recordings: readonly Recording[];
  named: NamedMiddleC;
  /** Recordings that are chosen to begin with. */
  chosen: readonly string[];
}

/** Asks which recordings zones are to have from now on; closed with what changes of them. */
@Component({
  selector: 'pc-swap-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatListModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>
      {{
        isOne
          ? 'Another recording for this zone'
          : 'Other recordings for ' + data.zones.length + ' zones'
      }}
    </h2>
    <mat-dialog-content>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>Search recordings</mat-label>
        <input #box matInput cdkFocusInitial [value]="words()" (input)="words.set(box.value)" />
      </mat-form-field>
      <mat-selection-list
        aria-label="Recordings"
        [multiple]="!isOne"
        (selectionChange)="choose($event.source.selectedOptions.selected)"
      >
        @for (one of found(); track one.id) {
          <mat-list-option [value]="one.id" [selected]="chosen().has(one.id)">{{
            nameOf(one)
          }}</mat-list-option>
        }
      </mat-selection-list>
      <p role="status">
        Ranges, gain, envelopes and everything else of the zones stay.
        @if (!isOne && chosen().size > 0) {
          {{ changed() }} of {{ data.zones.length }} zones find theirs by name and pitch.
          @if (swapped().unmatched.length > 0) {
            Nothing was found for: {{ unmatchedInWords() }}.
          }
          @if (swapped().unused.length > 0) {
            No zone for: {{ unusedInWords() }}.
          }
        }
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      <button type="button" matButton="filled" [disabled]="changed() === 0" (click)="take()">
        Swap
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin-top: 6px;
    }
    mat-selection-list {
      height: 300px;
      overflow: auto;
      border: 1px solid var(--hairline);
    }
    p {
      min-height: 66px;
    }
  `,
})
export class SwapDialog {
  protected readonly data = inject<SwapData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<SwapDialog, ZoneChanges>>(MatDialogRef);
  protected readonly isOne = this.data.zones.length === 1;
  protected readonly words = signal('');
  protected readonly chosen = signal<ReadonlySet<string>>(new Set(this.data.chosen));
  protected readonly nameOf = shortName;
  protected readonly found = computed(() => {
    const words = this.words().trim().toLowerCase();
    return this.data.recordings.filter(({ name }) => name.toLowerCase().includes(words));
  });
  protected readonly swapped = computed(() => {
    const set = this.data.recordings.filter(({ id }) => this.chosen().has(id));
    const [zone] = this.data.zones;
    if (this.isOne && set.length === 1)
      return {
        changes: { [zone.id]: newOf(zone, set[0], this.data.named) },
        unmatched: [],
        unused: [],
      };
    return swapRecordings(this.data.zones, this.data.known, set, this.data.named);
  });
  protected readonly changed = computed(() => Object.keys(this.swapped().changes).length);
  protected readonly unmatchedInWords = computed(() =>
    inShort(
      this.swapped().unmatched.map((id) => {
        const zone = this.data.zones.find((one) => one.id === id);
        const recording = this.data.known[zone?.recordingId ?? ''];
        return recording ? shortName(recording) : 'a missing recording';
      }),
    ),
  );
  protected readonly unusedInWords = computed(() => inShort(this.swapped().unused.map(shortName)));

  protected choose(options: readonly { value: string }[]): void {
    const shown = new Set(this.found().map(({ id }) => id));
    // What the search hides stays as it was.
    const hidden = this.isOne ? [] : [...this.chosen()].filter((id) => !shown.has(id));
    this.chosen.set(new Set([...hidden, ...options.map(({ value }) => value)]));
  }

  protected take(): void {
    this.dialog.close(this.swapped().changes);
  }
}

function inShort(names: readonly string[]): string {
  return names.slice(0, 5).join(', ') + (names.length > 5 ? ` and ${names.length - 5} more` : '');
}
