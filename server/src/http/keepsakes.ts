import { Router } from 'express';
import type { Store } from '../store/store.js';

/** `GET /keepsakes`: what the player keeps. */
export function keepsakeRoutes(store: Store): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    response.json(await store.keepsakes());
  });
  return router;
}
