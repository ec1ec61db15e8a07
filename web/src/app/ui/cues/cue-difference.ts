import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { cueDifferences, type CueDifference, type Heard } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { CueEditing } from '../../state/editing/cue-editing';
import type { AppState } from '../../state/reducers';
import { selectSong, selectWrittenPatch } from '../../state/selectors';
import { LayerBadge } from '../layer-badge';

/** Differences that are told at one time. */
const MOST = 4;

/** What is heard otherwise than the current cue has it, line by line, and what can be done about it. Nothing when nothing is. */
@Component({
  selector: 'pc-cue-difference',
  imports: [LayerBadge, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (found().length > 0) {
      <section aria-label="Changed since the cue was taken" data-testid="since">
        <b>{{ editing.cue()?.name }}</b>
        <span class="since">since it was taken:</span>
        <ul>
          @for (line of lines(); track line.what + line.layerId) {
            <li>
              @if (line.index >= 0) {
                <pc-layer-badge [index]="line.index" />
              }
              {{ line.what }} <span class="mono">{{ line.before }} → {{ line.now }}</span>
            </li>
          }
          @if (found().length > lines().length) {
            <li>and {{ found().length - lines().length }} more</li>
          }
        </ul>
        <button type="button" matButton="outlined" (click)="editing.takeOver()">
          Take it over <kbd>{{ keys().takeOver }}</kbd>
        </button>
        <button type="button" matButton="outlined" (click)="editing.putBack()">
          Put it back <kbd>{{ keys().putBack }}</kbd>
        </button>
      </section>
    }
  `,
  styles: `
    section {
      display: flex;
      align-items: center;
      gap: 10px;
      min-height: 34px;
      padding: 1px 12px;
      border-left: 3px solid var(--lamp);
      background: #fff6e4;
      font-size: 13px;
    }
    .since {
      flex: none;
      color: #4d4630;
    }
    ul {
      flex: 1;
      min-width: 0;
      display: flex;
      flex-wrap: wrap;
      gap: 2px 12px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      align-items: center;
      gap: 5px;
      white-space: nowrap;
    }
    button {
      flex: none;
    }
  `,
})
export class CueDifferenceBar {
  /** The keys that do the same, as they are shown. */
  readonly keys = input({ takeOver: 'T', putBack: 'P' });
  protected readonly editing = inject(CueEditing);
  private readonly live = inject(Live);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly song = this.store.selectSignal(selectSong);
  /** What is heard, asked anew when something has moved. */
  private readonly heard = signal<Heard | null>(null);
  private seen = -1;

  protected readonly found = computed((): CueDifference[] => {
    const cue = this.editing.cue();
    const patch = this.patch();
    const song = this.song();
    const heard = this.heard();
    return cue && patch && song && heard ? cueDifferences(cue, patch, heard, song.tempo) : [];
  });
  protected readonly lines = computed(() =>
    this.found()
      .slice(0, MOST)
      .map((line) => ({
        ...line,
        index: this.patch()?.layers.findIndex(({ id }) => id === line.layerId) ?? -1,
      })),
  );

  constructor() {
    eachFrame(() => {
      const { changes } = this.live.runner;
      if (changes === this.seen) return;
      this.seen = changes;
      this.heard.set(this.live.runner.heard());
    });
  }
}
