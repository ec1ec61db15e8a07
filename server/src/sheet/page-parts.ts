import type { Content, ContentText } from './pdf-types.js';
import { runsOf } from './typefaces.js';

/** Points of a page that can be printed on, and how large its letters are. */
export interface PageSize {
  /** Points across, between the margins. */
  width: number;
  /** By which letters are larger than on a desk: 1 for those. */
  scale: number;
}

export const INK = '#000000';
export const SOFT = '#555555';
const HAIRLINE = '#aaaaaa';

/** Letters of a word that find room in a line of their own; longer ones are broken. */
const LONGEST_WORD = 40;

/** Text, each letter in a typeface that has it. A word of more letters than `longest` is broken. */
export function text(
  words: string,
  style: Partial<ContentText> = {},
  longest = LONGEST_WORD,
): ContentText {
  const broken = words.replace(new RegExp(`\\S{${longest}}(?=\\S)`, 'gu'), '$& ');
  return {
    ...style,
    text: runsOf(broken).map(({ text: run, wide }) => ({
      text: run,
      ...(wide && { font: 'Wide' }),
    })),
  };
}

/** Several texts in one line, each as it is set. */
export function line(parts: readonly ContentText[], style: Partial<ContentText> = {}): ContentText {
  const runs = parts.flatMap(({ text: inner, ...own }) =>
    (inner as ContentText[]).map((run) => ({ ...own, ...run })),
  );
  return { ...style, text: runs };
}

/** Rows with a thin line under each; the first `headed` of them stand on every page that the table reaches. */
export function ruled(
  rows: Content[][],
  widths: (string | number)[],
  headed = 0,
  pad = 4,
): Content {
  if (rows.length === 0) return '';
  return {
    table: { body: rows, widths, headerRows: headed, dontBreakRows: true },
    layout: {
      hLineWidth: (at: number) => (at === 0 ? 0 : 0.5),
      hLineColor: () => HAIRLINE,
      vLineWidth: () => 0,
      paddingLeft: () => 0,
      paddingRight: () => 8,
      paddingTop: () => pad,
      paddingBottom: () => pad,
    },
  };
}

/** What is written into a drawing, safe and in the right typefaces. */
export function drawnWords(
  words: string,
  {
    x,
    y,
    size,
    bold = false,
    middle = false,
  }: {
    x: number;
    y: number;
    size: number;
    bold?: boolean;
    middle?: boolean;
  },
): string {
  const spans = runsOf(words)
    .map(
      ({ text: run, wide }) =>
        `<tspan font-family="${wide ? 'Wide' : 'Words'}">${escaped(run)}</tspan>`,
    )
    .join('');
  const anchor = middle ? ' text-anchor="middle"' : '';
  const weight = bold ? ' font-weight="bold"' : '';
  return `<text x="${x}" y="${y}" font-size="${size}"${anchor}${weight}>${spans}</text>`;
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

function escaped(words: string): string {
  return words.replace(/[&<>"]/g, (sign) => ESCAPES[sign]);
}

/** As much of a text as finds room in some points at a size, about. */
export function fitting(words: string, width: number, size: number): string {
  const most = Math.floor(width / (size * 0.52));
  if (words.length <= most) return words;
  return most < 2 ? '' : `${words.slice(0, most - 1).trimEnd()}…`;
}

/** A drawing of some size, in points. */
export function drawing(width: number, height: number, shapes: readonly string[]): Content {
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${shapes.join('')}</svg>`,
    width,
    font: 'Words',
  };
}
