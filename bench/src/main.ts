import { measureBrowser } from './browser.js';
import { measureCore } from './core.js';
import { measureServer } from './server.js';
import { measureSound } from './sound.js';
import { print, type Result } from './table.js';

const results: Result[] = [
  ...measureCore(),
  ...measureSound(),
  ...(await measureServer()),
  ...(await measureBrowser()),
];
print(results);
if (results.some(({ value, goal }) => value > goal)) process.exitCode = 1;
