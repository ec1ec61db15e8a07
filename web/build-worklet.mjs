// The audio worklet is loaded by address and not imported, so it is bundled by itself.
import { build } from 'esbuild';

await build({
  entryPoints: ['src/app/live/audio/voices.worklet.ts'],
  outfile: 'public/worklet/voices.js',
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
});
