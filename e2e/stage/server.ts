import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const MAIN = join(dirname(fileURLToPath(import.meta.url)), '../../server/dist/main.js');

/** The real server over a database of its own, which can be stopped and started again in the middle of a test. */
export class RunningServer {
  private child: ChildProcess | null = null;
  origin = '';

  private constructor(private readonly data: string) {}

  /** Starts one on a port; on any that is free for 0. */
  static async start(port = '0'): Promise<RunningServer> {
    const server = new RunningServer(await mkdtemp(join(tmpdir(), 'pentachord-e2e-')));
    await server.restart(port);
    return server;
  }

  /** Starts it again, at the same address as before. */
  async restart(port = new URL(this.origin).port): Promise<void> {
    const child = spawn(process.execPath, [MAIN], {
      env: { ...process.env, PENTACHORD_PORT: port, PENTACHORD_DATA: this.data },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    this.origin = await new Promise<string>((resolve, reject) => {
      child.stdout.on('data', (text: Buffer) => {
        const address = /http:\/\/127\.0\.0\.1:\d+/.exec(text.toString());
        if (address) resolve(address[0]);
      });
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
  }

  async kill(): Promise<void> {
    const { child } = this;
    if (!child) return;
    this.child = null;
    const ended = new Promise((resolve) => child.on('exit', resolve));
    child.kill('SIGKILL');
    await ended;
  }

  async close(): Promise<void> {
    await this.kill();
    await rm(this.data, { recursive: true, force: true });
  }
}
