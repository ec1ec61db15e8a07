import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { barBeats } from '@pentachord/core/clock';
import {
  cutText,
  LONGEST_NAME,
  PATTERN_CATEGORIES,
  placedPattern,
  type Pattern,
  type PatternCategory,
  type PatternNote,
} from '@pentachord/core/model';
import { readyPattern, STEPS } from '@pentachord/core/patterns';
import { musicalKeyName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { eachFrame } from '../../live/frames';
import { PatternRecorder, type RecorderState } from '../../live/hands/pattern-recorder';
import { Live } from '../../live/live';
import type { AppState } from '../../state/reducers';
import { selectMiddleC, selectPatchSong } from '../../state/selectors';
import { PatternAuditioning } from '../../state/session/pattern-auditioning';
import { BandSound } from '../../ui/band/band-sound';
import { NoteChart } from '../../ui/band/note-chart';

const STATE_WORDS: Record<RecorderState, string> = {
  rests: 'Nothing is recorded.',
  countsIn: 'Counts in …',
  records: 'Records: play.',
};

/** Records a pattern from the keyboards; closed with it, or with nothing. */
@Component({
  selector: 'pc-record-pattern-dialog',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NoteChart,
  ],
  providers: [BandSound],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './record-pattern-dialog.html',
  styles: `
    mat-form-field {
      width: 226px;
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
      padding-top: 6px;
    }
    .state {
      display: flex;
      justify-content: space-between;
      margin: 12px 0 0;
      font-size: 16px;
    }
    .chart {
      height: 220px;
      margin: 6px 0 10px;
      padding: 6px 12px 12px;
      background: var(--sheet);
      border: 1px solid var(--hairline);
    }
    pc-note-chart {
      height: 180px;
    }
  `,
})
export class RecordPatternDialog {
  private readonly dialog = inject<MatDialogRef<RecordPatternDialog, Pattern>>(MatDialogRef);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly auditioning = inject(PatternAuditioning);
  protected readonly recorder = inject(PatternRecorder);
  protected readonly pieces = inject(BandSound).pieces;
  private readonly song = this.store.selectSignal(selectPatchSong);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly categories = PATTERN_CATEGORIES;
  protected readonly steps = STEPS;
  private readonly id = crypto.randomUUID();

  /** Bars that go round; 0 until it is stopped. */
  protected readonly bars = signal(2);
  protected readonly countIn = signal(1);
  protected readonly clicks = signal(true);
  protected readonly isKeyed = signal(true);
  /** Beats; 0 as it is played. */
  protected readonly step = signal(0);
  protected readonly category = signal<PatternCategory>('lines');
  protected readonly name = signal('my pattern');
  protected readonly state = signal<RecorderState>('rests');
  protected readonly place = signal('');
  protected readonly share = signal<number | null>(null);
  private readonly notes = signal<readonly PatternNote[]>([]);
  private readonly length = signal<number | null>(null);
  protected readonly passes = signal(0);
  protected readonly isNew = computed(() => this.passes() === 0 && this.state() === 'rests');
  protected readonly stateInWords = computed(() => {
    const passes = this.passes();
    const over = passes > 1 ? ` ${passes} passes over one another.` : '';
    if (this.state() === 'rests' && passes > 0) return `${this.notes().length} notes.${over}`;
    return STATE_WORDS[this.state()] + over;
  });
  protected readonly keyName = computed(() => {
    const song = this.song();
    return song ? musicalKeyName(song.sounding) : '';
  });
  protected readonly pattern = computed((): Pattern | null => {
    const song = this.song();
    const step = this.step();
    const metre = song?.metre ?? { beats: 4, unit: 4 };
    const notes = [...this.notes()];
    // While its length is not known it is drawn as far as it goes.
    const last = notes.reduce((end, { beat }) => Math.max(end, beat), 0);
    const bar = barBeats(metre);
    const length = this.length() ?? Math.ceil((Math.floor(last / bar) + 1) * bar);
    if (notes.length === 0) return null;
    return {
      ...{ id: this.id, name: cutText(this.name(), LONGEST_NAME), category: this.category() },
      ...{ tags: ['mine'], favourite: false, length, metre, tempo: this.tempo() },
      key: this.isKeyed() ? (song?.sounding ?? null) : null,
      quantise: step === 0 ? null : { step, strength: 1 },
      notes,
    };
  });

  constructor() {
    this.recorder.take = null;
    this.recorder.onNotes = () => this.look();
    eachFrame(() => {
      this.state.set(this.recorder.state);
      const { beat, toGo } = this.recorder;
      const counts = this.recorder.state !== 'rests';
      const length = this.length() ?? this.pattern()?.length ?? 1;
      this.share.set(counts && toGo <= 0 ? (beat % length) / length : null);
      this.place.set(
        counts ? (toGo > 0 ? `${Math.ceil(toGo)}` : `beat ${Math.floor(beat) + 1}`) : '',
      );
    });
    inject(DestroyRef).onDestroy(() => {
      this.recorder.stop();
      this.recorder.onNotes = () => undefined;
      this.live.band.auditioned.stop(this.id);
    });
  }

  protected begin(over: boolean): void {
    this.auditioning.stop();
    this.live.band.auditioned.stop(this.id);
    this.recorder.begin(
      { bars: this.bars() || null, countIn: this.countIn(), clicks: this.clicks() },
      over,
    );
    this.look();
  }

  protected keep(): void {
    const pattern = this.pattern();
    if (pattern) this.dialog.close(pattern);
  }

  /** Takes over what has been played; from its second round on it is heard while more is played over it. */
  private look(): void {
    const { take, state } = this.recorder;
    this.notes.set(take?.notes() ?? []);
    this.length.set(take?.length ?? null);
    this.passes.set(take?.passCount ?? 0);
    const pattern = this.pattern();
    const { auditioned } = this.live.band;
    if (state === 'rests' || !pattern || this.length() === null) {
      auditioned.stop(this.id);
      return;
    }
    const placed = placedPattern(this.id, this.id, 0);
    const sounding = this.song()?.sounding;
    if (!sounding) return;
    const ready = readyPattern(placed, pattern, { transpose: 0 }, sounding);
    auditioned.hear(ready, this.auditioning.layerIds(), this.recorder.soundsFrom);
  }

  private tempo(): number {
    return Math.round(this.live.player.clock.tempo * 100) / 100;
  }
}
