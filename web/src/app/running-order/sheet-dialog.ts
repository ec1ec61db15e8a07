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
import { saveFile } from '../ui/files/save-file';
import { SheetPages } from './sheet-pages';
import { sheetBytes, type SheetPart } from './sheets-api';

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
          } @else if (sheet.isLoading()) {
            The pages are being laid out…
          } @else if (wanted().size === 0) {
            Choose what is to stand on it.
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
  protected readonly parts: readonly { id: SheetPart; name: string }[] = [
    { id: 'order', name: 'running order' },
    { id: 'songs', name: 'a page a song' },
    { id: 'rig', name: 'the rig, for setting up' },
  ];
  protected readonly paper = signal<'A4' | 'Letter'>('A4');
  protected readonly large = signal(false);
  protected readonly wanted = signal<ReadonlySet<SheetPart>>(new Set(['order', 'songs', 'rig']));
  protected readonly sheet = resource({
    params: () => {
      const parts = this.parts.map(({ id }) => id).filter((id) => this.wanted().has(id));
      return parts.length > 0
        ? { showId: this.of.showId, paper: this.paper(), large: this.large(), parts }
        : undefined;
    },
    loader: async ({ params, abortSignal }) => {
      await new Promise((resolve) => setTimeout(resolve, RESTS_FOR));
      abortSignal.throwIfAborted();
      return sheetBytes(params, abortSignal);
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
