import { sheetOf, sheetWishesSchema } from '@pentachord/core/exchange';
import { Router } from 'express';
import type { Store } from '../store/store.js';
import { faultOf, sendFault } from './faults.js';

/** `GET /sheets/:showId?paper=&large=&parts=`: the sheet of a night as PDF. */
export function sheetRoutes(store: Store): Router {
  const router = Router();
  router.get('/:showId', async (request, response) => {
    const wishes = sheetWishesSchema.safeParse(request.query);
    if (!wishes.success) {
      sendFault(response, faultOf(wishes.error));
      return;
    }
    const all = await store.repertoire();
    const show = all.shows.find(({ value }) => value.id === request.params.showId)?.value;
    const rig = all.rigs.find(({ value }) => value.id === show?.rigId)?.value;
    if (!show || !rig) {
      sendFault(response, { code: 'not-found', message: 'There is no such show.' });
      return;
    }
    const byId = <T extends { id: string }>(saved: readonly { value: T }[]) =>
      new Map(saved.map(({ value }) => [value.id, value]));
    const sheet = sheetOf({
      ...{ show, rig },
      devices: all.devices
        .map(({ value }) => value)
        .filter(({ rigId }) => rigId === rig.id)
        .sort((a, b) => a.position - b.position),
      songs: byId(all.songs),
      patches: byId(all.patches),
      cues: all.cues.map(({ value }) => value).sort((a, b) => a.position - b.position),
      sounds: byId(await store.sounds()),
      patterns: byId(await store.all('patterns')),
    });
    // What lays out pages is large, and not needed before the first sheet.
    const { sheetPdf } = await import('../sheet/sheet-pdf.js');
    // Whoever has chosen otherwise since does not wait for it.
    if (response.closed) return;
    response.type('application/pdf').send(await sheetPdf(sheet, wishes.data));
  });
  return router;
}
