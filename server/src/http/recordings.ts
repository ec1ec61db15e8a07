import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import {
  clearingSchema,
  recordingIdSchema,
  recordingSchema,
  type Fault,
} from '@pentachord/core/model';
import { Router, type Response } from 'express';
import { NotAsSaid } from '../store/recording-files.js';
import type { Recordings } from '../store/recordings.js';
import { faultOf, sendFault } from './faults.js';

/**
 * `GET /recordings`: all that are known; `GET` and `PUT /recordings/ID/bytes`: their bytes, streamed; `PUT /recordings/ID`: what is
 * known of one whose bytes are there; `GET /recordings/keeping`: what is wanting and what is unused; `POST /recordings/clear`.
 * @param readOnly why nothing can be written, in words; null when it can
 */
export function recordingRoutes(recordings: Recordings, readOnly: () => string | null): Router {
  const router = Router();
  const mayWrite = (response: Response): boolean => {
    const why = readOnly();
    if (why) sendFault(response, { code: 'unwritable', message: why });
    return !why;
  };

  router.get('/', async (_request, response) => {
    response.json(await recordings.all());
  });

  router.get('/keeping', async (_request, response) => {
    response.json(await recordings.keeping());
  });

  router.post('/clear', async (request, response) => {
    const body = clearingSchema.safeParse(request.body);
    if (!body.success) sendFault(response, faultOf(body.error));
    else if (mayWrite(response)) response.json({ cleared: await recordings.clear(body.data.ids) });
  });

  router.get('/:id/bytes', async (request, response) => {
    const file = recordings.files.file(request.params.id);
    if (!file) {
      sendFault(response, NOT_THERE);
      return;
    }
    response.type('application/octet-stream');
    // Who stops listening has no use for the rest.
    await pipeline(createReadStream(file), response).catch(() => response.destroy());
  });

  router.put('/:id/bytes', async (request, response) => {
    const { id } = request.params;
    if (!recordingIdSchema.safeParse(id).success) {
      request.resume();
      sendFault(response, NO_ID);
      return;
    }
    if (!mayWrite(response)) {
      request.resume();
      return;
    }
    try {
      await recordings.files.take(id, request);
      response.status(204).end();
    } catch (error) {
      answerUpload(response, error);
    }
  });

  router.put('/:id', async (request, response) => {
    const body = recordingSchema.safeParse(request.body);
    if (!body.success) {
      sendFault(response, faultOf(body.error));
      return;
    }
    if (body.data.id !== request.params.id) {
      sendFault(response, NO_ID);
      return;
    }
    if (!mayWrite(response)) return;
    const outcome = await recordings.enter(body.data);
    if (outcome === 'other-size')
      sendFault(response, {
        code: 'invalid',
        message: 'bytes: differs from how many there are. Nothing was changed.',
        path: 'bytes',
      });
    // Its bytes are to come first; then this is asked again.
    else if (outcome === 'no-bytes') response.status(202).json({ result: 'wanting' });
    else response.status(outcome === 'taken' ? 201 : 200).json({ result: outcome });
  });

  return router;
}

const NOT_THERE: Fault['error'] = {
  code: 'not-found',
  message: 'The bytes of this recording are not there. Drop its file again to bring it back.',
};
const NO_ID: Fault['error'] = {
  code: 'invalid',
  message: 'id: it is not the SHA-256 of the address. Nothing was changed.',
  path: 'id',
};

function answerUpload(response: Response, error: unknown): void {
  // Whoever sent it is gone: there is nobody to answer.
  if (response.destroyed || (response.req.destroyed && !response.req.complete)) return;
  if (error instanceof NotAsSaid)
    sendFault(response, {
      code: 'invalid',
      message: `The recording was not taken: ${error.message}. Nothing was changed; try again.`,
      path: 'bytes',
    });
  else throw error;
}
