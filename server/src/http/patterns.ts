import { Router } from 'express';
import type { Store } from '../store/store.js';

/** `GET /patterns`: the patterns of the library. */
export function patternRoutes(store: Store): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    response.json(await store.all('patterns'));
  });
  return router;
}
