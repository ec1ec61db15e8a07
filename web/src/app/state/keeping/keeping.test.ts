import 'fake-indexeddb/auto';
import { Injector, runInInjectionContext } from '@angular/core';
import { newPatch, newShow, newNight, type Patch, type Saved } from '@pentachord/core/model';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { PlayingWindow } from '../../live/window/playing-window';
import { loading } from '../loading/loading';
import {
  baseOf,
  documentReducer,
  NOTHING_SAVED,
  saving,
  savingReducer,
  sendable,
  unsavedThings,
} from '../saving/saving';
import { EMPTY_DOCUMENT, thingsOf, type Answered } from '../show/document';
import type { History } from '../editing/history';
import { DeskCopy, type KeptPlace } from './desk-copy';
import { historyStillTrue, historyToKeep } from './kept-history';
import { keptAnswer, keptChanges } from './opening';

/** When the browser's storage answers, and what it is told when that is gone. */
const gate = vi.hoisted(() => ({
  opened: Promise.resolve(),
  terminated: (): void => undefined,
}));
vi.mock('idb', async (original) => {
  const real = await original<typeof import('idb')>();
  const openDB = async (...[name, version, events]: Parameters<typeof real.openDB>) => {
    gate.terminated = () => events?.terminated?.();
    await gate.opened;
    return real.openDB(name, version, events);
  };
  return { ...real, openDB };
});

const patch = (name: string): Patch => newPatch('patch', 'song', 0, name);
const saved = <T>(value: T, revision = 3): Saved<T> => ({ revision, value });
const answered = (name = 'As saved', revision = 3): Answered => ({
  repertoire: {
    database: 'one',
    rigs: [],
    shows: [saved(newShow('show', 'A show', '2027-01-01', 'rig'))],
    devices: [],
    songs: [],
    patches: [saved(patch(name), revision)],
    cues: [],
  },
  sounds: [],
  patterns: [],
  keepsakes: [],
});
const bookmark = {
  ...{ showId: 'show', entryId: 'entry', songId: 'song', cueId: 'cue' },
  ...{ patchId: 'patch', keyboardId: null },
};

/** The copy of a window, which is the one that plays or is not. */
function newCopy(plays = true): DeskCopy {
  const window = { plays: () => plays };
  const injector = Injector.create({ providers: [{ provide: PlayingWindow, useValue: window }] });
  return runInInjectionContext(injector, () => new DeskCopy());
}

/** What the browser keeps over pages. */
let kept: Map<string, string>;
/** And what it keeps for one window. */
let own: Map<string, string>;
beforeEach(() => {
  own = new Map();
  gate.opened = Promise.resolve();
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => own.get(key) ?? null,
    setItem: (key: string, text: string) => void own.set(key, text),
  });
  vi.stubGlobal('indexedDB', new IDBFactory());
  kept = new Map();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
  });
});
afterEach(() => vi.unstubAllGlobals());

describe('the copy of the desk in this browser', () => {
  it('holds for the next page what the server had, what is not saved and where one is', async () => {
    const copy = newCopy();
    expect(await copy.read()).toBeNull();
    copy.keepBase(baseOf(answered()), 'one');
    const unsaved = { kind: 'patches' as const, id: 'patch', revision: 3, value: patch('Mine') };
    copy.keepUnsaved([{ key: 'patches/patch', unsaved }], 'one');
    copy.keepPlace(bookmark);
    copy.keepNight({ ...newNight('show'), begunAt: 5 });

    const next = newCopy();
    await copy.read();
    const found = await next.read();
    expect(found?.database).toBe('one');
    expect(found?.base()).toEqual(baseOf(answered()));
    expect(found?.unsaved).toEqual([unsaved]);
    const place = await next.readPlace();
    expect(place.bookmark).toEqual(bookmark);
    expect(place.nights).toEqual([{ ...newNight('show'), begunAt: 5 }]);

    next.keepUnsaved([{ key: 'patches/patch', unsaved: null }], 'one');
    expect((await next.read())?.unsaved).toEqual([]);
  });

  it('is written whole once the storage is there, late or anew, and says so while it is not', async () => {
    let answer: () => void = () => undefined;
    gate.opened = new Promise((resolve) => (answer = resolve));
    vi.useFakeTimers({ toFake: ['setTimeout'] });
    const copy = newCopy();
    const read = copy.read();
    await vi.advanceTimersByTimeAsync(1600);
    vi.useRealTimers();
    expect([await read, copy.problem(), copy.beginnings()]).toEqual([null, 'no storage', 0]);
    copy.keepBase(baseOf(answered()), 'one');
    answer();
    await vi.waitFor(() => expect([copy.problem(), copy.beginnings()]).toEqual(['', 1]));
    // The browser throws it away: what is opened then is empty.
    copy.keepBase(baseOf(answered()), 'one');
    await copy.read();
    vi.stubGlobal('indexedDB', new IDBFactory());
    gate.terminated();
    await vi.waitFor(() => expect(copy.beginnings()).toBe(2));
    copy.keepBase(baseOf(answered()), 'one');
    expect((await copy.read())?.base()).toEqual(baseOf(answered()));
  });

  it('is written whole once there is room again, since what found none is not in it', async () => {
    const copy = newCopy();
    copy.keepBase(baseOf(answered()), 'one');
    await copy.read();
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room', 'QuotaExceededError');
    });
    const unsaved = { kind: 'patches' as const, id: 'patch', revision: 3, value: patch('Mine') };
    copy.keepUnsaved([{ key: 'patches/patch', unsaved }], 'one');
    expect((await copy.read())?.unsaved).toEqual([]);
    expect([copy.problem(), copy.beginnings()]).toEqual(['storage full', 0]);
    put.mockRestore();
    copy.keepPlace(bookmark);
    await copy.read();
    expect([copy.problem(), copy.beginnings()]).toEqual(['', 1]);
    copy.keepUnsaved([{ key: 'patches/other', unsaved: null }], 'one');
    expect((await copy.read())?.unsaved).toEqual([unsaved]);
  });

  it('is the playing window’s word on where the show is played, and each window’s on where it is itself', async () => {
    newCopy().keepPlace(bookmark);
    own.clear();
    const desk = newCopy(false);
    desk.keepPlace({ ...bookmark, songId: 'elsewhere' });
    desk.keepNight({ ...newNight('show'), begunAt: 5 });
    expect((await desk.readPlace()).bookmark?.songId).toBe('elsewhere');
    own.clear();
    expect(await newCopy().readPlace()).toEqual({ bookmark, nights: [] });
  });

  it('writes only what is of another revision, takes out what is gone, and begins anew for another database', async () => {
    const copy = newCopy();
    copy.keepBase(baseOf(answered()), 'one');
    const { repertoire, ...rest } = answered('Newer', 4);
    copy.keepBase(baseOf({ ...rest, repertoire: { ...repertoire, shows: [] } }), 'one');
    expect(Object.keys((await copy.read())?.base() ?? {})).toEqual(['patches/patch']);
    expect((await copy.read())?.base()['patches/patch'].value.name).toBe('Newer');
    const unsaved = { kind: 'patches' as const, id: 'patch', revision: 4, value: patch('Mine') };
    copy.keepUnsaved([{ key: 'patches/patch', unsaved }], 'one');
    copy.keepBase({}, 'two');
    const found = await copy.read();
    expect([found?.database, Object.keys(found?.base() ?? {})]).toEqual(['two', []]);
    // What was changed for the other one is never laid over this one, and waits.
    expect(found?.unsaved).toEqual([]);
    copy.keepBase({}, 'one');
    expect((await copy.read())?.unsaved).toEqual([unsaved]);
  });

  it('writes a change at once, and those that follow it fast together a little later, the last of each', async () => {
    const copy = newCopy();
    copy.keepBase({}, 'one');
    const keep = (step: number) => {
      const value = patch(`Step ${step}`);
      const unsaved = { kind: 'patches' as const, id: 'patch', revision: 1, value };
      copy.keepUnsaved([{ key: 'patches/patch', unsaved }], 'one');
    };
    const found = async (by: DeskCopy) => (await by.read())?.unsaved[0].value?.name;
    keep(0);
    await vi.waitFor(() => expect(copy.isWriting).toBe(false));
    for (let step = 1; step < 50; step++) keep(step);
    expect(await found(newCopy())).toBe('Step 0');
    expect(copy.isWriting).toBe(true);
    await vi.waitFor(() => expect(copy.isWriting).toBe(false));
    expect(await found(newCopy())).toBe('Step 49');
    // Whoever reads here need not wait.
    keep(50);
    expect(await found(copy)).toBe('Step 50');
    expect(copy.isWriting).toBe(false);
  });

  it('does not bring back a change that was saved before a slow disk had followed', async () => {
    const copy = newCopy();
    copy.keepBase({}, 'one');
    const unsaved = { kind: 'patches' as const, id: 'patch', revision: 1, value: patch('First') };
    const keep = (one: typeof unsaved | null) =>
      copy.keepUnsaved([{ key: 'patches/patch', unsaved: one }], 'one');
    const found = async () => (await newCopy().read())?.unsaved.map(({ value }) => value);
    keep(unsaved);
    await vi.waitFor(() => expect(copy.isWriting).toBe(false));
    expect(await found()).toEqual([patch('First')]);
    // The disk is behind: it holds the first, when another was made and both are saved.
    keep({ ...unsaved, value: patch('Second') });
    keep(null);
    expect(await found()).toEqual([]);
    // What the next page has found so is gone for good, and nothing is left to be remembered.
    await vi.waitFor(() => expect(kept.get('pentachord settled')).toBe('[]'));
    keep({ ...unsaved, value: patch('Third') });
    await vi.waitFor(() => expect(copy.isWriting).toBe(false));
    expect(await found()).toEqual([patch('Third')]);
  });

  it('passes over what cannot be read, thing by thing', async () => {
    const copy = newCopy();
    const base = baseOf(answered());
    copy.keepBase({ ...base, 'patches/broken': saved({ id: 'broken' }) as never }, 'one');
    const unsaved = { kind: 'patches' as const, id: 'other', revision: 1, value: patch('Twin') };
    copy.keepUnsaved([{ key: 'patches/other', unsaved }], 'one');
    const found = await copy.read();
    expect(Object.keys(found?.base() ?? {}).sort()).toEqual(['patches/patch', 'shows/show']);
    // A value under another id than its own is none.
    expect(found?.unsaved).toEqual([]);
    kept.set('pentachord place', '{"at":');
    expect(await copy.readPlace()).toEqual<KeptPlace>({ bookmark: null, nights: [] });
  });

  it('takes of two places the one that was written last', async () => {
    const copy = newCopy();
    copy.keepPlace(bookmark);
    await copy.read();
    own.clear();
    const quick = JSON.parse(kept.get('pentachord place') ?? '') as { at: number };
    const older = { at: quick.at - 10, value: { ...bookmark, cueId: 'old' } };
    kept.set('pentachord place', JSON.stringify(older));
    expect((await newCopy().readPlace()).bookmark?.cueId).toBe('cue');
    const newer = { at: quick.at + 10, value: { ...bookmark, cueId: 'new' } };
    kept.set('pentachord place', JSON.stringify(newer));
    expect((await newCopy().readPlace()).bookmark?.cueId).toBe('new');
  });

  it('says that a store is full or that there is none, and remembers the place as long as the page is open', async () => {
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      setItem: () => {
        throw new DOMException('no room', 'QuotaExceededError');
      },
    });
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new DOMException('not here', 'SecurityError');
      },
    });
    const copy = newCopy();
    copy.keepPlace(bookmark);
    expect(copy.problem()).toBe('storage full');
    expect(await copy.read()).toBeNull();
    expect(copy.problem()).toBe('no storage');
    expect((await copy.readPlace()).bookmark).toEqual(bookmark);
    expect(copy.isWriting).toBe(false);
  });
});

describe('opening with changes that were kept', () => {
  const mine = { kind: 'patches' as const, id: 'patch', revision: 3, value: patch('Mine') };
  const opened = (server: Answered, unsaved: Parameters<typeof thingsOf>[0]['unsaved']) => {
    const action = loading.loaded({
      ...server,
      unsaved,
      ...{ showId: 'show', wasHere: true, isKept: false },
    });
    const state = savingReducer(NOTHING_SAVED, action);
    const { things } = documentReducer(EMPTY_DOCUMENT, action);
    return { state, things, unsaved: unsavedThings(things, state.base) };
  };

  it('shows them, and sends them from the revision they were made from', () => {
    const { things, unsaved } = opened(answered(), [mine]);
    expect(things.patches['patch'].name).toBe('Mine');
    expect(unsaved).toEqual([mine]);
  });

  it('names that revision too when the server has gone on since, so that it is told as a conflict', () => {
    const { state, unsaved } = opened(answered('Theirs', 7), [mine]);
    expect(unsaved).toMatchObject([{ id: 'patch', revision: 3 }]);
    const present = saved(patch('Theirs'), 7);
    const conflict = { kind: 'patches' as const, id: 'patch', present };
    const refused = savingReducer(state, saving.conflictMet({ conflict }));
    expect(sendable(unsaved, refused)).toEqual([]);
    expect(savingReducer(refused, saving.mineKept()).base['patches/patch'].revision).toBe(7);
  });

  it('makes what is new, removes what was removed, and tells of what is gone there', () => {
    const added = { ...mine, id: 'new', revision: 0, value: { ...patch('New'), id: 'new' } };
    const removed = { kind: 'shows' as const, id: 'show', revision: 3, value: null };
    const gone = { ...mine, id: 'gone', value: { ...patch('Gone'), id: 'gone' } };
    const { things, unsaved } = opened(answered(), [added, removed, gone]);
    expect(Object.keys(things.patches).sort()).toEqual(['gone', 'new', 'patch']);
    expect(things.shows).toEqual({});
    expect(unsaved.map(({ id, revision }) => [id, revision])).toEqual(
      expect.arrayContaining([
        ['new', 0],
        ['gone', 3],
        ['show', 3],
      ]),
    );
  });

  it('belongs to its own database alone', () => {
    const desk = { database: 'two', base: () => baseOf(answered()), unsaved: [mine] };
    expect(keptChanges(desk, answered())).toEqual([]);
    expect(keptChanges({ ...desk, database: 'one' }, answered())).toEqual([mine]);
    expect(keptChanges(null, answered())).toEqual([]);
    expect(keptAnswer({ ...desk, database: 'one' })).toEqual(answered());
  });
});

describe('what can be undone', () => {
  const step = (id: string, words = id): History['past'][number] => ({
    ...{ words, place: { kind: 'patches', id }, gesture: null },
    forth: [{ op: 'replace', path: ['patches', id, 'name'], value: words }],
    back: [{ op: 'replace', path: ['patches', id, 'name'], value: 'before' }],
  });
  const things = {
    ...EMPTY_DOCUMENT.things,
    patches: { a: { ...patch('a'), id: 'a' }, b: { ...patch('b'), id: 'b' } },
  };
  const made: History = {
    past: [step('a'), step('b')],
    future: [step('a', 'again')],
    undoing: null,
  };
  const keep = async (history: History) => {
    const copy = newCopy();
    copy.keepHistory({ database: 'one', ...historyToKeep(history, things) });
    await copy.read();
  };
  const read = async (now = things, database = 'one') => {
    const { kept, window } = await newCopy().readHistory();
    return historyStillTrue(kept, { database, window }, now);
  };

  it('is there again in the same window, of what stands as it was left', async () => {
    await keep(made);
    expect(await read()).toEqual({ past: made.past, future: made.future });
    const other = {
      ...things,
      patches: { ...things.patches, b: { ...things.patches.b, name: 'x' } },
    };
    expect(await read(other)).toEqual({ past: [step('a')], future: made.future });
    expect(await read(things, 'another database')).toBeNull();
    // Another window has none, and keeps its own beside it; of many the latest ones are kept.
    const inWindow = async <T>(name: string, work: () => Promise<T>) => {
      own.set('pentachord window', name);
      return work();
    };
    const first = own.get('pentachord window') ?? '';
    expect(await inWindow('b', () => read())).toBeNull();
    await inWindow('b', () => keep({ ...made, future: [] }));
    expect((await inWindow(first, () => read()))?.future).toEqual(made.future);
    for (const name of ['c', 'd', 'e']) await inWindow(name, () => keep(made));
    expect((await inWindow('b', () => read()))?.future).toEqual([]);
    expect(await inWindow(first, () => read())).toBeNull();
  });

  it('is bounded, the latest kept, and what is no history is none', async () => {
    const many = Array.from({ length: 90 }, (_, at) => step('a', `step ${at}`));
    await keep({ past: many, future: [], undoing: null });
    const kept = await read();
    expect(kept?.past.length).toBeLessThan(80);
    expect(kept?.past.at(-1)?.words).toBe('step 89');
    const copy = newCopy();
    copy.keepHistory({ database: 'one', past: [{ words: 1 }] });
    await copy.read();
    expect(await read()).toBeNull();
  });
});
