// The server is on the player's own machine: files are compressed here, once and as well as can be, and not at every request.
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';

const FOLDER = 'dist/web/browser';
/** Bytes below which compressing gains nothing. */
const WORTH_IT = 1024;

// The document bears another number with every answer, so the service worker cannot know it by its hash; what it needs, it can.
const manifest = join(FOLDER, 'ngsw.json');
const kept = JSON.parse(readFileSync(manifest, 'utf8'));
delete kept.hashTable['/index.html'];
writeFileSync(manifest, JSON.stringify(kept));

for (const name of readdirSync(FOLDER, { recursive: true })) {
  const file = join(FOLDER, name);
  if (!/\.(js|css|html|svg|json)$/.test(name) || statSync(file).size < WORTH_IT) continue;
  writeFileSync(`${file}.br`, brotliCompressSync(readFileSync(file)));
}
