import { basename } from 'node:path';
import { KINDS, type Kind } from '@pentachord/core/model';
import { Router, type Response } from 'express';
import type { DataFolder } from '../store/data-folder.js';
import { inWords } from '../store/folder.js';
import { sendFault } from './faults.js';

/**
 * `GET /keeping`: how what is kept is doing, and which backups there are. `POST /backups` makes one,
 * `GET /backups/:name` looks into one, `POST /backups/:name/bring-back` puts it in place of what is there,
 * `POST /backups/:name/bring-back/:kind/:id` brings back a single thing. There even when no database is open.
 */
export function keepingRoutes(keeping: DataFolder): Router {
  const router = Router();

  router.get('/keeping', (_request, response) => {
    response.json(keeping.state());
  });

  router.post('/backups', async (_request, response) => {
    const backup = await keeping.backUp('asked');
    if (backup) response.status(201).json(keeping.state());
    else
      sendFault(response, {
        code: 'unwritable',
        message:
          'No backup could be made. Nothing was changed; see that there is room on the disk.',
      });
  });

  router.get('/backups/:name', async (request, response) => {
    try {
      const look = await keeping.look(request.params.name);
      if (look) response.json(look);
      else none(response);
    } catch (error) {
      sendFault(response, {
        code: 'invalid',
        message: `This backup cannot be read: ${words(error)}. Nothing was changed; look into another one.`,
      });
    }
  });

  router.post('/backups/:name/bring-back', async (request, response) => {
    try {
      if (await keeping.bringBack(request.params.name)) response.json(keeping.state());
      else none(response);
    } catch (error) {
      sendFault(response, {
        code: 'invalid',
        message: `The backup could not be brought back: ${words(error)}. Everything is as it was.`,
      });
    }
  });

  router.post('/backups/:name/bring-back/:kind/:id', async (request, response) => {
    const { name, kind, id } = request.params;
    if (!KINDS.includes(kind as Kind)) {
      none(response);
      return;
    }
    const why = await keeping.bringThingBack(name, kind as Kind, id).catch(words);
    if (why === null) response.json(keeping.state());
    else
      sendFault(response, {
        code: 'invalid',
        message: `It could not be brought back: ${why}. Nothing was changed.`,
      });
  });

  return router;
}

function none(response: Response): void {
  sendFault(response, { code: 'not-found', message: 'There is no such backup.' });
}

/** What went wrong, without the paths of this machine. */
function words(error: unknown): string {
  return inWords(error).replaceAll(/(?<=^|[\s'"(“])\/[^\s'")”]+/g, (path) => basename(path));
}
