import { spawn, type ChildProcess } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const MAIN = join(dirname(fileURLToPath(import.meta.url)), '../../server/dist/main.js');

/** The application as a process of its own, over a folder; there when it answers. */
export async function startServer(data: string): Promise<{ child: ChildProcess; origin: string }> {
  const child = spawn(process.execPath, [MAIN], {
    env: { ...process.env, PENTACHORD_PORT: '0', PENTACHORD_DATA: data },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const origin = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (text: Buffer) => {
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(text.toString());
      if (address) resolve(address[0]);
    });
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return { child, origin };
}
