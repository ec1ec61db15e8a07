import { faultSchema, pathInWords, type Fault } from '@pentachord/core/model';
import type { ErrorRequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import type * as z from 'zod';
import { diskFaultOf, type DiskFault } from '../store/disk-faults.js';

type FaultCode = Fault['error']['code'];

const STATUS: Record<FaultCode, number> = {
  invalid: 400,
  'not-found': 404,
  stale: 409,
  'in-use': 409,
  foreign: 403,
  'other-database': 412,
  'no-room': 507,
  unwritable: 503,
  unavailable: 503,
  'too-large': 413,
  internal: 500,
};

/** Answers with a fault. */
export function sendFault(response: Response, error: Fault['error']): void {
  response.status(STATUS[error.code]).json(faultSchema.parse({ error }));
}

/** What a schema found, in plain words, with the path of the first fault. */
export function faultOf(error: z.ZodError): Fault['error'] {
  const [issue] = error.issues;
  const unknown = issue.code === 'unrecognized_keys' ? issue.keys[0] : null;
  const path = pathInWords(unknown === null ? issue.path : [...issue.path, unknown]);
  const what = unknown === null ? issue.message : 'there is no such field';
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : '';
  return {
    code: 'invalid',
    message: `${path || 'the body'}: ${what}${more}. Nothing was changed.`,
    path,
  };
}

const MISTAKE: Fault['error'] = {
  code: 'internal',
  message: 'The server made a mistake. Nothing was changed; try again.',
};

const DISK: Record<DiskFault, Fault['error']> = {
  'no-room': {
    code: 'no-room',
    message: 'There is no room on the disk. Nothing was changed; make room, and saving goes on.',
  },
  unwritable: {
    code: 'unwritable',
    message: 'The disk does not let the database be written. Nothing was changed.',
  },
  damaged: {
    code: 'internal',
    message:
      'The database is damaged. Nothing was changed; start Pentachord again to look into the backups.',
  },
};

/** The last stop for anything thrown: bodies that cannot be read, and mistakes of our own. */
export function faultHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const type = error instanceof Error && 'type' in error ? error.type : null;
    const status = error instanceof Error && 'status' in error ? Number(error.status) : 500;
    if (type === 'entity.too.large') {
      sendFault(response, {
        code: 'too-large',
        message: 'The body is larger than 1 MB. Nothing was changed.',
      });
    } else if (type === 'entity.parse.failed') {
      sendFault(response, {
        code: 'invalid',
        message: 'The body is not valid JSON. Nothing was changed.',
        path: '',
      });
    } else if (status >= 400 && status < 500) {
      sendFault(response, {
        code: 'invalid',
        message: 'The request could not be read. Nothing was changed.',
        path: '',
      });
    } else {
      log.error({ err: error }, 'request failed');
      const disk = diskFaultOf(error);
      sendFault(response, disk ? DISK[disk] : MISTAKE);
    }
  };
}
