import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  copyFileSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import BetterSqlite3 from 'better-sqlite3';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { fillIn } from '../demo/fill.js';
import { superfluous } from './backups.js';
import { openDatabase } from './database.js';
import { DataFolder, type DataFolderOptions } from './data-folder.js';
import { Store } from './store.js';

const TIDE = 'demo-saltglass-tide';
let folder: string;
let file: string;
const open = new Set<DataFolder>();
/** The clock of the backups; it moves on by a second with every look. */
let clock: number;

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'pentachord-'));
  file = join(folder, 'pentachord.sqlite');
  clock = Date.UTC(2027, 7, 14, 12);
});
afterEach(async () => {
  for (const keeping of open) await keeping.close();
  open.clear();
  await rm(folder, { recursive: true, force: true });
});

async function start(more: Partial<DataFolderOptions> = {}): Promise<DataFolder> {
  const keeping = await DataFolder.open(folder, {
    log: pino({ level: 'silent' }),
    fill: fillIn,
    now: () => new Date((clock += 1000)),
    ...more,
  });
  open.add(keeping);
  return keeping;
}

async function stop(keeping: DataFolder): Promise<void> {
  open.delete(keeping);
  await keeping.close();
}

function storeOf({ store }: DataFolder): Store {
  if (!store) throw new Error('the database is not open');
  return store;
}

async function rename(keeping: DataFolder, name: string): Promise<void> {
  const store = storeOf(keeping);
  const present = await store.find('patches', TIDE);
  if (!present) throw new Error('the patch is not there');
  const outcome = await store.save('patches', { ...present, value: { ...present.value, name } });
  if (outcome.kind !== 'done') throw new Error(outcome.kind);
}

async function nameOf(keeping: DataFolder): Promise<string | undefined> {
  return (await storeOf(keeping).find('patches', TIDE))?.value.name;
}

/** Changes the database behind the program's back. */
function spoil(sql: string): void {
  const bare = new BetterSqlite3(file);
  bare.pragma('foreign_keys = OFF');
  bare.exec(sql);
  bare.close();
}

const print = () => createHash('sha256').update(readFileSync(file)).digest('hex');

describe('a damaged thing', () => {
  it('is put right from a backup that holds the same revision, and told of', async () => {
    await stop(await start());
    spoil(`update layers set level = level - 0.5 where patch_id = '${TIDE}'`);
    const keeping = await start();
    const { healed, damaged } = keeping.state();
    expect(damaged).toEqual([]);
    expect(healed).toMatchObject([{ kind: 'patches', id: TIDE }]);
    const levels = (await storeOf(keeping).find('patches', TIDE))?.value.layers.map((l) => l.level);
    await stop(keeping);
    await stop(await start());
    const again = await start();
    expect(again.state()).toMatchObject({ healed: [], damaged: [] });
    const [backup] = again.state().backups.slice(-1);
    expect((await storeOf(again).find('patches', TIDE))?.value.layers.map((l) => l.level)).toEqual(
      levels,
    );
    expect(await again.look(backup.name)).toMatchObject({ differences: [], damaged: 0 });
  });

  it('is left out and named when it cannot be read; the rest opens, and the newest backup is offered', async () => {
    const first = await start();
    await rename(first, 'saved since the backup');
    const bells = await storeOf(first).find('songs', 'demo-nine-bells');
    if (bells) await storeOf(first).save('songs', bells);
    await stop(first);
    spoil(`update layers set keys = '{"low":9' where patch_id = '${TIDE}';
           update songs set length_seconds = -1 where id = 'demo-nine-bells'`);
    const keeping = await start();
    const { damaged, backups } = keeping.state();
    expect(damaged).toMatchObject([
      { kind: 'songs', id: 'demo-nine-bells', lost: true },
      { kind: 'patches', name: 'saved since the backup', lost: true },
    ]);
    const document = await storeOf(keeping).repertoire();
    expect(document.songs).toHaveLength(6);
    // Its place in the night stays, with what is otherwise tonight, and outlives a save of the show.
    const [show] = document.shows;
    expect(show.value.order).toHaveLength(8);
    await storeOf(keeping).save('shows', show);
    expect((await storeOf(keeping).repertoire()).shows[0].value.order).toEqual(show.value.order);
    const patches = new Set(document.patches.map(({ value }) => value.id));
    expect(patches.has(TIDE)).toBe(false);
    expect(document.cues.every(({ value }) => patches.has(value.patchId))).toBe(true);

    const [, patch] = damaged;
    expect(patch.offer).toBe(backups.at(-1)?.name);
    const offered = patch.offer ?? '';
    expect(await keeping.bringThingBack(offered, 'patches', TIDE)).toBeNull();
    expect(await nameOf(keeping)).not.toBe('saved since the backup');
    expect(keeping.state().damaged).toHaveLength(1);
  });

  it('whose reading alone tells nothing is noticed by its checksum, and can be opened', async () => {
    const first = await start();
    await rename(first, 'saved since the backup');
    await stop(first);
    spoil(`update patches set name = 'saved rince the backup' where id = '${TIDE}'`);
    const keeping = await start();
    expect(keeping.state().damaged).toMatchObject([{ id: TIDE, lost: false }]);
    await rename(keeping, 'saved anew');
    expect(keeping.state().damaged).toEqual([]);
  });

  it('leaves no stranger behind: what hangs loose is named', async () => {
    await stop(await start());
    spoil(`update songs set id = 'demo-saltglasz' where id = 'demo-saltglass'`);
    const keeping = await start();
    const named = keeping.state().damaged.map(({ kind, id }) => `${kind}/${id}`);
    expect(named).toContain(`patches/${TIDE}`);
    expect(named).toContain('songs/demo-saltglasz');
    expect(await storeOf(keeping).find('shows', 'demo-show')).toBeTruthy();
  });
});

describe('a database that cannot be opened', () => {
  const damages: [string, () => void][] = [
    ['is no database', () => writeFileSync(file, 'x'.repeat(9000))],
    ['is cut off', () => writeFileSync(file, readFileSync(file).subarray(0, 20_000))],
    ['is empty', () => writeFileSync(file, '')],
  ];
  it.each(damages)(
    'because it %s stays as it is, and a backup can be brought back',
    async (_, harm) => {
      const first = await start();
      await rename(first, 'in the backup');
      await first.backUp('changes');
      await stop(first);
      harm();
      const before = print();
      const keeping = await start();
      expect(keeping.store).toBeNull();
      const { closed, backups } = keeping.state();
      expect(closed).toContain('Nothing was changed. There are 2 backups');
      expect(print()).toBe(before);
      let opened = 0;
      keeping.onOpened = () => opened++;
      expect(await keeping.bringBack(backups[0].name)).toBe(true);
      expect(opened).toBe(1);
      expect(await nameOf(keeping)).toBe('in the backup');
      expect(readdirSync(folder).some((name) => name.startsWith('damaged-'))).toBe(true);
    },
  );

  it('says so in plain words when there is no backup either', async () => {
    writeFileSync(file, '');
    await expect(start()).rejects.toThrow(/is empty \(0 bytes\)\. Nothing was changed\./);
    writeFileSync(file, 'x'.repeat(9000));
    await expect(start()).rejects.toThrow(/Put a good copy in its place/);
    expect(readFileSync(file, 'utf8')).toBe('x'.repeat(9000));
  });

  it('because it is newer, in use, or no file at all says so', async () => {
    await stop(await start());
    const bare = new BetterSqlite3(file);
    bare.exec('begin immediate');
    await expect(start()).rejects.toThrow(/in use by another program/);
    bare.exec('commit');
    bare.exec(`insert into knex_migrations (name, batch) values ('999-later', 9)`);
    bare.close();
    const before = print();
    await expect(start()).rejects.toThrow(/written by a newer Pentachord/);
    expect(print()).toBe(before);
    await rm(file);
    mkdirSync(file);
    await expect(start()).rejects.toThrow(/is a folder, and a database is wanted there/);
  });

  it('because a file stands where its folder should be says so', async () => {
    const inTheWay = join(folder, 'in-the-way');
    writeFileSync(inTheWay, '');
    const asked = DataFolder.open(inTheWay, {
      log: pino({ level: 'silent' }),
      fill: () => Promise.resolve(),
    });
    await expect(asked).rejects.toThrow(/is a file, and a folder is wanted there/);
  });
});

describe('a folder', () => {
  it('belongs to one program at a time, whose address the other is told', async () => {
    const first = await start();
    first.answersAt('http://127.0.0.1:1234');
    await expect(start()).rejects.toThrow(/already: http:\/\/127\.0\.0\.1:1234/);
    await stop(first);
    await start();
  });

  it('of several first starts at once lets one make the database', async () => {
    const started = await Promise.allSettled([start(), start(), start()]);
    expect(started.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const [{ store }] = [...open];
    expect(await store?.all('shows')).toHaveLength(1);
  });

  it('that cannot be written is opened for playing, and says why nothing is saved', async () => {
    await stop(await start());
    const before = print();
    const keeping = await start({ unwritable: () => 'the disk can only be read' });
    const store = storeOf(keeping);
    expect(keeping.state().readOnly).toContain('the disk can only be read');
    const present = await store.find('patches', TIDE);
    if (!present) throw new Error('the patch is not there');
    expect(await store.save('patches', present)).toMatchObject({ kind: 'unwritable' });
    expect(await store.find('shows', 'demo-show')).toBeTruthy();
    await stop(keeping);
    expect(print()).toBe(before);
  });

  it('is not written when there is nothing to bring up to date', async () => {
    await stop(await start());
    await stop(await start());
    const before = print();
    const backups = readdirSync(join(folder, 'backups'));
    await stop(await start());
    expect(print()).toBe(before);
    expect(readdirSync(join(folder, 'backups'))).toEqual(backups);
    expect(statSync(file).mode & 0o777).toBe(0o600);
  });
});

describe('a backup', () => {
  it('is made before tables are brought up to date, which happens wholly', async () => {
    await stop(await start());
    const { down } = await import('../migrations/005-repertoire.js');
    const goingThrough = await import('../migrations/006-going-through.js');
    const ties = await import('../migrations/009-ties.js');
    const choosers = await import('../migrations/008-choosers.js');
    const placesOfDevices = await import('../migrations/007-places.js');
    const counting = await import('../migrations/010-counting.js');
    const recordings = await import('../migrations/011-recordings.js');
    const patterns = await import('../migrations/012-patterns.js');
    const movedBands = await import('../migrations/013-moved-bands.js');
    const takes = await import('../migrations/015-takes.js');
    const knex = await openDatabase(file);
    const whole = await new Store(knex).repertoire();
    await takes.down(knex);
    await movedBands.down(knex);
    await patterns.down(knex);
    await recordings.down(knex);
    await counting.down(knex);
    await ties.down(knex);
    await choosers.down(knex);
    await placesOfDevices.down(knex);
    await goingThrough.down(knex);
    await down(knex);
    await knex('knex_migrations').where('name', '>=', '005').delete();
    expect(Object.keys(await knex('songs').columnInfo())).toContain('show_id');
    await knex.destroy();
    const keeping = await start();
    expect(keeping.state().backups.map(({ reason }) => reason)).toContain('migration');
    expect(keeping.state().damaged).toEqual([]);
    const again = await storeOf(keeping).repertoire();
    const { songs } = whole;
    // Older tables know no choosers and no accompanists, and no layer that obeys aftertouch.
    const patches = whole.patches.map((saved) => ({
      ...saved,
      value: {
        ...saved.value,
        ...{ choosers: [], accompanists: [], bandKeys: [] },
        controls: saved.value.controls.filter(({ target }) => target.kind !== 'accompanist'),
        layers: saved.value.layers.map((layer) => ({
          ...layer,
          obeys: layer.obeys.filter((what) => what !== 'aftertouch'),
        })),
      },
    }));
    expect(again).toMatchObject({ songs, patches });
    // Cues stand evenly over their songs, as those of the demo do, to the second.
    const places = (cues: typeof whole.cues) => cues.map(({ value }) => value.atSeconds);
    places(again.cues).forEach((at, i) => {
      expect(Math.abs(at - places(whole.cues)[i])).toBeLessThanOrEqual(1);
    });
    expect(again.cues.map(({ value }) => ({ ...value, atSeconds: 0 }))).toEqual(
      whole.cues.map(({ value }) => ({ ...value, atSeconds: 0, band: {} })),
    );
    // What stood on the show's stage is a rig now, and the show points to it.
    const [show] = again.shows;
    expect(again.rigs).toMatchObject([
      { value: { id: show.value.rigId, name: 'Rig of Night Tide at Pier Nine' } },
    ]);
    expect(again.devices.map(({ value }) => value)).toEqual(
      whole.devices.map(({ value }) => ({ ...value, rigId: show.value.rigId })),
    );
    expect(show.value.order).toEqual(whole.shows[0].value.order);
    const sounds = await storeOf(keeping).sounds();
    expect(sounds.find(({ value }) => value.category === 'outside')?.value.origin).toMatchObject({
      place: 'module1',
    });
  });

  it('is made while there are changes, and not when there are none', async () => {
    const keeping = await start();
    expect(await keeping.backUp('changes')).toBeNull();
    await rename(keeping, 'changed');
    expect(await keeping.backUp('changes')).toMatchObject({ reason: 'changes' });
    expect(await keeping.backUp('changes')).toBeNull();
  });

  it('says what is in it and what differs from now, and is brought back whole, over revisions of its own', async () => {
    const keeping = await start();
    const [backup] = keeping.state().backups;
    await rename(keeping, 'changed since');
    const store = storeOf(keeping);
    const show = await store.find('shows', 'demo-show');
    if (!show) throw new Error('the show is not there');
    const order = show.value.order.filter(
      (entry) => entry.kind !== 'song' || entry.songId !== 'demo-nine-bells',
    );
    await store.save('shows', { ...show, value: { ...show.value, order } });
    await store.remove('songs', 'demo-nine-bells', 1);
    const look = await keeping.look(backup.name);
    expect(look?.shows).toMatchObject([{ name: 'Night Tide at Pier Nine', songs: 7 }]);
    expect(look?.differences).toContainEqual(
      expect.objectContaining({ kind: 'patches', name: 'changed since', where: 'both' }),
    );
    expect(look?.differences?.filter(({ where }) => where === 'backup').length).toBeGreaterThan(2);

    const stale = await store.find('patches', TIDE);
    await keeping.bringBack(backup.name);
    expect((await storeOf(keeping).repertoire()).songs).toHaveLength(7);
    if (!stale) throw new Error('the patch is not there');
    // A page that was open before does not overwrite what was brought back.
    expect(await storeOf(keeping).save('patches', stale)).toMatchObject({ kind: 'stale' });
    const [present] = keeping.state().backups;
    expect(present.reason).toBe('start');
    const before = keeping.state().backups.find(({ reason }) => reason === 'bringing-back');
    await keeping.bringBack(before?.name ?? '');
    expect(await nameOf(keeping)).toBe('changed since');
  });

  it('is brought back while somebody saves: what was answered before is in the backup made first', async () => {
    const keeping = await start();
    const store = storeOf(keeping);
    const [{ name }] = keeping.state().backups;
    let answered = '';
    const saving = (async () => {
      for (let i = 0; ; i++) {
        const present = await store.find('patches', TIDE);
        if (!present) return;
        const value = { ...present.value, name: `save ${i}` };
        if ((await store.save('patches', { ...present, value })).kind !== 'done') return;
        answered = value.name;
        // As requests come: one after the other, with room for others between.
        await setImmediate();
      }
    })();
    const first = keeping.bringBack(name);
    await expect(keeping.bringBack(name)).rejects.toThrow('another one is being brought back');
    await first;
    await saving;
    expect(answered).not.toBe('');
    const before = keeping.state().backups.find(({ reason }) => reason === 'bringing-back');
    await keeping.bringBack(before?.name ?? '');
    expect(await nameOf(keeping)).toBe(answered);
    await rename(keeping, 'and it goes on');
  });

  it('that is damaged itself is refused, and nothing is changed', async () => {
    const keeping = await start();
    const [{ name }] = keeping.state().backups;
    writeFileSync(join(folder, 'backups', name), 'x'.repeat(9000));
    const { store } = keeping;
    await expect(keeping.bringBack(name)).rejects.toThrow('no whole database');
    await expect(keeping.bringThingBack(name, 'patches', TIDE)).rejects.toThrow();
    expect(keeping.state()).toMatchObject({ backups: [], passedOver: [name] });
    expect(keeping.store).toBe(store);
    expect(await keeping.bringBack('../pentachord.sqlite')).toBe(false);
    expect(await storeOf(keeping).find('shows', 'demo-show')).toBeTruthy();
    expect(existsSync(join(folder, 'pentachord.new.sqlite'))).toBe(false);
  });

  it('is brought back as it is, whatever a bring-back that was killed has left behind', async () => {
    const keeping = await start();
    const [{ name }] = keeping.state().backups;
    const then = await nameOf(keeping);
    // The log of a database that was being made ready, with another name of the patch in it.
    const making = join(folder, 'pentachord.new.sqlite');
    copyFileSync(join(folder, 'backups', name), making);
    const other = new BetterSqlite3(making);
    other.pragma('journal_mode = WAL');
    other.exec(`update patches set name = 'left behind'`);
    copyFileSync(`${making}-wal`, join(folder, 'log'));
    other.close();
    renameSync(join(folder, 'log'), `${making}-wal`);
    await keeping.bringBack(name);
    expect(await nameOf(keeping)).toBe(then);
    expect(readdirSync(folder).filter((one) => one.includes('new'))).toEqual([]);
  });

  it('is whole, however many are asked for at once', async () => {
    const keeping = await start();
    const asked: Promise<unknown>[] = [];
    for (let i = 0; i < 6; i++) {
      await rename(keeping, `change ${i}`);
      asked.push(keeping.backUp('asked'));
    }
    expect(await Promise.all(asked)).not.toContain(null);
    const { backups, passedOver } = keeping.state();
    expect([passedOver, readdirSync(join(folder, 'backups')).length]).toEqual([
      ...[[], backups.length],
    ]);
    const present = await nameOf(keeping);
    await rename(keeping, 'later');
    await keeping.bringBack(backups[0].name);
    expect(await nameOf(keeping)).toBe(present);
  });

  it('is none that is empty, a link, a folder or another database, and none of these keeps anything from working', async () => {
    const first = await start();
    const odd = join(folder, 'backups');
    const named = (day: number) => `2027-09-0${day}T12-00-00-000Z-asked.sqlite`;
    writeFileSync(join(odd, named(1)), '');
    new BetterSqlite3(join(odd, named(2))).exec('create table other (id)').close();
    symlinkSync(join(folder, 'nowhere'), join(odd, named(3)));
    mkdirSync(join(odd, named(4)));
    execFileSync('mkfifo', [join(odd, named(5))]);
    await stop(first);
    const keeping = await start();
    const { backups, passedOver } = keeping.state();
    expect(backups).toHaveLength(1);
    expect(passedOver).toEqual([1, 2, 3, 4, 5].map(named));
    for (const day of [1, 2, 3, 4, 5])
      await expect(keeping.bringBack(named(day))).rejects.toThrow('no whole database');
    // They do not stand in for the backup of just before.
    await rename(keeping, 'changed');
    await keeping.bringBack(backups[0].name);
    expect(keeping.state().backups.map(({ reason }) => reason)).toContain('bringing-back');
    rmSync(odd, { recursive: true });
    writeFileSync(odd, 'a file');
    expect(keeping.state().backups).toEqual([]);
    await rename(keeping, 'changed again');
    expect(await keeping.backUp('asked')).toBeNull();
  });

  it('that holds the latest changes is the newest, though the clock was set back', async () => {
    const keeping = await start();
    for (let i = 0; i < 15; i++) {
      clock -= 3_600_000;
      await rename(keeping, `change ${i}`);
      await keeping.backUp('asked');
    }
    const { backups } = keeping.state();
    expect(backups).toHaveLength(10);
    await rename(keeping, 'later');
    await keeping.bringBack(backups[0].name);
    expect(await nameOf(keeping)).toBe('change 14');
  });

  it('brings no revision that was there before, and neither does making a thing anew', async () => {
    const keeping = await start();
    const [{ name }] = keeping.state().backups;
    const seen = new Map<string, string>();
    for (let i = 0; i < 3; i++) {
      await rename(keeping, `before ${i}`);
      for (const saved of [await storeOf(keeping).find('patches', TIDE)])
        seen.set(`${saved?.revision}`, saved?.value.name ?? '');
      await keeping.bringBack(name);
      const back = await storeOf(keeping).find('patches', TIDE);
      expect(seen.has(`${back?.revision}`)).toBe(false);
      seen.set(`${back?.revision}`, back?.value.name ?? '');
    }
    const store = storeOf(keeping);
    const cue = (await store.all('cues'))[0];
    await store.save('cues', cue);
    await store.remove('cues', cue.value.id, cue.revision + 1);
    const anew = await store.save('cues', { revision: 0, value: cue.value });
    expect(anew.kind === 'done' && anew.saved.revision).toBeGreaterThan(cue.revision + 1);
  });

  it('says why a single thing cannot be brought back where nothing can be written, and can be read whatever rights it has', async () => {
    await stop(await start());
    const [name] = readdirSync(join(folder, 'backups'));
    chmodSync(join(folder, 'backups', name), 0o400);
    const played = await start({ unwritable: () => 'the disk can only be read' });
    expect(await played.bringThingBack(name, 'patches', TIDE)).toContain('can only be read');
    expect((await played.look(name))?.shows).toHaveLength(1);
    await stop(played);
    const keeping = await start();
    await keeping.bringBack(name);
    expect(statSync(file).mode & 0o777).toBe(0o600);
  });

  it('is kept if it is among the last ten, or the last of its day in a month, or until all take too much room', () => {
    const at = (days: number, hour: number, bytes = 1000) => ({
      name: `${days}-${hour}`,
      at: new Date(Date.UTC(2027, 7, 14 - days, hour)).toISOString(),
      reason: 'changes' as const,
      bytes,
    });
    const now = new Date(Date.UTC(2027, 7, 14, 23));
    const hours = Array.from({ length: 12 }, (_, i) => at(0, 22 - i));
    const days = Array.from({ length: 40 }, (_, i) => [at(i + 1, 20), at(i + 1, 10)]).flat();
    const gone = superfluous([...hours, ...days], now).map(({ name }) => name);
    expect(gone).toContain('0-11');
    expect(gone).not.toContain('0-13');
    expect(gone).toContain('5-10');
    expect(gone).not.toContain('5-20');
    expect(gone).toContain('31-20');
    const large = Array.from({ length: 5 }, (_, i) => at(0, 22 - i, 400 * 1024 * 1024));
    expect(superfluous(large, now).map(({ name }) => name)).toEqual(['0-20', '0-19', '0-18']);
  });
});

describe('odd folders', () => {
  it('lead to the database that a link points to, and fill no link that leads nowhere', async () => {
    const elsewhere = join(folder, 'elsewhere');
    mkdirSync(elsewhere);
    await stop(await start());
    renameSync(file, join(elsewhere, 'real.sqlite'));
    symlinkSync(join(elsewhere, 'real.sqlite'), file);
    const keeping = await start();
    await rename(keeping, 'changed');
    await keeping.bringBack(keeping.state().backups.at(-1)?.name ?? '');
    await stop(keeping);
    expect(lstatSync(file).isSymbolicLink()).toBe(true);
    expect(readdirSync(elsewhere)).toEqual(['real.sqlite']);
    rmSync(join(elsewhere, 'real.sqlite'));
    await expect(start()).rejects.toThrow('is a link to something that is not there');
    expect(readdirSync(elsewhere)).toEqual([]);
  });

  it('are told where the lock cannot be opened, and closed where its address is none', async () => {
    mkdirSync(join(folder, 'running.json'));
    await stop(await start());
    rmSync(join(folder, 'pentachord.lock'));
    mkdirSync(join(folder, 'pentachord.lock'));
    await expect(start()).rejects.toThrow('cannot be opened');
  });

  it('keep the log of a database as private as itself', async () => {
    await stop(await start());
    chmodSync(file, 0o644);
    const keeping = await start();
    await rename(keeping, 'changed');
    expect([file, `${file}-wal`].map((one) => statSync(one).mode & 0o777)).toEqual([0o600, 0o600]);
  });
});
