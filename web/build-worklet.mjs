// Audio worklets are loaded by address and not imported, so each is bundled by itself.
import { build } from 'esbuild';

const WORKLETS = {
  voices: 'src/app/live/audio/voices.worklet.ts',
  recorder: 'src/app/library/recordings/recorder.worklet.ts',
};
for (const [name, entry] of Object.entries(WORKLETS))
  await build({
    entryPoints: [entry],
    outfile: `public/worklet/${name}.js`,
    bundle: true,
    format: 'esm',
    target: 'es2022',
    minify: true,
    logLevel: 'warning',
  });
