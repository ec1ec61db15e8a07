// Every package that ships with the application has a licence that its own, MIT, can be given away with.
import { readFileSync } from 'node:fs';
import satisfies from 'spdx-satisfies';

const ALLOWED = [
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  '0BSD',
  'BlueOak-1.0.0',
  'OFL-1.1',
  'CC0-1.0',
  'Zlib',
];

/**
 * Packages under other terms that allow it: a library that is used unchanged, fetched as it is by whoever builds, and exchanged for
 * another version by a line of package.json; typefaces that may be given away with any program, and be in any document.
 */
const ALSO = new Map([
  ['node_modules/codec-parser', 'LGPL-3.0-or-later'],
  ['node_modules/dejavu-fonts-ttf', 'SEE LICENSE IN README.md AND LICENSE'],
]);

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const shipped = Object.entries(packages).filter(
  ([path, { dev, link }]) => path.includes('node_modules/') && !dev && !link,
);
const refused = shipped.filter(([path, { license }]) => {
  if (ALSO.get(path) === license) return false;
  try {
    return !satisfies(license, ALLOWED);
  } catch {
    // No licence, or words that are none of the known ones.
    return true;
  }
});
for (const [path, { version, license }] of refused)
  console.error(`${path} ${version}: ${license ?? 'no licence'} is not on the list`);
console.log(
  `${shipped.length} packages ship, ${refused.length} with a licence that is not on the list`,
);
process.exit(refused.length === 0 ? 0 : 1);
