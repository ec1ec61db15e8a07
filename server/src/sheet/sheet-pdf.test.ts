import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { serverUnderTest } from '../testing/server-under-test.js';
import { drawnWords, fitting, text } from './page-parts.js';
import { runsOf } from './typefaces.js';

let server: Awaited<ReturnType<typeof serverUnderTest>>;
beforeAll(async () => {
  server = await serverUnderTest();
});
afterAll(() => server.close());

const pagesOf = (pdf: Buffer) => pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0;
const asked = (wishes: string) => server.http.get(`/api/sheets/demo-show?${wishes}`);

describe('sheets as PDF', () => {
  it('has a page for the order, one a song, one for the rig, with its typefaces in it', async () => {
    const { status, headers, body } = await asked('');
    const pdf = body as Buffer;
    expect([status, headers['content-type']]).toEqual([200, 'application/pdf']);
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(pagesOf(pdf)).toBe(9);
    for (const face of ['AtkinsonHyperlegibleNext-Bold', 'AtkinsonHyperlegibleMono', 'DejaVuSans'])
      expect(pdf.toString('latin1')).toContain(face);
    expect(pdf.toString('latin1').match(/\/FontFile2/g)?.length).toBeGreaterThanOrEqual(4);
  });

  it('has the parts that are asked for, on the paper that is asked for', async () => {
    const { body } = await asked('parts=order&paper=Letter&large=true');
    const pdf = body as Buffer;
    expect(pagesOf(pdf)).toBe(1);
    expect(pdf.toString('latin1')).toContain('/MediaBox [0 0 612 792]');
  });

  it.each([
    ['paper=A5', 400, /paper/],
    ['parts=', 400, /parts/],
    ['large=perhaps', 400, /large/],
  ])('refuses %s in plain words', async (wishes, status, words) => {
    const answer = await asked(wishes);
    expect(answer.status).toBe(status);
    expect(answer.body).toMatchObject({
      error: { message: expect.stringMatching(words) as string },
    });
  });

  it('says that there is no such show', async () => {
    expect((await server.http.get('/api/sheets/nothing')).status).toBe(404);
  });

  it('sets letters that a typeface lacks in another one, and lets no name into a drawing as a shape', () => {
    expect(runsOf('E♭ → Ж')).toEqual([
      { text: 'E', wide: false },
      { text: '♭', wide: true },
      { text: ' ', wide: false },
      { text: '→', wide: true },
      { text: ' ', wide: false },
      { text: 'Ж', wide: true },
    ]);
    // A word that finds no room is broken; others are as they are.
    expect([text('Felt piano', {}, 4), text('Felt', {}, 4)].map((set) => set.text)).toEqual([
      [{ text: 'Felt pian o' }],
      [{ text: 'Felt' }],
    ]);
    const drawn = drawnWords('<rect> & "\u0007"', { x: 0, y: 0, size: 8 });
    expect(drawn).toContain('&lt;rect&gt; &amp; &quot; &quot;');
    expect([fitting('Felt piano', 500, 8), fitting('Felt piano', 26, 8)]).toEqual([
      'Felt piano',
      'Felt…',
    ]);
  });
});
