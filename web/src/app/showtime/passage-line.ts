import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { TimedEntry } from '@pentachord/core/setlist';
import { InView } from '../ui/focus/in-view';

/** A cue of the song that is played. */
export interface PassedCue {
  id: string;
  name: string;
}

/** Where one is: the songs of the night as wide as they are long, and the cues of the song in turn. */
@Component({
  selector: 'pc-passage-line',
  imports: [InView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol class="night" aria-label="The night">
      @for (leg of legs(); track leg.id) {
        <li
          [class.past]="leg.at < here()"
          [class.now]="leg.at === here()"
          [class.gap]="leg.isGap"
          [attr.aria-current]="leg.at === here() ? 'step' : null"
          [style.flex-grow]="leg.grow"
        >
          <span>{{ leg.name }}</span>
        </li>
      }
    </ol>
    <ol class="song" pcInView aria-label="Cues of the song">
      @for (cue of cues(); track cue.id; let at = $index) {
        <li
          [class.past]="at < cueAt()"
          [class.now]="at === cueAt()"
          [attr.aria-current]="at === cueAt() ? 'step' : null"
        >
          {{ cue.name }}
        </li>
      }
    </ol>
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    ol {
      display: flex;
      gap: 4px;
      margin: 0;
      padding: 0;
      list-style: none;
      min-width: 0;
    }
    li {
      flex: 1 1 0;
      min-width: 0;
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
      color: var(--soft);
    }
    .night li {
      container-type: inline-size;
      min-height: 26px;
      border-top: 6px solid var(--line-on-night);
      padding-top: 2px;
      font-size: 15px;
    }
    .night span {
      display: block;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    @container (max-width: 34px) {
      .night span {
        display: none;
      }
    }
    .night .gap {
      border-top-style: dotted;
    }
    .night .past {
      border-top-color: var(--soft);
    }
    .night .now {
      border-top-color: var(--now);
      color: var(--words-on-night);
      font-weight: 600;
    }
    .song {
      gap: 4px 18px;
      overflow-x: auto;
      scrollbar-width: none;
    }
    .song li {
      flex: none;
      max-width: 320px;
      font-size: 18px;
    }
    .song .past {
      text-decoration: line-through;
      text-decoration-thickness: 1px;
    }
    .song .now {
      color: var(--now);
      font-weight: 700;
    }
  `,
})
export class PassageLine {
  readonly entries = input.required<readonly TimedEntry[]>();
  readonly entryId = input.required<string | null>();
  readonly cues = input.required<readonly PassedCue[]>();
  readonly cueId = input.required<string | null>();

  protected readonly legs = computed(() =>
    this.entries().map(({ entry, name, lengthSeconds }, at) => ({
      id: entry.id,
      at,
      name,
      isGap: entry.kind !== 'song',
      grow: Math.max(1, lengthSeconds),
    })),
  );
  protected readonly here = computed(() =>
    this.entries().findIndex(({ entry }) => entry.id === this.entryId()),
  );
  protected readonly cueAt = computed(() => this.cues().findIndex(({ id }) => id === this.cueId()));
}
