import { Router } from 'express';
import type { Store } from '../store/store.js';

/** `GET /sounds`: the sound library. */
export function soundRoutes(store: Store): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    response.json(await store.sounds());
  });
  return router;
}
