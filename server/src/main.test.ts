import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeMidiFile, writeWav } from '@pentachord/core/exchange';
import { repertoireSchema, savedSchemas } from '@pentachord/core/model';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const BUILT = join(dirname(fileURLToPath(import.meta.url)), '../dist');
const MAIN = join(BUILT, 'main.js');
const BRING_IN = join(BUILT, 'bring-in-command.js');
let data: string;
const running = new Set<ChildProcess>();

beforeAll(async () => {
  data = await mkdtemp(join(tmpdir(), 'pentachord-'));
});
afterAll(async () => {
  for (const child of running) child.kill('SIGKILL');
  await rm(data, { recursive: true, force: true });
});

async function start(
  more: NodeJS.ProcessEnv = {},
): Promise<{ child: ChildProcess; origin: string }> {
  const child = spawn(process.execPath, [MAIN], {
    env: { ...process.env, PENTACHORD_PORT: '0', PENTACHORD_DATA: data, ...more },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  running.add(child);
  const origin = await new Promise<string>((resolve, reject) => {
    child.stdout?.on('data', (text: Buffer) => {
      const match = /http:\/\/127\.0\.0\.1:\d+/.exec(text.toString());
      if (match) resolve(match[0]);
    });
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return { child, origin };
}

describe('the running server', () => {
  it('leaves the demo out where it is told to, with a rig to play on, and not only the first time', async () => {
    const empty = { PENTACHORD_DATA: join(data, 'empty'), PENTACHORD_DEMO: 'none' };
    for (let round = 0; round < 2; round++) {
      const { child, origin } = await start(empty);
      const there = repertoireSchema.parse(await (await fetch(`${origin}/api/repertoire`)).json());
      expect([there.shows, there.songs]).toEqual([[], []]);
      expect([there.rigs.length, there.devices.length]).toEqual([1, 7]);
      const gone = once(child, 'exit');
      child.kill('SIGTERM');
      await gone;
      // Later starts fill nothing in that was left out, or removed, before.
      delete (empty as Partial<typeof empty>).PENTACHORD_DEMO;
    }
  });

  it('is asked by the command that brings files in, which opens the folder where none runs: one line each, nothing twice', async () => {
    const own = { PENTACHORD_DATA: join(data, 'brought') };
    const folder = join(data, 'files');
    await mkdir(folder);
    const notes = [41, 45, 48, 53].map((key, i) => ({ beat: i, length: 1, key, velocity: 90 }));
    const midi = writeMidiFile({ tracks: [{ name: 'Keel', channel: 2, notes, programs: [] }] });
    const wav = writeWav({
      channels: [Float32Array.from({ length: 24_000 }, (_, i) => Math.sin(i / 17) / 2)],
      ...{ sampleRate: 48_000, bits: 16 },
    });
    await writeFile(join(folder, 'ebb.mid'), midi);
    await writeFile(join(folder, 'one.wav'), wav);
    await writeFile(join(folder, 'two.wav'), wav.slice(0, 99));
    const bring = async () => {
      const child = spawn(process.execPath, [BRING_IN, folder], {
        env: { ...process.env, ...own },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      let said = '';
      child.stdout.on('data', (text: Buffer) => (said += text.toString()));
      await once(child, 'close');
      return said
        .trim()
        .split('\n')
        .map((line) => (JSON.parse(line) as { result: string }).result);
    };
    expect(await bring()).toEqual(['taken', 'taken', 'refused']);
    const { child, origin } = await start(own);
    expect(await bring()).toEqual(['already', 'already', 'refused']);
    const kept = (await (await fetch(`${origin}/api/patterns`)).json()) as {
      value: { name: string; notes: unknown };
    }[];
    expect(kept.find(({ value }) => value.name === 'Keel')?.value.notes).toEqual(notes);
    const gone = once(child, 'exit');
    child.kill('SIGTERM');
    await gone;
  });

  it('loses no answered save when it is killed in the middle of saving', async () => {
    for (let round = 0; round < 3; round++) {
      const { child, origin } = await start();
      const killed = once(child, 'exit');
      const path = `${origin}/api/patches/demo-saltglass-tide`;
      let last = savedSchemas.patches.parse(await (await fetch(path)).json());
      const stopAt = Date.now() + 250 + round * 70;
      setTimeout(() => child.kill('SIGKILL'), 250 + round * 70);
      try {
        while (Date.now() < stopAt + 1000) {
          const value = { ...last.value, name: `round ${round} save ${last.revision}` };
          const response = await fetch(path, {
            method: 'PUT',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ revision: last.revision, value }),
          });
          last = savedSchemas.patches.parse(await response.json());
        }
      } catch {
        // The kill: whatever was answered before has to be there.
      }
      await killed;
      const again = await start();
      const found = savedSchemas.patches.parse(
        await (await fetch(`${again.origin}/api/patches/demo-saltglass-tide`)).json(),
      );
      expect(found.revision).toBeGreaterThanOrEqual(last.revision);
      if (found.revision === last.revision) expect(found).toEqual(last);
      expect(found.value.layers).toHaveLength(3);
      const gone = once(again.child, 'exit');
      again.child.kill('SIGKILL');
      await gone;
    }
  }, 120_000);

  it('says in plain words why it cannot start, what is safe and what to do, and shows no stack', async () => {
    const inTheWay = join(data, 'in-the-way');
    await writeFile(inTheWay, '');
    const emptied = join(data, 'emptied');
    await mkdir(emptied);
    await writeFile(join(emptied, 'pentachord.sqlite'), '');
    const [taken] = [await start()];
    const cases: [Record<string, string>, RegExp][] = [
      [
        { PENTACHORD_PORT: 'here' },
        /PENTACHORD_PORT is “here”, and a number from 0 to 65535 is wanted/,
      ],
      [{ PENTACHORD_PORT: '' }, /PENTACHORD_PORT is “”/],
      [{ PENTACHORD_PORT: '70000' }, /PENTACHORD_PORT is “70000”/],
      [{ PENTACHORD_DATA: '' }, /PENTACHORD_DATA is “”, and a folder is wanted/],
      [{ PENTACHORD_DATA: inTheWay }, /is a file, and a folder is wanted there/],
      [{ PENTACHORD_DATA: emptied }, /is empty \(0 bytes\)/],
      [{}, new RegExp(`is running on .* already: ${taken.origin}`)],
    ];
    for (const [environment, words] of cases) {
      const { code, said } = await refused(environment);
      expect(said).toMatch(words);
      expect(said).toMatch(/^Pentachord was not started\. /);
      expect(said).toMatch(/Nothing was changed\./);
      expect(said).not.toMatch(/\n\s+at |node:|Error:/);
      expect(code).toBe(2);
    }
    taken.child.kill('SIGKILL');
    await once(taken.child, 'exit');
    // A lock does not outlive its holder, however that ended.
    const again = await start();
    again.child.kill('SIGTERM');
    await once(again.child, 'exit');
  }, 120_000);
});

/** Starts it where it should refuse. */
async function refused(environment: Record<string, string>) {
  const child = spawn(process.execPath, [MAIN], {
    env: { ...process.env, PENTACHORD_PORT: '0', PENTACHORD_DATA: data, ...environment },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  running.add(child);
  let said = '';
  child.stderr.on('data', (text: Buffer) => (said += text.toString()));
  const [code] = (await once(child, 'exit')) as [number];
  return { code, said };
}
