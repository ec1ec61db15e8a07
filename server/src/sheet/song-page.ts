import type { SheetCue, SheetMap, SheetSong } from '@pentachord/core/exchange';
import { isBlackKey } from '@pentachord/core/pitch';
import type { Content } from './pdf-types.js';
import {
  drawing,
  drawnWords,
  fitting,
  INK,
  line,
  ruled,
  text,
  type PageSize,
} from './page-parts.js';

/** A song: its keys, what lies on the keyboards, its cues, its words. */
export function songPage(song: SheetSong, page: PageSize): Content[] {
  const { scale } = page;
  const size = 12 * scale;
  const keys =
    song.fingered === song.sounding
      ? [text('In '), text(song.fingered, { bold: true })]
      : [
          text('Hands in '),
          text(song.fingered, { bold: true }),
          text(', sounds in '),
          text(song.sounding, { bold: true }),
        ];
  return [
    {
      columns: [
        text(`${song.number} · ${song.name}`, { bold: true, fontSize: 20 * scale }, 16),
        text(`${song.tempo} · ${song.metre}`, {
          ...{ font: 'Figures', fontSize: 15 * scale, alignment: 'right', width: 'auto' },
          margin: [12, 4 * scale, 0, 0],
        }),
      ],
    },
    line([...keys, text(` · ${song.length}`)], { fontSize: 14 * scale, margin: [0, 4, 0, 8] }),
    ...(song.otherwise
      ? [text(`Tonight ${song.otherwise}`, { italics: true, fontSize: size })]
      : []),
    ...song.maps.flatMap((map, at) => mapOf(map, song.maps.at(at - 1), at === 0, page)),
    ruled(
      song.cues.map((cue) => cueLine(cue, scale)),
      ['auto', 92 * scale, '*', 'auto'],
      0,
      4.5 * scale,
    ),
    ...(song.notes.length > 0 ? [notesOf(song.notes, size)] : []),
    line(
      song.controls.flatMap(({ control, does }, at) => [
        text(`${at > 0 ? ' · ' : ''}${control} `, { bold: true }),
        text(does),
      ]),
      { fontSize: 10.5 * scale, margin: [0, 10, 0, 0] },
    ),
  ];
}

function cueLine(cue: SheetCue, scale: number): Content[] {
  const size = 12 * scale;
  const figures = { font: 'Figures', fontSize: size } as const;
  const said = [
    cue.changes.join(', '),
    cue.presses.length > 0 ? `on ${cue.presses.join(' or ')}` : '',
  ]
    .filter((words) => words !== '')
    .join(' · ');
  return [
    text(cue.at, figures),
    text(cue.name, { bold: true, fontSize: size }, 12),
    {
      stack: [
        line([
          ...(cue.patch ? [text(cue.patch, { bold: true }), text(said ? ', ' : '')] : []),
          text(said),
        ]),
        ...(cue.note ? [text(cue.note, { italics: true })] : []),
      ],
      fontSize: 11 * scale,
    },
    text(cue.glide, { ...figures, alignment: 'right', noWrap: true }),
  ];
}

function notesOf(notes: readonly string[], size: number): Content {
  return {
    table: {
      body: [[{ stack: notes.map((words) => text(words || ' ')), fontSize: size }]],
      widths: ['*'],
    },
    layout: {
      hLineWidth: () => 0,
      vLineWidth: (at: number) => (at === 0 ? 3 : 0),
      vLineColor: () => INK,
      paddingLeft: () => 9,
      paddingRight: () => 0,
      paddingTop: () => 0,
      paddingBottom: () => 0,
    },
    margin: [0, 14, 0, 0],
  };
}

/** A keyboard with its layers over it; the patch is named where it begins. */
function mapOf(
  map: SheetMap,
  before: SheetMap | undefined,
  isFirst: boolean,
  page: PageSize,
): Content[] {
  const { width, scale } = page;
  const isNew = isFirst || before?.patch !== map.patch;
  const barHeight = 15 * scale;
  const rows = Math.max(0, ...map.bars.map(({ row }) => row + 1));
  const top = rows * (barHeight + 2);
  const keys = 26;
  const place = placesOf(map, width);
  const size = 8.5 * scale;
  const bars = map.bars.map(({ letter, name, words, low, high, row, muted }) => {
    const x = place.of(low).x + 0.5;
    const long = place.of(high).x + place.of(high).width - x - 0.5;
    const y = row * (barHeight + 2) + 0.5;
    const dash = muted ? ' stroke-dasharray="3 2"' : '';
    const box = `<rect x="${x}" y="${y}" width="${long}" height="${barHeight - 1}" fill="white" stroke="black" stroke-width="0.9"${dash}/>`;
    const baseline = y + barHeight * 0.68;
    const rest = fitting(words ? `${name}, ${words}` : name, long - 6 - size, size);
    return (
      box +
      drawnWords(letter, { x: x + 4, y: baseline, size, bold: true }) +
      drawnWords(rest, { x: x + 4 + size, y: baseline, size })
    );
  });
  const starts = map.starts.map(({ key, names }) => `${key} ${names.join(' + ')}`);
  return [
    {
      stack: [
        line(
          [
            text(isNew ? `${map.patch} ` : '', { bold: true }),
            text(map.keyboard.toLowerCase(), { font: 'Figures' }),
          ],
          { fontSize: 11 * scale, margin: [0, 4, 0, 3] },
        ),
        drawing(width, top + keys, [...bars, ...place.drawn(top, keys)]),
        ...(starts.length > 0
          ? [text(`Starts: ${starts.join(' · ')}`, { fontSize: 9.5 * scale, margin: [0, 3, 0, 0] })]
          : []),
      ],
      unbreakable: true,
      margin: [0, 0, 0, 8],
    },
  ];
}

/** Where keys lie on paper: white ones beside one another, black ones between them. */
function placesOf({ lowest, highest }: SheetMap, width: number) {
  const all = Array.from({ length: highest - lowest + 1 }, (_, at) => lowest + at);
  const white = all.filter((key) => !isBlackKey(key)).length || 1;
  const across = width / white;
  const at = new Map<number, { x: number; width: number }>();
  let next = 0;
  for (const key of all) {
    if (isBlackKey(key)) at.set(key, { x: Math.max(0, next - across * 0.3), width: across * 0.6 });
    else {
      at.set(key, { x: next, width: across });
      next += across;
    }
  }
  const of = (key: number) => at.get(key) ?? { x: 0, width };
  const drawn = (y: number, height: number) =>
    [...all.filter((key) => !isBlackKey(key)), ...all.filter(isBlackKey)].map((key) => {
      const black = isBlackKey(key);
      const { x, width: wide } = of(key);
      return `<rect x="${x}" y="${y}" width="${wide}" height="${black ? height * 0.6 : height - 0.5}" fill="${black ? 'black' : 'white'}" stroke="black" stroke-width="0.5"/>`;
    });
  return { of, drawn };
}
