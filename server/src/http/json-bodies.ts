import express, { type RequestHandler } from 'express';
import sjson from 'secure-json-parse';
import { sendFault } from './faults.js';

/** Reads JSON bodies of at most 1 MB. A key that would reach into every object of the program is refused. */
export function jsonBodies(): RequestHandler[] {
  const text = express.text({ type: 'application/json', limit: '1mb' });
  return [
    text,
    (request, response, next) => {
      if (typeof request.body !== 'string') {
        next();
        return;
      }
      try {
        request.body = sjson.parse(request.body, { protoAction: 'error' }) as unknown;
        next();
      } catch (error) {
        const forbidden = error instanceof Error && error.message.includes('forbidden prototype');
        sendFault(response, {
          code: 'invalid',
          message: forbidden
            ? '__proto__: there is no such field. Nothing was changed.'
            : 'The body is not valid JSON. Nothing was changed.',
          path: forbidden ? '__proto__' : '',
        });
      }
    },
  ];
}
