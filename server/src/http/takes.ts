import { bytesOfTake, MOST_TAKE_BYTES, readTake } from '@pentachord/core/exchange';
import { idSchema, takeWordsSchema, type Fault } from '@pentachord/core/model';
import express, { Router, type Response } from 'express';
import type { Store } from '../store/store.js';
import { faultOf, sendFault } from './faults.js';

const NOT_THERE: Fault['error'] = { code: 'not-found', message: 'There is no such take.' };

/**
 * `GET /takes`: all that are kept, in short; `GET` and `PUT /takes/ID`: one with its roll, as bytes; `PUT /takes/ID/words`: what a
 * player says of it; `DELETE /takes/ID`.
 */
export function takeRoutes(store: Store): Router {
  const router = Router();
  const { takes } = store;
  const mayWrite = (response: Response): boolean => {
    const why = store.condition.readOnly;
    if (why) sendFault(response, { code: 'unwritable', message: why });
    return !why;
  };
  const wrong = (response: Response, message: string) =>
    sendFault(response, { code: 'invalid', message: `${message}. Nothing was changed.`, path: '' });

  router.get('/', async (_request, response) => {
    response.json(await takes.inShort());
  });

  router.get('/:id', async (request, response) => {
    const whole = await takes.find(request.params.id);
    if (!whole) sendFault(response, NOT_THERE);
    else response.type('application/octet-stream').send(Buffer.from(bytesOfTake(whole)));
  });

  const asBytes = express.raw({ type: 'application/octet-stream', limit: MOST_TAKE_BYTES });
  router.put('/:id', asBytes, async (request, response) => {
    if (!mayWrite(response)) return;
    const { body } = request as { body: unknown };
    if (!Buffer.isBuffer(body)) {
      wrong(response, 'The body is no take');
      return;
    }
    const read = readTake(body);
    if (typeof read === 'string') wrong(response, `The take cannot be kept: ${read}`);
    else if (read.take.id !== request.params.id) wrong(response, 'id: it is another take’s');
    else {
      const result = await takes.keep(read);
      response.status(result === 'kept' ? 201 : 200).json({ result });
    }
  });

  router.put('/:id/words', async (request, response) => {
    const words = takeWordsSchema.safeParse(request.body);
    if (!words.success) sendFault(response, faultOf(words.error));
    else if (!mayWrite(response)) return;
    else if (await takes.say(request.params.id, words.data)) response.status(204).end();
    else sendFault(response, NOT_THERE);
  });

  router.delete('/:id', async (request, response) => {
    if (!idSchema.safeParse(request.params.id).success) sendFault(response, NOT_THERE);
    else if (!mayWrite(response)) return;
    else if (await takes.remove(request.params.id)) response.status(204).end();
    else sendFault(response, NOT_THERE);
  });

  return router;
}
