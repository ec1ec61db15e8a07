import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { savedSchemas } from '@pentachord/core/model';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { startServer } from './running-server.js';

const PATCHES = ['demo-saltglass-tide', 'demo-copper-weather-under', 'demo-lantern-song-lantern'];

/** Kills the server again and again while several clients save, and looks whether everything that was answered is there. */
export async function killWhileSaving(rounds: number, seed = 41): Promise<Finding[]> {
  const chance = new Chance(seed);
  const data = await mkdtemp(join(tmpdir(), 'pentachord-trial-'));
  let answered = 0;
  let lost = 0;
  let failed = 0;
  for (let round = 0; round < rounds; round++) {
    const { child, origin } = await startServer(data);
    const ended = once(child, 'exit');
    setTimeout(() => child.kill('SIGKILL'), 100 + chance.whole(0, 499));
    const last = await Promise.all(PATCHES.map((id) => saveUntilItEnds(origin, id, round)));
    await ended;
    answered += last.reduce((sum, { saves }) => sum + saves, 0);
    const again = await startServer(data);
    for (const [index, { text }] of last.entries()) {
      if (text === null) continue;
      const response = await fetch(`${again.origin}/api/patches/${PATCHES[index]}`);
      if (!response.ok) failed++;
      const now = savedSchemas.patches.parse(await response.json());
      const then = savedSchemas.patches.parse(JSON.parse(text));
      // A save that was not answered may have been kept as well.
      const isThere =
        now.revision === then.revision
          ? JSON.stringify(now) === JSON.stringify(then)
          : now.revision === then.revision + 1;
      if (!isThere) lost++;
    }
    const over = once(again.child, 'exit');
    again.child.kill('SIGKILL');
    await over;
  }
  await rm(data, { recursive: true, force: true });
  return [
    {
      what: `answered saves lost in ${rounds} times of kill -9 while three clients saved`,
      found: `${lost} of ${answered.toLocaleString('en')}`,
      promised: '0',
      holds: lost === 0 && failed === 0 && answered > 0,
    },
  ];
}

/** Saves one patch over and over; gives back the last answer. */
async function saveUntilItEnds(
  origin: string,
  id: string,
  round: number,
): Promise<{ text: string | null; saves: number }> {
  const path = `${origin}/api/patches/${id}`;
  let text: string | null = null;
  let saves = 0;
  try {
    text = await (await fetch(path)).text();
    for (;;) {
      const { revision, value } = savedSchemas.patches.parse(JSON.parse(text));
      const response = await fetch(path, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision, value: { ...value, name: `round ${round}, ${saves}` } }),
      });
      const answer = await response.text();
      if (!response.ok) return { text, saves };
      text = answer;
      saves++;
    }
  } catch {
    // The kill. An answer that came only in part is none.
    return { text, saves };
  }
}
