import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { savedSchemas } from '@pentachord/core/model';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const MAIN = join(dirname(fileURLToPath(import.meta.url)), '../dist/main.js');
let data: string;
const running = new Set<ChildProcess>();

beforeAll(async () => {
  data = await mkdtemp(join(tmpdir(), 'pentachord-'));
});
afterAll(async () => {
  for (const child of running) child.kill('SIGKILL');
  await rm(data, { recursive: true, force: true });
});

async function start(): Promise<{ child: ChildProcess; origin: string }> {
  const child = spawn(process.execPath, [MAIN], {
    env: { ...process.env, PENTACHORD_PORT: '0', PENTACHORD_DATA: data },
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
  it('loses no answered save when it is killed in the middle of saving', async () => {
    for (let round = 0; round < 3; round++) {
      const { child, origin } = await start();
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
      const again = await start();
      const found = savedSchemas.patches.parse(
        await (await fetch(`${again.origin}/api/patches/demo-saltglass-tide`)).json(),
      );
      expect(found.revision).toBeGreaterThanOrEqual(last.revision);
      if (found.revision === last.revision) expect(found).toEqual(last);
      expect(found.value.layers).toHaveLength(3);
      again.child.kill('SIGKILL');
    }
  }, 120_000);

  it('says so when its settings cannot be used', async () => {
    const child = spawn(process.execPath, [MAIN], {
      env: { ...process.env, PENTACHORD_PORT: 'here', PENTACHORD_DATA: data },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let said = '';
    child.stderr?.on('data', (text: Buffer) => (said += text.toString()));
    const code = await new Promise((resolve) => child.on('exit', resolve));
    expect(code).toBe(2);
    expect(said).toContain('PENTACHORD_PORT');
  });
});
