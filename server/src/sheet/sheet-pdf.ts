import type { Sheet, SheetWishes } from '@pentachord/core/exchange';
import pdfmake from 'pdfmake';
import type { Content, Description } from './pdf-types.js';
import { orderPage } from './order-page.js';
import { SOFT, text, type PageSize } from './page-parts.js';
import { rigPage } from './rig-page.js';
import { songPage } from './song-page.js';
import { isTypeface, TYPEFACES } from './typefaces.js';

/** Points across of the papers, and their margins. */
const ACROSS = { A4: 595.28, Letter: 612 };
const MARGIN = 40;
const LARGE = 1.45;

pdfmake.addFonts(TYPEFACES);
// A sheet is made of what it is given and of its typefaces; nothing is fetched for it, and no other file is opened.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy(isTypeface);

/** A sheet as PDF, with its typefaces in it and a number on each page. */
export async function sheetPdf(
  sheet: Sheet,
  { paper, large, parts }: SheetWishes,
): Promise<Buffer> {
  const page: PageSize = { width: ACROSS[paper] - 2 * MARGIN, scale: large ? LARGE : 1 };
  const chapters: Content[][] = [];
  if (parts.includes('order')) chapters.push(orderPage(sheet, page));
  if (parts.includes('songs')) for (const song of sheet.songs) chapters.push(songPage(song, page));
  if (parts.includes('rig')) chapters.push(rigPage(sheet.rig, page));
  if (chapters.length === 0) chapters.push([text('There are no songs in this show yet.')]);
  const definition: Description = {
    info: { title: sheet.name, creator: 'Pentachord' },
    pageSize: paper === 'A4' ? 'A4' : 'LETTER',
    pageMargins: [MARGIN, MARGIN, MARGIN, 56],
    defaultStyle: { font: 'Words', fontSize: 11, lineHeight: 1.12 },
    content: chapters.map((stack, at): Content => ({
      stack,
      ...(at > 0 && { pageBreak: 'before' }),
    })),
    footer: (current, count) => ({
      columns: [text(sheet.name), text(`${current} of ${count}`, { alignment: 'right' })],
      ...{ font: 'Figures', fontSize: 9, color: SOFT, margin: [MARGIN, 18, MARGIN, 0] },
    }),
  };
  return pdfmake.createPdf(definition).getBuffer();
}
