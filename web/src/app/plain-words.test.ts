import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const HERE = fileURLToPath(new URL('.', import.meta.url));

/** Words of which there is a plainer one, or another that means the same on every other screen. */
const DOUBLETS: readonly [RegExp, instead: string][] = [
  [/^Leave (it|all)/, 'Cancel'],
  [/^Close$/, 'Done'],
  [/^I know$/, 'Dismiss'],
  [/^Drop( |$)/, 'Discard'],
  [/^Forget /, 'Discard'],
  [/^Take (it |them )?(off|out)( |$)/, 'Remove, or Untie'],
  [/[Nn]obody/, 'no layers, no device'],
  [/[Ss]trengths?(?! (of|is) )/, 'velocity'],
  [/[Rr]ecipe/, 'steps by hand'],
  [/^[Tt]urn round$/, 'swap from and to'],
  [/^it goes$/, 'curve'],
  [/[Kk]ept by me/, 'my sounds'],
  [/[Ff]etching the (show|sounds)/, 'making the sounds'],
  [/^[Hh]eard on$/, 'treated as channel'],
  [/^Programs elsewhere/, 'Program changes sent with …'],
  [/moved tonight/i, 'changed while playing'],
  [/^(Earlier|Later|Further (back|to the front))/, 'Move up, Move down'],
];
/** Where strength is the word: a song’s three, and touch of the hand in whole sentences. */
const ALLOWED = /three strengths|Three strengths|three\s+strengths/;

/** Every template: files of their own, and those within components. */
function templates(): { name: string; text: string }[] {
  return readdirSync(HERE, { recursive: true, encoding: 'utf8' })
    .filter(
      (name) => name.endsWith('.html') || (name.endsWith('.ts') && !name.endsWith('.test.ts')),
    )
    .flatMap((name) => {
      const text = readFileSync(join(HERE, name), 'utf8');
      if (name.endsWith('.html')) return [{ name, text }];
      const inside = /template: `([^]*?)`,\n/.exec(text)?.[1];
      return inside === undefined ? [] : [{ name, text: inside }];
    });
}

/** What a template says: words between tags, without what is worked out, and words of labels and hints. */
function wordsOf(text: string): string[] {
  const plain = text.replace(/<!--[^]*?-->/g, '').replace(/\{\{[^]*?\}\}/g, '…');
  const between = [...plain.matchAll(/>([^<>]+)</g)].map(([, words]) =>
    words.replace(/@[a-z]+[^{]*\{|[{}]/g, ' '),
  );
  const labels = [
    ...plain.matchAll(/(?:aria-label|label|placeholder|pcTip|explain)="([^"]+)"/g),
  ].map(([, words]) => words);
  return [...between, ...labels].map((words) => words.replace(/\s+/g, ' ').trim()).filter(Boolean);
}

describe('the words on screen', () => {
  it('are one for one thing', () => {
    const all = templates();
    expect(all.length).toBeGreaterThan(80);
    const found = all.flatMap(({ name, text }) =>
      wordsOf(text)
        .filter((words) => !ALLOWED.test(words))
        .flatMap((words) =>
          DOUBLETS.filter(([doublet]) => doublet.test(words)).map(
            ([, instead]) => `${name}: “${words}” is called ${instead}`,
          ),
        ),
    );
    expect(found).toEqual([]);
  });
});
