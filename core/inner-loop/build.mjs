// Compiles the inner loop and writes it as a module, since an audio worklet can fetch nothing.
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const generated = fileURLToPath(new URL('../src/sampler/generated/', import.meta.url));
const source = fileURLToPath(new URL('inner-loop.ts', import.meta.url));

let code = new Uint8Array();
const { error, stderr } = await asc.main(
  [source, '--outFile', 'loop', '--runtime', 'stub', '-O3', '--enable', 'simd', '--noAssert'],
  { writeFile: (_name, contents) => void (code = contents) },
);
if (error) {
  console.error(`The inner loop could not be compiled.\n${stderr.toString()}`);
  process.exit(1);
}
mkdirSync(generated, { recursive: true });
writeFileSync(
  `${generated}inner-loop-code.ts`,
  `/** The compiled inner loop. Written by the build; see core/inner-loop. */\nexport const INNER_LOOP_CODE = Uint8Array.of(${code.join()});\n`,
);
