import { Router } from 'express';
import type { Store } from '../store/store.js';

/** `GET /repertoire`: every song with its patches and cues, every show and every rig. */
export function repertoireRoutes(store: Store): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    response.json(await store.repertoire());
  });
  return router;
}
