import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  linkedSignal,
  resource,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { SHEET_PARTS, type SheetPart } from '@pentachord/core/exchange';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { selectSavingState } from '../state/saving/selectors';
import { saveFile } from '../ui/files/save-file';
import { SheetPages } from './sheet-pages';
import { sheetBytes } from './sheets-api';

const PART_NAMES: Readonly<Record<SheetPart, string>> = {
  order: 'running order',
  songs: 'a page a song',
  rig: 'the rig, for setting up',
};

/** Milliseconds for which wishes have to rest before pages are laid out. */
const RESTS_FOR = 150;

type Sheet = Uint8Array<ArrayBuffer>;

/** Of which night the sheet is. */
export interface SheetOf {
  showId: string;
  name: string;
}

/** Asks how the sheet for the stand is wanted, shows it, and saves it. */
@Component({
  selector: 'pc-sheet-dialog',
  imports: [MatButtonModule, MatButtonToggleModule, MatCheckboxModule, MatDialogModule, SheetPages],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Sheet for the stand</h2>
    <mat-dialog-content>
      <div class="wishes">
        <mat-button-toggle-group
          aria-label="Paper"
          [value]="paper()"
          (valueChange)="paper.set($event)"
        >
          <mat-button-toggle value="A4">A4</mat-button-toggle>
          <mat-button-toggle value="Letter">Letter</mat-button-toggle>
        </mat-button-toggle-group>
        @for (part of parts; track part.id) {
          <mat-checkbox [checked]="wanted().has(part.id)" (change)="want(part.id, $event.checked)">
            {{ part.name }}
          </mat-checkbox>
        }
        <mat-checkbox [checked]="large()" (change)="large.set($event.checked)">
          large, for the dark
        </mat-checkbox>
        <p role="status">
          @if (sheet.error(); as fault) {
            {{ told(fault) }}
          } @else if (wanted().size === 0) {
            Choose what is to stand on it.
          } @else if (!isReady()) {
            The pages are being laid out…
          } @else if (isBehind()) {
            What is not saved is not on it.
          }
        </p>
      </div>
      <div class="pages" tabindex="0" role="group" aria-label="The pages as they will be printed">
        @if (shown(); as bytes) {
          <pc-sheet-pages [bytes]="bytes" />
        }
      </div>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton mat-dialog-close>Done</button>
      <button type="button" matButton="filled" [disabled]="!isReady()" (click)="save()">
        Save as PDF
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      grid-template-columns: 210px minmax(0, 1fr);
      gap: 20px;
      overflow: hidden;
    }
    .wishes {
      display: grid;
      align-content: start;
      justify-items: start;
      gap: 4px;
    }
    .pages {
      height: 68vh;
      overflow-y: auto;
      padding: 12px;
      background: #8b93a3;
    }
    @media (max-width: 760px) {
      mat-dialog-content {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class SheetDialog {
  private readonly of = inject<SheetOf>(MAT_DIALOG_DATA);
  private readonly saving = inject<Store<AppState>>(Store).selectSignal(selectSavingState);
  protected readonly parts = SHEET_PARTS.map((id) => ({ id, name: PART_NAMES[id] }));
  protected readonly paper = signal<'A4' | 'Letter'>('A4');
  protected readonly large = signal(false);
  protected readonly wanted = signal<ReadonlySet<SheetPart>>(new Set(SHEET_PARTS));
  private readonly isSaving = computed(() => this.saving().state === 'saving');
  protected readonly isBehind = computed(() => this.saving().state === 'not saved');
  protected readonly sheet = resource({
    params: () => {
      const parts = SHEET_PARTS.filter((id) => this.wanted().has(id));
      // It is made of what is saved: what was changed just now is waited for.
      if (parts.length === 0 || this.isSaving()) return undefined;
      return { paper: this.paper(), large: this.large(), parts };
    },
    loader: async ({ params, abortSignal }) => {
      await new Promise((resolve) => setTimeout(resolve, RESTS_FOR));
      abortSignal.throwIfAborted();
      return sheetBytes(this.of.showId, params, abortSignal);
    },
  });
  /** What was laid out last stays until the next is. */
  private readonly last = linkedSignal<Sheet | null, Sheet | null>({
    source: () => (this.sheet.hasValue() ? this.sheet.value() : null),
    computation: (now, before) => now ?? before?.value ?? null,
  });
  protected readonly shown = computed(() => (this.wanted().size > 0 ? this.last() : null));
  protected readonly isReady = computed(() => this.sheet.hasValue() && this.shown() !== null);

  protected want(part: SheetPart, isWanted: boolean): void {
    const wanted = new Set(this.wanted());
    if (isWanted) wanted.add(part);
    else wanted.delete(part);
    this.wanted.set(wanted);
  }

  protected told(fault: Error): string {
    return fault.message;
  }

  protected save(): void {
    const bytes = this.shown();
    if (bytes) saveFile(`${this.of.name}.pdf`, bytes, 'application/pdf');
  }
}
