import type { Sheet, SheetLine } from '@pentachord/core/exchange';
import type { Content } from './pdf-types.js';
import { drawing, drawnWords, fitting, line, ruled, text, type PageSize } from './page-parts.js';

/** The running order: the night to scale, then line by line. */
export function orderPage({ name, facts, order, presses }: Sheet, page: PageSize): Content[] {
  const { scale } = page;
  return [
    text(name, { bold: true, fontSize: 20 * scale }, 18),
    text(facts.join(' · '), { font: 'Figures', fontSize: 9.5 * scale, margin: [0, 4, 0, 14] }),
    toScale(order, page),
    ruled(
      order.map((one) => orderLine(one, scale)),
      [22 * scale, '*', 'auto', 'auto', 'auto'],
      0,
      4 * scale,
    ),
    line(
      presses.flatMap(({ control, does }, at) => [
        text(`${at > 0 ? ' · ' : ''}${does} `, { bold: true }),
        text(control),
      ]),
      { fontSize: 10 * scale, margin: [0, 16, 0, 0] },
    ),
  ];
}

function orderLine(
  { number, name, kind, keys, tempo, at, otherwise }: SheetLine,
  scale: number,
): Content[] {
  const size = 14 * scale;
  const figures = { font: 'Figures', fontSize: size } as const;
  const called = kind === 'encore' ? `encore: ${name}` : name;
  return [
    text(kind === 'song' && number !== null ? `${number}` : '', { fontSize: size }),
    line(
      [
        text(called, { bold: kind === 'song' }, 18),
        ...(otherwise
          ? [text(`  tonight ${otherwise}`, { italics: true, fontSize: 10 * scale })]
          : []),
      ],
      { fontSize: size },
    ),
    text(keys, figures),
    text(tempo, figures),
    text(at, { ...figures, alignment: 'right' }),
  ];
}

/** What counts of the night as boxes as long as it lasts; time between songs is dotted. */
function toScale(order: readonly SheetLine[], { width, scale }: PageSize): Content {
  const counted = order.filter(({ kind }) => kind !== 'encore');
  const total = counted.reduce((sum, { lengthSeconds }) => sum + lengthSeconds, 0);
  if (total === 0) return '';
  const height = 26 * scale;
  const size = 9 * scale;
  let from = 0;
  const shapes = counted.map(({ number, kind, lengthSeconds }) => {
    const x = 0.5 + (from / total) * (width - 1);
    const long = (lengthSeconds / total) * (width - 1);
    from += lengthSeconds;
    if (kind === 'gap')
      return `<line x1="${x}" y1="${height / 2}" x2="${x + long}" y2="${height / 2}" stroke="black" stroke-width="1" stroke-dasharray="1 3"/>`;
    const words = fitting(`${number}`, long, size);
    return `<rect x="${x}" y="0.5" width="${long}" height="${height - 1}" fill="white" stroke="black" stroke-width="1"/>${drawnWords(words, { x: x + long / 2, y: height / 2 + size * 0.35, size, middle: true })}`;
  });
  return { stack: [drawing(width, height, shapes)], margin: [0, 0, 0, 16 * scale] };
}
