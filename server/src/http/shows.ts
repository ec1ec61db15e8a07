import { Router } from 'express';
import type { Store } from '../store/store.js';
import { sendFault } from './faults.js';

/** `GET /shows` lists them, `GET /shows/:id/document` is one with everything in it. */
export function showRoutes(store: Store): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    response.json(await store.shows());
  });
  router.get('/:id/document', async (request, response) => {
    const document = await store.document(request.params.id);
    if (document) response.json(document);
    else sendFault(response, { code: 'not-found', message: 'There is no such show.' });
  });
  return router;
}
