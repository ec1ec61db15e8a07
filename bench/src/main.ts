import { measureBand } from './band.js';
import { measureBrowser } from './browser.js';
import { measureCore } from './core.js';
import { measureGlides } from './glides.js';
import { measureRecording } from './logbook.js';
import { measureRecordings } from './recordings.js';
import { measureServer } from './server.js';
import { measureSound } from './sound.js';
import { measureStrengths } from './strengths.js';
import { measureTies } from './ties.js';
import { print, type Result } from './table.js';

let missed = false;
for (const measure of [
  measureCore,
  measureTies,
  measureSound,
  measureGlides,
  measureStrengths,
  measureRecordings,
  measureBand,
  measureRecording,
  measureServer,
  measureBrowser,
]) {
  try {
    const results: Result[] = await measure();
    print(results);
    missed ||= results.some(({ value, goal }) => value > goal);
  } catch (error) {
    // What the others measure is told all the same.
    console.error(error);
    missed = true;
  }
}
if (missed) process.exitCode = 1;
