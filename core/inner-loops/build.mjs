// Compiles the inner loops and writes each as a module, since an audio worklet can fetch nothing.
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

await compile('voices', '../src/sampler/generated/', 'inner-loop-code.ts', 'INNER_LOOP_CODE');
await compile('partials', '../src/synthesis/generated/', 'partials-code.ts', 'PARTIALS_CODE');

async function compile(loop, folder, file, name) {
  const source = fileURLToPath(new URL(`${loop}.ts`, import.meta.url));
  const generated = fileURLToPath(new URL(folder, import.meta.url));
  let code = new Uint8Array();
  const { error, stderr } = await asc.main(
    [source, '--outFile', 'loop', '--runtime', 'stub', '-O3', '--enable', 'simd', '--noAssert'],
    { writeFile: (_name, contents) => void (code = contents) },
  );
  if (error) {
    console.error(`The inner loop of ${loop} could not be compiled.\n${stderr.toString()}`);
    process.exit(1);
  }
  mkdirSync(generated, { recursive: true });
  writeFileSync(
    `${generated}${file}`,
    `/** A compiled inner loop. Written by the build; see core/inner-loops. */\nexport const ${name} = Uint8Array.of(${code.join()});\n`,
  );
}
