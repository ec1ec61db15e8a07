import { noteName, parseNote, type NoteNaming } from '@pentachord/core/pitch';
import { clockTime, SILENCE_DB } from '@pentachord/core/units';

/** What a field holds, and so how it is written and read. Levels are dB, pan −1…1, percents shares of 1, times seconds. */
export type NumberKind =
  'key' | 'plain' | 'signed' | 'level' | 'pan' | 'percent' | 'decimal' | 'time';

/** The outcome of reading a typed number: the number, or in plain words why it could not be read. */
export type NumberReading = { ok: true; value: number } | { ok: false; problem: string };

/** Bounds for the words of a problem, and the convention for note names. */
export interface NumberLimits {
  min: number;
  max: number;
  middleC: NoteNaming;
}

/** A number as people write it: no exponents, no other bases. */
const DECIMAL = /^[+-]?(\d+\.?\d*|\.\d+)$/;

/** Reads what was typed. What lies beyond the limits is refused, as what is no number is. */
export function readNumber(text: string, kind: NumberKind, limits: NumberLimits): NumberReading {
  const read = readUnlimited(text, kind, limits);
  if (!read.ok) return read;
  const { min, max, middleC } = limits;
  if (read.value >= min && read.value <= max) return read;
  const [from, to] = [min, max].map((value) => writeNumber(value, kind, middleC));
  const beyond = read.value > max ? 'more' : 'less';
  return {
    ok: false,
    problem: `“${text.trim()}” is ${beyond} than there can be. Type ${from} to ${to}.`,
  };
}

function readUnlimited(text: string, kind: NumberKind, limits: NumberLimits): NumberReading {
  if (kind === 'key') {
    const note = parseNote(text, limits.middleC);
    return note.ok ? { ok: true, value: note.note } : note;
  }
  const plain = text
    .trim()
    .replace('−', '-')
    .replace(',', '.')
    .replace(/\s*(dB|%|s|Hz)$/i, '');
  if (kind === 'pan') return readPan(plain);
  if (kind === 'time') return readTime(plain);
  if (kind === 'level' && /^-(∞|inf(inity)?)$/i.test(plain)) return { ok: true, value: SILENCE_DB };
  const number = Number(plain);
  if (!DECIMAL.test(plain)) {
    const [from, to] = [limits.min, limits.max].map((n) => writeNumber(n, kind, limits.middleC));
    const problem = `“${text.trim()}” is not a number. Type one from ${from} to ${to}.`;
    return { ok: false, problem };
  }
  if (kind === 'percent') return { ok: true, value: number / 100 };
  const broken = kind === 'level' || kind === 'decimal';
  return { ok: true, value: broken ? number : Math.round(number) };
}

/** Writes a value as the field shows it: `A♭3`, `+12`, `−4.0`, `30L`. */
export function writeNumber(value: number, kind: NumberKind, middleC: NoteNaming): string {
  switch (kind) {
    case 'key':
      return noteName(value, middleC);
    case 'signed':
      return value > 0 ? `+${value}` : String(value).replace('-', '−');
    case 'level':
      return value <= SILENCE_DB ? '−∞' : value.toFixed(1).replace('-', '−');
    case 'percent':
      return String(Math.round(value * 100)).replace('-', '−');
    case 'decimal':
      return String(Math.round(value * 1000) / 1000).replace('-', '−');
    case 'pan': {
      const percent = Math.round(Math.abs(value) * 100);
      return percent === 0 ? 'C' : `${percent}${value < 0 ? 'L' : 'R'}`;
    }
    case 'time':
      return clockTime(value);
    case 'plain':
      return String(value);
  }
}

/** True for what a player types to take all limits off a range: `all`, `all keys`. */
export function isEverything(text: string): boolean {
  return /^all( keys)?$/i.test(text.trim());
}

/** Minutes and seconds, `6:10`; hours before them if there are any; a bare number is minutes. */
function readTime(text: string): NumberReading {
  const parts = text.split(/[:.]/);
  const isTime = parts.length <= 3 && parts.every((part) => /^\d{1,4}$/.test(part));
  const rest = parts.slice(1);
  if (!isTime || rest.some((part) => Number(part) > 59))
    return { ok: false, problem: `“${text}” is no length. Type minutes and seconds, as 4:30.` };
  const [first, ...others] = parts.map(Number);
  if (others.length === 0) return { ok: true, value: first * 60 };
  return { ok: true, value: others.reduce((sum, part) => sum * 60 + part, first) };
}

/** A side of the stage and how far towards it, in either order: `30L`, `L30`, `30 left`, `left`, `C`. */
const PAN = /^(?:(\d+)\s*%?\s*)?(l|r|c|left|right|cent(?:re|er)|mid(?:dle)?)(?:\s*(\d+))?$/i;

function readPan(text: string): NumberReading {
  const match = PAN.exec(text);
  if (match && (match[1] === undefined || match[3] === undefined)) {
    const side = match[2][0].toUpperCase();
    const share = Number(match[1] ?? match[3] ?? 100) / 100;
    if (side === 'C' || side === 'M') return { ok: true, value: 0 };
    return { ok: true, value: share * (side === 'L' ? -1 : 1) };
  }
  const percent = Number(text);
  return !DECIMAL.test(text)
    ? { ok: false, problem: 'Type 30L, C or 30R.' }
    : { ok: true, value: percent / 100 };
}
