import { Router } from 'express';
import { bringDemo, removeDemo } from '../demo/fill.js';
import type { DataFolder } from '../store/data-folder.js';
import type { RecordingFiles } from '../store/recording-files.js';
import type { Store } from '../store/store.js';
import { sendFault } from './faults.js';

/** `PUT /demo` brings the demo show, `DELETE /demo` removes it whole, after a backup was made. */
export function demoRoutes(
  store: Store,
  keeping?: DataFolder,
  files: RecordingFiles | null = null,
): Router {
  const router = Router();
  router.use((_request, response, next) => {
    const { readOnly } = store.condition;
    if (readOnly) sendFault(response, { code: 'unwritable', message: readOnly });
    else next();
  });
  router.put('/', async (_request, response) => {
    await bringDemo(store, files);
    response.status(204).end();
  });
  router.delete('/', async (_request, response) => {
    if (keeping && !(await keeping.backUp('asked'))) {
      sendFault(response, {
        code: 'unwritable',
        message:
          'The demo stays: no backup could be made of what is there. Nothing was changed; see that there is room on the disk.',
      });
      return;
    }
    response.json({ kept: await removeDemo(store) });
  });
  return router;
}
