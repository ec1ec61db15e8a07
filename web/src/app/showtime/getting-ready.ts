import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import type { RecordedStanding } from '../live/audio/recorded-sounds';
import type { Fetched } from '../live/audio/show-sounds';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectRecordingsById } from '../state/recordings/selectors';
import { selectRecordingRoom } from '../state/recordings/room';
import { selectMissing } from '../state/selectors';

/** Names that are told before the rest is only counted. */
const MOST_TOLD = 6;

/** The whole show being fetched before its first cue: how far it is, and what is missing, by name. */
@Component({
  selector: 'pc-getting-ready',
  imports: [MatButtonModule, MatProgressBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (told(); as now) {
      <section role="status" [class.bad]="now.isBad" aria-label="Getting ready">
        <p>
          <b>{{ now.title }}</b> {{ now.words }}
        </p>
        @if (now.done !== null) {
          <mat-progress-bar [value]="now.done * 100" aria-label="Making the sounds" />
        } @else {
          <button type="button" matButton="outlined" (click)="read.set(now.words)">Dismiss</button>
        }
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      gap: 8px;
      align-items: center;
      padding: 10px 18px;
      border: 2px solid var(--line-on-night);
      border-radius: 8px;
      font-size: 19px;
      margin-bottom: 10px;
    }
    .bad {
      grid-template-columns: 1fr auto;
      border-color: var(--alarm-on-night);
    }
    mat-progress-bar {
      --mat-progress-bar-active-indicator-color: var(--now);
      --mat-progress-bar-track-color: var(--line-on-night);
    }
  `,
})
export class GettingReady {
  private readonly live = inject(Live);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly missing = this.store.selectSignal(selectMissing);
  private readonly recordings = this.store.selectSignal(selectRecordingsById);
  private readonly room = this.store.selectSignal(selectRecordingRoom);
  private readonly standing = signal<RecordedStanding | null>(null);
  private readonly fetched = signal<Fetched>({ of: 0, made: 0, coming: [], failed: [] });
  /** What the player has read and needs no more. */
  protected readonly read = signal('');

  protected readonly told = computed(() => {
    const { of, made, coming, failed } = this.fetched();
    if (coming.length > 0)
      return {
        title: `Making the sounds: ${made} of ${of}.`,
        words: `Still to come: ${named(coming)}. You can play what is here.`,
        done: of === 0 ? 0 : made / of,
        isBad: false,
      };
    const gone = [...failed, ...this.missing(), ...this.wantingRecordings()];
    const parts = [
      ...(gone.length > 0 ? [`${named(gone)}. Everything else plays.`] : []),
      ...this.aboutRoom(),
    ];
    const words = parts.join(' ');
    if (parts.length === 0 || this.read() === words) return null;
    return { title: gone.length > 0 ? 'Missing:' : 'Recordings:', words, done: null, isBad: true };
  });

  private wantingRecordings(): string[] {
    return [...(this.standing()?.problems.keys() ?? [])].map(
      (id) => `the recording ${this.recordings()[id]?.name ?? id.slice(0, 8)}`,
    );
  }

  /** What of the recordings does not fit, said before the night and not in it. */
  private aboutRoom(): string[] {
    const standing = this.standing();
    if (!standing) return [];
    const words: string[] = [];
    if (standing.notKept > 0)
      words.push(
        `${standing.notKept} recordings found no room in this browser: they play as long as the server answers. Free some room on the disk, then load the page anew.`,
      );
    if (standing.bytes > standing.budget) {
      const { silence, unreached } = this.room();
      words.push(
        `They take ${megabytes(standing.bytes)} of the ${megabytes(standing.budget)} that this machine should give them; ${megabytes(silence)} of it are silence at their ends, ${megabytes(unreached)} lie on keys that no layer reaches.`,
      );
    }
    return words;
  }

  constructor() {
    eachFrame(() => {
      const standing = this.live.showSounds.recordings;
      const before = this.standing();
      if (
        standing.bytes !== before?.bytes ||
        standing.notKept !== before.notKept ||
        standing.problems.size !== before.problems.size
      )
        this.standing.set(standing);
      const now = this.live.showSounds.fetched;
      const last = this.fetched();
      const same =
        now.of === last.of &&
        now.made === last.made &&
        now.failed.length === last.failed.length &&
        now.coming[0] === last.coming[0];
      if (!same) this.fetched.set(now);
    });
  }
}

function named(names: readonly string[]): string {
  const told = names.slice(0, MOST_TOLD).join(', ');
  return names.length > MOST_TOLD ? `${told} and ${names.length - MOST_TOLD} more` : told;
}

function megabytes(bytes: number): string {
  return `${Math.round(bytes / 1e6)} MB`;
}
