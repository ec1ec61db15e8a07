import { measureBrowser } from './browser.js';
import { measureCore } from './core.js';
import { measureGlides } from './glides.js';
import { measureServer } from './server.js';
import { measureSound } from './sound.js';
import { measureStrengths } from './strengths.js';
import { measureTies } from './ties.js';
import { print, type Result } from './table.js';

const results: Result[] = [
  ...measureCore(),
  ...measureTies(),
  ...measureSound(),
  ...measureGlides(),
  ...measureStrengths(),
  ...(await measureServer()),
  ...(await measureBrowser()),
];
print(results);
if (results.some(({ value, goal }) => value > goal)) process.exitCode = 1;
