import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import type { Typefaces } from './pdf-types.js';

const found = createRequire(import.meta.url);
const NEXT = '@expo-google-fonts/atkinson-hyperlegible-next';
const MONO = '@expo-google-fonts/atkinson-hyperlegible-mono';

const files = {
  words: found.resolve(`${NEXT}/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf`),
  wordsBold: found.resolve(`${NEXT}/700Bold/AtkinsonHyperlegibleNext_700Bold.ttf`),
  wordsItalic: found.resolve(
    `${NEXT}/400Regular_Italic/AtkinsonHyperlegibleNext_400Regular_Italic.ttf`,
  ),
  figures: found.resolve(`${MONO}/400Regular/AtkinsonHyperlegibleMono_400Regular.ttf`),
  wide: found.resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf'),
  wideBold: found.resolve('dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf'),
};

/** True for the files that a sheet is made of, and for no others. */
export function isTypeface(path: string): boolean {
  return Object.values(files).includes(path);
}

/** The typefaces of a sheet: words, figures that stand under one another, and one that has signs and letters which those lack. */
export const TYPEFACES: Typefaces = {
  Words: {
    normal: files.words,
    bold: files.wordsBold,
    italics: files.wordsItalic,
    bolditalics: files.wordsBold,
  },
  Figures: {
    normal: files.figures,
    bold: files.figures,
    italics: files.figures,
    bolditalics: files.figures,
  },
  Wide: {
    normal: files.wide,
    bold: files.wideBold,
    italics: files.wide,
    bolditalics: files.wideBold,
  },
};

/** Letters that words and figures both have. */
let known: ReadonlySet<number> | null = null;

function isKnown(letter: string): boolean {
  if (!known) {
    const [words, figures] = [files.words, files.figures].map(
      (file) => new Set((fontkit.openSync(file) as fontkit.Font).characterSet),
    );
    known = new Set([...words].filter((code) => figures.has(code)));
  }
  return known.has(letter.codePointAt(0) ?? 0);
}

/** A piece of a text that is set in one typeface. */
export interface Run {
  text: string;
  /** Whether it is set in the wide typeface. */
  wide: boolean;
}

/** A text in pieces, so that flats, sharps, arrows and letters of other scripts are set in the typeface that has them. */
export function runsOf(text: string): Run[] {
  const runs: Run[] = [];
  // Signs that print nothing would end a drawing.
  for (const letter of text.replace(/[\p{Cc}\p{Cs}]/gu, ' ')) {
    const wide = !isKnown(letter);
    const last = runs.at(-1);
    if (last?.wide === wide) last.text += letter;
    else runs.push({ text: letter, wide });
  }
  return runs;
}
