import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Kind, ValueOf } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { saving } from '../state/saving/saving';
import { selectConflict, selectThings } from '../state/selectors';

const NAMES: Record<Kind, string> = {
  shows: 'show',
  devices: 'device',
  songs: 'song',
  patches: 'patch',
  cues: 'cue',
  sounds: 'sound',
  keepsakes: 'keepsake',
};

/** One difference between two versions of a thing. */
interface Difference {
  what: string;
  mine: string;
  theirs: string;
}

/** Differences shown before the list is cut short. */
const MOST_SHOWN = 6;

/** Shows both versions of something that was saved elsewhere since, and lets the player choose. */
@Component({
  selector: 'pc-conflict-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (conflict(); as found) {
      <section role="alertdialog" aria-labelledby="conflict-title">
        <h2 id="conflict-title">
          This {{ name(found.kind) }} was {{ found.present ? 'saved' : 'removed' }} elsewhere since
        </h2>
        <p>Nothing is lost: yours is in this window, the other is on the server.</p>
        @if (differences().length > 0) {
          <table>
            <thead>
              <tr>
                <th></th>
                <th scope="col">Yours</th>
                <th scope="col">Saved elsewhere</th>
              </tr>
            </thead>
            <tbody>
              @for (line of differences(); track line.what) {
                <tr>
                  <th scope="row">{{ line.what }}</th>
                  <td data-testid="mine">{{ line.mine }}</td>
                  <td data-testid="theirs">{{ line.theirs }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
        <div class="choice">
          <button type="button" class="plain" (click)="keep()">Keep mine</button>
          <button type="button" class="plain" (click)="take()">Take the other</button>
        </div>
      </section>
    }
  `,
  styles: `
    section {
      position: fixed;
      z-index: 20;
      right: 16px;
      top: 56px;
      width: min(520px, calc(100vw - 32px));
      background: var(--sheet);
      border: 2px solid var(--alarm);
      border-radius: 8px;
      padding: 14px 16px;
      display: grid;
      gap: 10px;
      box-shadow: 0 8px 30px #16243a40;
    }
    h2 {
      font-size: 16px;
    }
    table {
      border-collapse: collapse;
      width: 100%;
      font-size: 13px;
    }
    th,
    td {
      text-align: left;
      padding: 3px 8px 3px 0;
      vertical-align: top;
      font-weight: 400;
    }
    thead th {
      color: var(--ink-soft);
    }
    .choice {
      display: flex;
      gap: 8px;
    }
  `,
})
export class ConflictPanel {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly things = this.store.selectSignal(selectThings);
  protected readonly conflict = this.store.selectSignal(selectConflict);
  protected readonly differences = computed(() => {
    const conflict = this.conflict();
    if (!conflict?.present) return [];
    const mine = this.things()[conflict.kind][conflict.id];
    return differencesOf(mine, conflict.present.value).slice(0, MOST_SHOWN);
  });

  protected name(kind: Kind): string {
    return NAMES[kind];
  }

  protected keep(): void {
    this.store.dispatch(saving.mineKept());
  }

  protected take(): void {
    this.store.dispatch(saving.theirsTaken());
  }
}

/** What differs between two versions, by the names of the parts. */
function differencesOf(mine: ValueOf<Kind>, theirs: ValueOf<Kind>): Difference[] {
  const found: Difference[] = [];
  const compare = (path: string, a: unknown, b: unknown) => {
    if (JSON.stringify(a) === JSON.stringify(b)) return;
    if (isPlain(a) && isPlain(b)) {
      for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
        compare(path ? `${path} · ${labelOf(a, key)}` : labelOf(a, key), a[key], b[key]);
    } else found.push({ what: path, mine: inWords(a), theirs: inWords(b) });
  };
  compare('', mine, theirs);
  return found;
}

function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null;
}

/** The name of a list's member where it has one, else its key. */
function labelOf(parent: Record<string, unknown>, key: string): string {
  const child = parent[key];
  return isPlain(child) && typeof child['name'] === 'string' ? child['name'] : key;
}

function inWords(value: unknown): string {
  if (value === undefined) return '—';
  if (isPlain(value))
    return typeof value['name'] === 'string' ? value['name'] : JSON.stringify(value);
  return typeof value === 'string' ? value : JSON.stringify(value);
}
