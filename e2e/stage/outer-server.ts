import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { rmSync, writeFileSync } from 'node:fs';
import { copyFile, cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import BetterSqlite3 from 'better-sqlite3';
import { DATABASE, RECORDINGS, type ServerParts, type TestServer } from './server.js';

const MAIN = join(dirname(fileURLToPath(import.meta.url)), '../../server/dist/main.js');

/** The application as a process of its own, which can be killed and started again in the middle of a test. */
export class OuterServer implements TestServer {
  private child: ChildProcess | null = null;
  readonly origin: string;

  private constructor(
    private readonly port: number,
    private readonly data: string,
  ) {
    this.origin = `http://127.0.0.1:${port}`;
  }

  static async start({ port, template }: ServerParts): Promise<OuterServer> {
    const data = await mkdtemp(join(tmpdir(), 'pentachord-e2e-'));
    await copyFile(template, join(data, DATABASE));
    await cp(join(dirname(template), RECORDINGS), join(data, RECORDINGS), { recursive: true });
    const server = new OuterServer(port, data);
    await server.restart();
    return server;
  }

  /** Starts it again, at the same address as before. */
  async restart(): Promise<void> {
    const child = spawn(process.execPath, [MAIN], {
      env: { ...process.env, PENTACHORD_PORT: String(this.port), PENTACHORD_DATA: this.data },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      child.stdout.on('data', (text: Buffer) => {
        if (text.includes(this.origin)) resolve();
      });
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
  }

  /** Changes the database behind its back, while it is not running. */
  spoil(sql: string): void {
    const bare = new BetterSqlite3(join(this.data, DATABASE));
    bare.pragma('foreign_keys = OFF');
    bare.exec(sql);
    bare.close();
  }

  /** Makes the database file one that nobody can open. */
  damage(): void {
    for (const log of ['-wal', '-shm']) rmSync(join(this.data, DATABASE + log), { force: true });
    writeFileSync(join(this.data, DATABASE), 'x'.repeat(20_000));
  }

  async kill(): Promise<void> {
    const { child } = this;
    if (!child) return;
    this.child = null;
    const ended = once(child, 'exit');
    child.kill('SIGKILL');
    await ended;
  }

  async close(): Promise<void> {
    await this.kill();
    await rm(this.data, { recursive: true, force: true });
  }
}
