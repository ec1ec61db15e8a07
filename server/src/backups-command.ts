// npm run backups: lists the backups, looks into one, or brings one back while Pentachord is not running.
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { fillIn } from './demo/fill.js';
import { settingsFrom } from './settings.js';
import { Backups } from './store/backups.js';
import { lookInto } from './store/bringing-back.js';
import { CannotStart } from './store/folder.js';
import { DataFolder } from './store/data-folder.js';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
process.umask(0o077);
const [what = 'list', name = ''] = process.argv.slice(2);

try {
  await carryOut();
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = error instanceof CannotStart ? 2 : 1;
}

async function carryOut(): Promise<void> {
  const { data } = settingsFrom(process.env, root);
  const backups = new Backups(join(data, 'backups'));
  if (what === 'list') {
    for (const { name: file, at, reason, bytes } of backups.list())
      console.log(`${file}  ${at}  ${reason}  ${Math.ceil(bytes / 1024)} kB`);
    if (backups.list().length === 0) console.log(`There are no backups in ${backups.folder}.`);
    return;
  }
  const file = backups.file(name);
  if (!file) throw new Error(`There is no backup “${name}” in ${backups.folder}.`);
  if (what === 'look') {
    const { shows, keepsakes, damaged } = await lookInto(file, null);
    for (const { name: show, date, songs, patches, cues } of shows)
      console.log(`${date}  ${show}: ${songs} songs, ${patches} patches, ${cues} cues`);
    console.log(`${keepsakes} kept, ${damaged} damaged`);
  } else if (what === 'bring-back') {
    const keeping = await DataFolder.open(data, {
      log: pino({ level: 'error' }),
      fill: fillIn,
    });
    try {
      await keeping.bringBack(name);
      console.log(`Brought back ${name}. What was there before is in ${data} as well.`);
    } finally {
      await keeping.close();
    }
  } else
    throw new Error(
      'npm run backups -- list, npm run backups -- look NAME, or npm run backups -- bring-back NAME',
    );
}
