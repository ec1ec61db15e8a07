import { kindInWords, savedSchemas, type Kind, type ValueOf } from '@pentachord/core/model';
import { Router, type Response } from 'express';
import * as z from 'zod';
import type { Outcome, Store } from '../store/store.js';
import { faultOf, sendFault } from './faults.js';

const revisionQuery = z.object({ revision: z.coerce.number().int().min(1) });

/**
 * The routes that every kind of saved thing has:
 * `GET /:id`, `PUT /:id` with `{revision, value}` (revision 0 creates), `DELETE /:id?revision=n`.
 */
export function savedThingRoutes(kind: Kind, store: Store): Router {
  const router = Router();
  const schema = savedSchemas[kind];

  router.get('/:id', async (request, response) => {
    const found = await store.find(kind, request.params.id);
    if (found) response.json(found);
    else sendFault(response, notFound(kind));
  });

  router.put('/:id', async (request, response) => {
    const body = schema.safeParse(request.body);
    if (!body.success) {
      sendFault(response, faultOf(body.error));
      return;
    }
    if (body.data.value.id !== request.params.id) {
      sendFault(response, {
        code: 'invalid',
        message: 'value.id: differs from the id in the address. Nothing was changed.',
        path: 'value.id',
      });
      return;
    }
    answer(response, kind, await store.save(kind, body.data));
  });

  router.delete('/:id', async (request, response) => {
    const query = revisionQuery.safeParse(request.query);
    if (!query.success) {
      sendFault(response, faultOf(query.error));
      return;
    }
    const outcome = await store.remove(kind, request.params.id, query.data.revision);
    if (outcome === null) sendFault(response, notFound(kind));
    else if (outcome.kind === 'done') response.status(204).end();
    else answer(response, kind, outcome);
  });

  return router;
}

function notFound(kind: Kind) {
  return { code: 'not-found' as const, message: `There is no such ${kindInWords(kind)}.` };
}

function answer(response: Response, kind: Kind, outcome: Outcome<ValueOf<Kind>>): void {
  const name = kindInWords(kind);
  switch (outcome.kind) {
    case 'done':
      response
        .status(outcome.created ? 201 : 200)
        .type('json')
        .send(outcome.text);
      return;
    case 'stale':
      sendFault(response, {
        code: 'stale',
        message: outcome.present
          ? `This ${name} has been saved elsewhere since. Yours was not saved; the present version is attached.`
          : `This ${name} has been removed elsewhere. Yours was not saved.`,
        present: outcome.present,
      });
      return;
    case 'missing-reference':
      sendFault(response, {
        code: 'invalid',
        message: `${sentence(outcome.words)} is not there any more, so this ${name} cannot be saved. Nothing was changed.`,
        path: 'value',
      });
      return;
    case 'stranger':
      sendFault(response, {
        code: 'invalid',
        message: `This ${name} points to ${outcome.words}. Nothing was changed.`,
        path: 'value',
      });
      return;
    case 'unwritable':
      sendFault(response, { code: 'unwritable', message: outcome.words });
      return;
    case 'in-use':
      sendFault(response, {
        code: 'in-use',
        message: `This ${name} cannot be removed: ${outcome.words}. Nothing was changed.`,
      });
  }
}

/** Words that begin a sentence. */
function sentence(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
