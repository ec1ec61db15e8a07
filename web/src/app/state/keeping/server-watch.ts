import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import type { AppState } from '../reducers';
import { Api } from '../saving/api';
import { baseOf, saving, thingKey } from '../saving/saving';
import { selectBase, selectUnsaved } from '../saving/selectors';
import { selectDatabase, selectLoading } from '../selectors';
import { KINDS } from '@pentachord/core/model';
import { loading } from '../loading/loading';

/** Milliseconds between two looks at whether the server answers: while it does, and while it does not. */
const BETWEEN_LOOKS = 5000;
const WHILE_AWAY = 1500;
/** While it stays away it is asked at growing intervals, up to this one. */
const LONGEST_WAIT = 8000;

/** Whether the server answers. When it is back after the desk was opened without it, the desk follows what changed there. */
@Injectable({ providedIn: 'root' })
export class ServerWatch {
  private readonly api = inject(Api);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly away = signal(false);
  /** True while it does not answer. */
  readonly isAway = this.away.asReadonly();
  private readonly stranger = signal(false);
  /** True while another database than the one on this desk answers at its address. */
  readonly isOther = this.stranger.asReadonly();
  private wait = WHILE_AWAY;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
    this.timer = setTimeout(() => void this.look(), WHILE_AWAY);
  }

  private async look(): Promise<void> {
    const answers = await this.api.answers();
    this.away.set(answers === null);
    this.wait = answers === null ? Math.min(LONGEST_WAIT, this.wait * 1.5) : WHILE_AWAY;
    try {
      if (answers !== null) {
        await this.compare(answers);
        await this.catchUp();
      }
    } catch {
      // Looked at again in a moment.
    }
    this.timer = setTimeout(() => void this.look(), answers ? BETWEEN_LOOKS : this.wait);
  }

  /** Whether the database that answers is the one that is on this desk. */
  private async compare(answers: string): Promise<void> {
    const { isKept, status } = await firstValueFrom(this.store.select(selectLoading));
    const own = await firstValueFrom(this.store.select(selectDatabase));
    this.stranger.set(status === 'open' && !isKept && own !== null && own !== answers);
  }

  /** Takes over what changed on the server while the desk stood on its own copy. */
  private async catchUp(): Promise<void> {
    const { isKept, status } = await firstValueFrom(this.store.select(selectLoading));
    if (!isKept || status !== 'open') return;
    const answered = await this.api.everything();
    const database = await firstValueFrom(this.store.select(selectDatabase));
    if (answered.repertoire.database !== database) {
      // Another database altogether: what is changed here waits for its own.
      this.store.dispatch(loading.asked());
      return;
    }
    const theirs = baseOf(answered);
    const mine = await firstValueFrom(this.store.select(selectBase));
    const unsaved = await firstValueFrom(this.store.select(selectUnsaved));
    const changed = new Set(unsaved.map(({ kind, id }) => thingKey(kind, id)));
    for (const kind of KINDS)
      for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
        if (!key.startsWith(`${kind}/`) || changed.has(key)) continue;
        if (theirs[key]?.revision === mine[key]?.revision) continue;
        const id = key.slice(kind.length + 1);
        this.store.dispatch(
          saving.followed({ conflict: { kind, id, present: theirs[key] ?? null } }),
        );
      }
    this.store.dispatch(loading.caughtUp());
  }
}
