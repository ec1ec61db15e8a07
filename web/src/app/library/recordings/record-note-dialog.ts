import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { FileToBring } from '../../state/recordings/bringing-in';
import { LONGEST_NOTE, NoteRecorder } from './note-recorder';

/** Decibels by which the shown peak falls from one reading to the next. */
const FALL = 0.5;

/** Records a note from a microphone or a line input; closed with its file, or with nothing. */
@Component({
  selector: 'pc-record-note-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Record a note</h2>
    <mat-dialog-content>
      @if (problem(); as words) {
        <p role="alert">{{ words }}</p>
      } @else {
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>input</mat-label>
          <mat-select [value]="input()" (valueChange)="listenTo($event)">
            @for (one of inputs(); track one.id) {
              <mat-option [value]="one.id">{{ one.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <p class="level">
          <span>level</span>
          <span
            class="bar"
            role="meter"
            aria-label="Input level"
            aria-valuemin="-60"
            aria-valuemax="0"
            [attr.aria-valuenow]="valueNow()"
            [attr.aria-valuetext]="peakInWords()"
            ><span [style.width.%]="share()" [class.hot]="peak() > -1"></span
          ></span>
          <span class="mono">{{ peakInWords() }}</span>
        </p>
        <p>
          Set the input so that the hardest stroke stays below 0 dB. What is silent before and
          behind the note is trimmed by itself. It can last two minutes.
        </p>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>called</mat-label>
          <input #box matInput [value]="name()" (input)="name.set(box.value)" />
        </mat-form-field>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      @if (isRecording()) {
        <button type="button" matButton="filled" (click)="finish()">
          Stop and keep ({{ seconds() }} s)
        </button>
      } @else {
        <button
          type="button"
          matButton="filled"
          [disabled]="!isReady() || name().trim() === ''"
          (click)="begin()"
        >
          Record
        </button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      padding-top: 8px;
    }
    mat-form-field {
      width: 100%;
      margin-top: 6px;
    }
    .level,
    p {
      margin: 10px 0;
    }
    .level {
      display: grid;
      grid-template-columns: auto 1fr 80px;
      gap: 12px;
      align-items: center;
    }
    .bar {
      height: 12px;
      border: 1px solid var(--hairline);
      background: var(--sheet);
    }
    .bar span {
      display: block;
      height: 100%;
      background: var(--sea);
    }
    .bar .hot {
      background: var(--alarm);
    }
  `,
})
export class RecordNoteDialog {
  private readonly dialog = inject<MatDialogRef<RecordNoteDialog, FileToBring>>(MatDialogRef);
  private readonly recorder = new NoteRecorder();
  protected readonly inputs = signal<readonly { id: string; name: string }[]>([]);
  protected readonly input = signal('default');
  protected readonly problem = signal('');
  protected readonly name = signal('note 1');
  protected readonly isReady = signal(false);
  protected readonly isRecording = signal(false);
  protected readonly peak = signal(-Infinity);
  protected readonly seconds = signal('0.0');
  protected readonly share = computed(() =>
    Math.max(0, Math.min(100, 100 + (this.peak() / 60) * 100)),
  );
  protected readonly valueNow = computed(() => Math.round(Math.max(-60, Math.min(0, this.peak()))));
  protected readonly peakInWords = computed(() =>
    this.peak() < -60 ? 'silent' : `${this.peak().toFixed(1).replace('-', '−')} dB`,
  );

  constructor() {
    this.recorder.onLevel = (peak, seconds) => {
      const now = peak > 0 ? 20 * Math.log10(peak) : -Infinity;
      // The hand is back at the input's knob before a stroke's peak has fallen out of sight.
      this.peak.update((before) => Math.max(now, before - FALL));
      this.seconds.set(seconds.toFixed(1));
      if (this.isRecording() && seconds >= LONGEST_NOTE) this.finish();
    };
    inject(DestroyRef).onDestroy(() => void this.recorder.close());
    void this.listenTo('default');
  }

  protected async listenTo(id: string): Promise<void> {
    this.isReady.set(false);
    try {
      await this.recorder.open(id);
      this.input.set(id);
      this.inputs.set(await this.recorder.inputs());
      this.isReady.set(true);
    } catch (error) {
      this.problem.set(
        error instanceof DOMException && error.name === 'NotAllowedError'
          ? 'The browser was not allowed to listen. Nothing was recorded. Allow the microphone for this page, then try again.'
          : 'There is no input that can be listened to. Nothing was recorded. Plug one in, then try again.',
      );
    }
  }

  protected begin(): void {
    this.recorder.begin();
    this.isRecording.set(true);
  }

  protected finish(): void {
    const file = this.recorder.finish();
    this.dialog.close({ name: `${this.name().trim()}.wav`, file });
  }
}
