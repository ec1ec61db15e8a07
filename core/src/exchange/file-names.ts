import type { Claims, NamedNote } from '../model/library/recording.js';

const STEPS: Readonly<Record<string, number>> = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11 };

/** Dynamics of musicians and plain words for them, 0 softest … 1 hardest. */
const STRENGTHS: Readonly<Record<string, number>> = {
  ...{ ppp: 0, pp: 1 / 7, p: 2 / 7, mp: 3 / 7, mf: 4 / 7, f: 5 / 7, ff: 6 / 7, fff: 1 },
  ...{
    verysoft: 1 / 7,
    soft: 2 / 7,
    quiet: 2 / 7,
    gentle: 2 / 7,
    medium: 0.5,
    middle: 0.5,
    med: 0.5,
  },
  ...{ mid: 0.5, hard: 5 / 7, loud: 5 / 7, strong: 5 / 7, veryhard: 6 / 7, veryloud: 6 / 7 },
};

/** What a name tells. */
export type NameClaims = Pick<Claims, 'note' | 'number' | 'strength' | 'turn'>;

/**
 * What the name of a file says was played: a note (“E♭3”, “Fs2”, “a#-1”), a number that may be a key, a strength (“mf”, “very hard”,
 * “v064”, “vel100”) and which of several it is (“rr2”, “take 3”).
 */
export function claimsOfName(name: string): NameClaims {
  const words = wordsOf(name);
  const claims: NameClaims = { note: null, number: null, strength: null, turn: null };
  words.forEach((word, i) => {
    const before = i > 0 ? words[i - 1] : '';
    claims.note ??= noteIn(word);
    claims.strength ??= strengthIn(word, before);
    claims.turn ??= turnIn(word, before);
  });
  claims.number = numberIn(words);
  return claims;
}

/** A note below octave 0 by itself: its minus is no hyphen between words. */
const BELOW = /(^|[\s_.,()[\]-])([a-g][#♯♭bs]?)-(\d)(?=$|[\s_.,()[\]-])/giu;

/** Words of a name, in small letters; the signs of notes stay with them. */
function wordsOf(name: string): string[] {
  return name
    .replace(/^.*[/\\]/, '')
    .replace(/\.[a-z0-9]{2,5}$/i, '')
    .replaceAll(BELOW, '$1$2−$3')
    .toLowerCase()
    .split(/[\s_.,()[\]-]+/u)
    .filter(Boolean);
}

function noteIn(word: string): NamedNote | null {
  const match = /^([a-g])(#|♯|s|♭|b)?(−?\d)$/u.exec(word);
  if (!match) return null;
  const [, letter, sign, octave] = match;
  const raised = !sign ? 0 : sign === 'b' || sign === '♭' ? -1 : 1;
  const number = Number(octave.replace('−', '-'));
  return number >= -2 && number <= 10 ? { step: STEPS[letter] + raised, octave: number } : null;
}

function strengthIn(word: string, before: string): number | null {
  if (before === 'very' && `very${word}` in STRENGTHS) return STRENGTHS[`very${word}`];
  // “very” belongs to the word that follows.
  if (word in STRENGTHS) return STRENGTHS[word];
  const velocity =
    /^(?:v|vel|velocity)(\d{1,3})$/.exec(word) ??
    (/^vel(?:ocity)?$/.test(before) ? /^(\d{1,3})$/.exec(word) : null);
  if (!velocity || Number(velocity[1]) > 127) return null;
  return Number(velocity[1]) / 127;
}

function turnIn(word: string, before: string): number | null {
  const match =
    /^(?:rr|alt|take|tk|roundrobin)(\d{1,2})$/.exec(word) ??
    (/^(?:rr|alt|take|robin)$/.test(before) ? /^(\d{1,2})$/.exec(word) : null);
  const turn = match ? Number(match[1]) : 0;
  return turn >= 1 ? turn : null;
}

/** A number that stands alone and counts nothing that is named. */
function numberIn(words: readonly string[]): number | null {
  const found = words.filter(
    (word, i) =>
      /^\d{1,3}$/.test(word) &&
      Number(word) <= 127 &&
      !(i > 0 && /^(?:rr|alt|take|robin|vel|velocity)$/.test(words[i - 1])),
  );
  return found.length === 1 ? Number(found[0]) : null;
}
