import { copyFile, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { KINDS } from '@pentachord/core/model';
import { fillIn } from '@pentachord/server/demo/fill';
import { CannotStart } from '@pentachord/server/store/folder';
import { DataFolder } from '@pentachord/server/store/data-folder';
import type { Store } from '@pentachord/server/store/store';
import { pino } from 'pino';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';

const options = { log: pino({ level: 'silent' }), fill: fillIn };

/** Flips bits in databases and opens them: each has to open, or to say what is lost and offer a backup. */
export async function flipBits(databases: number, bits = 8, seed = 31): Promise<Finding[]> {
  const chance = new Chance(seed);
  const root = await mkdtemp(join(tmpdir(), 'pentachord-trial-'));
  const sound = join(root, 'sound');
  const first = await DataFolder.open(sound, options);
  const whole = await contents(first.store);
  const [{ name: backup }] = first.state().backups;
  await first.close();
  const file = await readFile(join(sound, 'pentachord.sqlite'));
  const found = { opened: 0, healed: 0, offered: 0, silent: 0, broken: 0 };
  for (let i = 0; i < databases; i++) {
    const folder = join(root, String(i));
    const flipped = Buffer.from(file);
    for (let bit = 0; bit < bits; bit++)
      flipped[chance.whole(0, flipped.length - 1)] ^= 1 << chance.whole(0, 7);
    await mkdir(join(folder, 'backups'), { recursive: true });
    await writeFile(join(folder, 'pentachord.sqlite'), flipped);
    await copyFile(join(sound, 'backups', backup), join(folder, 'backups', backup));
    try {
      const again = await DataFolder.open(folder, options);
      const { closed, damaged, healed } = again.state();
      if (closed) {
        found.offered++;
        await again.bringBack(backup);
        if (!again.store || (await again.store.find('shows', 'demo-show')) === null) found.broken++;
      } else {
        found.opened++;
        if (healed.length > 0) found.healed++;
        const told = new Set([...damaged, ...healed].map(({ kind, id }) => `${kind}/${id}`));
        const now = await contents(again.store);
        for (const [key, text] of now)
          if (whole.get(key) !== text && !told.has(key)) found.silent++;
        for (const key of whole.keys()) if (!now.has(key) && damaged.length === 0) found.silent++;
      }
      await again.close();
    } catch (error) {
      if (error instanceof CannotStart) found.offered++;
      else found.broken++;
    }
    await rm(folder, { recursive: true, force: true });
  }
  await rm(root, { recursive: true, force: true });
  const { opened, healed, offered, silent, broken } = found;
  return [
    {
      what: `${databases} databases with ${bits} flipped bits each`,
      found: `${opened} opened (${healed} put right from the backup), ${offered} offered the backup, ${broken} neither`,
      promised: '0 neither',
      holds: broken === 0,
    },
    {
      what: 'things of them that were shown otherwise than they were saved, without a word',
      found: String(silent),
      promised: '0',
      holds: silent === 0,
    },
  ];
}

/** Everything that can be read, without revisions: what is put right keeps its content. */
async function contents(store: Store | null): Promise<Map<string, string>> {
  const all = new Map<string, string>();
  for (const kind of store ? KINDS : [])
    for (const { value } of (await store?.all(kind)) ?? [])
      all.set(`${kind}/${value.id}`, JSON.stringify(value));
  return all;
}
