import { healthSchema } from '@pentachord/core/model';
import { Router } from 'express';
import { SCHEMA_VERSION } from '../store/database.js';
import type { Store } from '../store/store.js';

/** `GET /health`: that the server answers and its database can be read. */
export function healthRoutes(store: Store, version: string): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    await store.hasNone('shows');
    const database = await store.database();
    response.json(
      healthSchema.parse({ status: 'ok', version, schemaVersion: SCHEMA_VERSION, database }),
    );
  });
  return router;
}
