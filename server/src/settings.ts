import { join, resolve } from 'node:path';
import * as z from 'zod';
import { CannotStart } from './store/folder.js';

const portSchema = z
  .string()
  .regex(/^\d{1,5}$/)
  .transform(Number)
  .pipe(z.number().max(65_535));

/** How the server is to run. */
export interface Settings {
  /** On 127.0.0.1; 0 takes any that is free. */
  port: number;
  /** Folder of the database. */
  data: string;
  log: 'info' | 'warn' | 'error' | 'silent';
  /** Whether a new database begins with the demo show. */
  demo: boolean;
}

/** Reads the settings from the environment. Throws {@link CannotStart} with plain words. */
export function settingsFrom(environment: NodeJS.ProcessEnv, root: string): Settings {
  const say = (name: string, want: string) =>
    new CannotStart(
      `${name} is “${environment[name] ?? ''}”, and ${want} is wanted. Nothing was changed. Set it so, or leave it out.`,
    );
  const port = portSchema.safeParse(environment['PENTACHORD_PORT'] ?? '4310');
  if (!port.success) throw say('PENTACHORD_PORT', 'a number from 0 to 65535');
  const data = environment['PENTACHORD_DATA'] ?? join(root, 'data');
  if (data.trim() === '') throw say('PENTACHORD_DATA', 'a folder');
  const log = z
    .enum(['info', 'warn', 'error', 'silent'])
    .safeParse(environment['PENTACHORD_LOG'] ?? 'warn');
  if (!log.success) throw say('PENTACHORD_LOG', 'info, warn, error or silent');
  const demo = z.enum(['fill', 'none']).safeParse(environment['PENTACHORD_DEMO'] ?? 'fill');
  if (!demo.success) throw say('PENTACHORD_DEMO', 'fill or none');
  return { port: port.data, data: resolve(data), log: log.data, demo: demo.data === 'fill' };
}
