import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatProgressBar } from '@angular/material/progress-bar';
import { wavInParts } from '@pentachord/core/exchange';
import { stretchOf, type WholeTake } from '@pentachord/core/logbook';
import { clockTime } from '@pentachord/core/units';
import { Bouncing, LONGEST_BOUNCE, type Bounced } from '../live/logbook/bouncing';
import { saveBlob } from '../ui/files/save-file';
import { lanesOf } from './roll-lanes';

/** What is to be rendered. */
export interface BounceOf {
  whole: WholeTake;
  /** What the files are called, without what tells them apart. */
  name: string;
}

/** What each file holds. */
type Parts = 'mix' | 'layers' | 'songs';

const PARTS: readonly { id: Parts; name: string }[] = [
  { id: 'mix', name: 'one file' },
  { id: 'songs', name: 'a file a song' },
  { id: 'layers', name: 'a file a layer' },
];
/** Files at most. */
const MOST_FILES = 60;
const NO_LAYERS: ReadonlySet<string> = new Set();

interface Job {
  name: string;
  whole: WholeTake;
  alone: ReadonlySet<string>;
}

/** Renders what was played to sound: asks how, shows how far it is, and saves the files. */
@Component({
  selector: 'pc-bounce-dialog',
  imports: [MatButtonModule, MatButtonToggleModule, MatDialogModule, MatProgressBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>As sound (.wav)</h2>
    <mat-dialog-content>
      <mat-button-toggle-group
        aria-label="Files"
        [disabled]="isBusy()"
        [value]="parts()"
        (change)="parts.set($event.value)"
      >
        @for (part of allParts; track part.id) {
          <mat-button-toggle [value]="part.id">{{ part.name }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
      <mat-button-toggle-group
        aria-label="Resolution"
        [disabled]="isBusy()"
        [value]="bits()"
        (change)="bits.set($event.value)"
      >
        <mat-button-toggle [value]="24">24 bit</mat-button-toggle>
        <mat-button-toggle [value]="32">floating point</mat-button-toggle>
      </mat-button-toggle-group>
      <p>
        With the effects, levels and pans that were heard, through the limiter. What modules outside
        play is not in it.
      </p>
      <p role="status" [class.bad]="problem() !== '' || tooLong() !== ''">{{ told() }}</p>
      <mat-progress-bar
        [class.unseen]="!isBusy()"
        [value]="done() * 100"
        aria-label="How much is rendered"
      />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (isBusy()) {
        <button type="button" matButton (click)="cancel()">Cancel</button>
      } @else {
        <button type="button" matButton mat-dialog-close>Done</button>
      }
      <button
        type="button"
        matButton="filled"
        [disabled]="isBusy() || tooLong() !== ''"
        (click)="render()"
      >
        Render and save
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: 14px;
      justify-items: start;
      min-height: 190px;
    }
    mat-progress-bar {
      width: 100%;
    }
    .bad {
      color: var(--alarm);
      font-weight: 600;
    }
  `,
})
export class BounceDialog {
  private readonly of = inject<BounceOf>(MAT_DIALOG_DATA);
  private readonly bouncing = inject(Bouncing);
  protected readonly allParts = PARTS;
  protected readonly parts = signal<Parts>('mix');
  protected readonly bits = signal<24 | 32>(24);
  protected readonly done = signal(0);
  private readonly doing = signal('');
  private readonly ended = signal('');
  protected readonly problem = signal('');
  protected readonly isBusy = computed(() => this.doing() !== '');
  private abort: AbortController | null = null;

  private readonly jobs = computed((): Job[] => {
    const { whole, name } = this.of;
    switch (this.parts()) {
      case 'mix':
        return [{ name, whole, alone: NO_LAYERS }];
      case 'layers':
        return this.bouncing
          .layersIn(whole)
          .map((layer) => ({ name: `${name}, ${layer.name}`, whole, alone: new Set([layer.id]) }));
      case 'songs':
        return lanesOf(whole).legs.map((leg, i) => ({
          name: `${name}, ${i + 1} ${leg.name}`,
          whole: stretchOf(whole, leg.from, leg.until),
          alone: NO_LAYERS,
        }));
    }
  });
  protected readonly tooLong = computed(() => {
    const jobs = this.jobs();
    const longest = Math.max(0, ...jobs.map(({ whole }) => whole.take.seconds));
    if (longest > LONGEST_BOUNCE)
      return `${clockTime(longest)} is more than can be rendered at once (${clockTime(LONGEST_BOUNCE)}). Choose a stretch of it on the roll, or a file a song.`;
    if (jobs.length > MOST_FILES)
      return `That would be ${jobs.length} files. Choose a stretch of it on the roll.`;
    return jobs.length === 0 ? 'No layer sounds in it.' : '';
  });
  protected readonly told = computed(
    () => this.problem() || this.doing() || this.tooLong() || this.ended() || this.offered(),
  );
  private readonly offered = computed(() => {
    const jobs = this.jobs();
    const seconds = jobs.reduce((sum, { whole }) => sum + whole.take.seconds, 0);
    return jobs.length === 1
      ? `${clockTime(seconds)} of sound.`
      : `${jobs.length} files, ${clockTime(seconds)} of sound.`;
  });

  protected cancel(): void {
    this.abort?.abort(new Error('Cancelled. What was saved before stays.'));
  }

  protected async render(): Promise<void> {
    const jobs = this.jobs();
    const abort = new AbortController();
    this.abort = abort;
    this.problem.set('');
    this.ended.set('');
    let ratio = Infinity;
    try {
      for (const [i, { name, whole, alone }] of jobs.entries()) {
        const which = jobs.length > 1 ? `${i + 1} of ${jobs.length}: ` : '';
        const bounced = await this.bouncing.bounce(whole, alone, {
          signal: abort.signal,
          progress: (what, done) => {
            this.done.set(done);
            this.doing.set(what === 'sounds' ? 'Making the sounds…' : `${which}rendering ${name}…`);
          },
        });
        this.doing.set(`${which}writing ${name}…`);
        saveBlob(`${name}.wav`, await wavOf(bounced, this.bits(), abort.signal));
        ratio = Math.min(ratio, bounced.ratio);
      }
      this.ended.set(`Saved. It was rendered ${Math.round(ratio)} times as fast as it sounds.`);
    } catch (fault) {
      const words = fault instanceof Error ? fault.message : String(fault);
      if (abort.signal.aborted) this.ended.set(words);
      else this.problem.set(words);
    } finally {
      this.doing.set('');
      this.done.set(0);
    }
  }
}

/** A WAV file, written a second of sound at a time, so that the page goes on answering. */
async function wavOf(
  { left, right, rate }: Bounced,
  bits: 24 | 32,
  signal: AbortSignal,
): Promise<Blob> {
  const parts: Blob[] = [];
  let waiting: Uint8Array<ArrayBuffer>[] = [];
  for (const part of wavInParts({ channels: [left, right], sampleRate: rate, bits })) {
    waiting.push(part);
    if (waiting.length < 4) continue;
    // Handed to the browser, which may put it on disk.
    parts.push(new Blob(waiting));
    waiting = [];
    await new Promise((resolve) => setTimeout(resolve));
    signal.throwIfAborted();
  }
  return new Blob([...parts, ...waiting], { type: 'audio/wav' });
}
