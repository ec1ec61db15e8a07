import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import {
  isHeard,
  trace,
  traceInWords,
  type CompiledPatch,
  type PlayedNote,
} from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import type { AppState } from '../../state/reducers';
import { selectLevelsNow } from '../../state/selectors';
import { bandLooks, nextInWords } from '../band/band-looks';
import { LayerBadge } from '../layer-badge';

/** Trace: what each layer did with the last played note, and why the others stayed silent. */
@Component({
  selector: 'pc-trace-panel',
  imports: [LayerBadge],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (followed(); as result) {
      <p class="played" data-testid="trace-note">
        <b class="mono">{{ played().note }}</b> {{ played().from }}
      </p>
      @if (result.starts.length > 0) {
        <p>
          This key starts <b>{{ result.starts.join(' and ') }}</b>. No layer answers it.
        </p>
        @for (words of waits(); track words) {
          <p>{{ words }}</p>
        }
      } @else {
        <ol>
          @for (line of lines(); track line.id) {
            <li [class.sounds]="line.sounds" [attr.data-layer]="line.name">
              <pc-layer-badge [index]="line.index" />
              <span
                ><b>{{ line.name }}</b> {{ line.words }}</span
              >
            </li>
          } @empty {
            <li>This patch has no layers yet.</li>
          }
        </ol>
        @if (result.layers.length > 0 && !anySounds()) {
          <p class="none" role="status">No layer answers this note.</p>
        }
      }
    } @else {
      <p class="empty">
        Play any key and read here, layer by layer, what sounded and why the others did not.
      </p>
    }
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      overflow: auto;
      font-size: 13px;
    }
    .played {
      margin: 0 0 8px;
    }
    .empty {
      margin-top: 6px;
      color: var(--ink-soft);
    }
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
      display: grid;
      gap: 6px;
    }
    li {
      display: grid;
      grid-template-columns: 24px 1fr;
      gap: 6px;
      color: var(--ink-soft);
    }
    li b {
      font-weight: 600;
      display: block;
    }
    li:not(.sounds) pc-layer-badge {
      opacity: 0.55;
    }
    .sounds {
      color: var(--ink);
    }
    .none {
      margin-top: 8px;
      color: var(--alarm);
      font-weight: 600;
    }
  `,
})
export class TracePanel {
  readonly patch = input.required<CompiledPatch | null>();
  readonly note = input.required<PlayedNote | null>();
  readonly middleC = input<NoteNaming>(4);

  private readonly live = inject(Live);
  private readonly levels = inject<Store<AppState>>(Store).selectSignal(selectLevelsNow);
  protected readonly followed = computed(() => {
    const patch = this.patch();
    const note = this.note();
    if (!patch || !note) return null;
    return trace(patch, note, (id) => this.live.player.switchedTo(id), this.levels());
  });
  private readonly looks = bandLooks(() =>
    this.followed()?.startsOf.length ? this.patch() : null,
  );
  /** How long what the key began is still to wait, accompanist by accompanist. */
  protected readonly waits = computed(() => {
    const startsOf = this.followed()?.startsOf ?? [];
    return (this.patch()?.band.accompanists ?? []).flatMap(({ id, source }, i) => {
      const look = startsOf.includes(id) && this.looks().at(i);
      const words = look && nextInWords(look);
      return words ? [`${source.name}: ${words}`] : [];
    });
  });
  protected readonly played = computed(() => {
    const result = this.followed();
    if (!result) return { note: '', from: '' };
    const device = this.patch()?.rig.names[result.played.device] ?? '';
    const { key, velocity, channel } = result.played;
    return {
      note: `${noteName(key, this.middleC())} v${velocity}`,
      from: `${device}, channel ${channel}`,
    };
  });
  protected readonly lines = computed(() => {
    const result = this.followed();
    const patch = this.patch();
    if (!result || !patch) return [];
    return result.layers.map((entry) => ({
      id: entry.layer.id,
      index: entry.layer.index,
      name: entry.layer.name,
      sounds: isHeard(entry),
      words: traceInWords(entry, result, patch, this.middleC()),
    }));
  });
  protected readonly anySounds = computed(() => this.lines().some((line) => line.sounds));
}
