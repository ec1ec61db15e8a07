import { createEnvironmentInjector, Injector, type EnvironmentInjector } from '@angular/core';
import { NavigationStart, Router } from '@angular/router';
import { newSong } from '@pentachord/core/model';
import { Actions } from '@ngrx/effects';
import { Subject } from 'rxjs';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { showEdits } from '../editing/show-edits';
import { session } from './session';
import { endStatus } from './status.effects';
import { StatusLine } from './status-line';

describe('what was said of a deed', () => {
  let status: StatusLine;
  const happened = new Subject<{ type: string }>();
  const went = new Subject<unknown>();
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['setTimeout'] });
    status = createEnvironmentInjector(
      [StatusLine],
      Injector.create({ providers: [] }) as EnvironmentInjector,
    ).get(StatusLine);
    endStatus(new Actions(happened), status, { events: went } as unknown as Router).subscribe();
  });
  afterEach(() => vi.useRealTimers());

  const edit = showEdits.songChanged({ songId: newSong('s', 'S').id, changes: { tempo: 99 } });
  it.each<[string, () => void, boolean]>([
    ['an edit', () => happened.next(edit), true],
    ['another place', () => happened.next(session.patchOpened({ patchId: 'p' })), true],
    ['another view', () => went.next(new NavigationStart(1, '/song')), true],
    ['a look', () => happened.next(session.layerSelected({ layerId: 'l' })), false],
  ])('ends with %s, but not with its own', (_what, deed, ends) => {
    status.say('Done.');
    deed();
    expect(status.words()).toBe('Done.');
    vi.runAllTimers();
    deed();
    expect(status.words()).toBe(ends ? '' : 'Done.');
  });
});
