import { measureBrowser } from './browser.js';
import { measureCore } from './core.js';
import { measureServer } from './server.js';
import { print, type Result } from './table.js';

const results: Result[] = [
  ...measureCore(),
  ...(await measureServer()),
  ...(await measureBrowser()),
];
print(results);
if (results.some(({ value, goal }) => value > goal)) process.exitCode = 1;
