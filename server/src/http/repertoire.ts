import { Router } from 'express';
import type { Store } from '../store/store.js';

/** `GET /repertoire`: every song with its patches and cues, every show and every rig. */
export function repertoireRoutes(store: Store): Router {
  const router = Router();
  // Read once for all who ask until something is written: a hundred that ask at once must not keep others waiting.
  let kept: { at: string; text: Promise<string> } | null = null;
  router.get('/', async (_request, response) => {
    const { writes, damages } = store.condition;
    const at = `${writes} ${damages.length}`;
    if (kept?.at !== at) {
      const text = store.repertoire().then((repertoire) => JSON.stringify(repertoire));
      kept = { at, text };
      text.catch(() => (kept = null));
    }
    response.type('json').send(await kept.text);
  });
  return router;
}
