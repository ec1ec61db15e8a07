import { DATABASE_HEADER } from '@pentachord/core/model';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import type { Store } from '../store/store.js';
import { sendFault } from './faults.js';

/**
 * Security headers. Nothing may come from outside; cross-origin isolation gives the pages the shared memory over which
 * the player talks to the audio thread.
 */
export function securityHeaders(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The inner loop of the sound is compiled in the page.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // Style elements that components bring bear the number of their document; style attributes are not let in at all.
        styleSrc: ["'self'"],
        styleSrcElem: ["'self'"],
        styleSrcAttr: ["'none'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    strictTransportSecurity: false,
  });
}

/** What a page may use of the machine. */
const PERMISSIONS = [
  'midi=(self)',
  'autoplay=(self)',
  'fullscreen=(self)',
  'screen-wake-lock=(self)',
  'cross-origin-isolated=(self)',
  'clipboard-write=(self)',
  // A note is recorded from it, where the player asks for that.
  'microphone=(self)',
  ...['camera', 'display-capture', 'geolocation', 'hid', 'payment', 'serial', 'usb'].map(
    (feature) => `${feature}=()`,
  ),
].join(', ');

/** Says to browsers which of the machine’s devices a page may use. */
export function permissionsPolicy(): RequestHandler {
  return (_request, response, next) => {
    response.setHeader('Permissions-Policy', PERMISSIONS);
    next();
  };
}

/** Refuses changes that a page of another origin asks for: it could not read the answer, but it could do harm. */
export function ownPagesOnly(): RequestHandler {
  return ({ method, headers }, response, next) => {
    const { origin, host } = headers;
    const reads = method === 'GET' || method === 'HEAD';
    if (reads || origin === undefined || (host && origin === `http://${host}`)) next();
    else
      sendFault(response, {
        code: 'foreign',
        message: 'Only Pentachord’s own pages may change something. Nothing was changed.',
      });
  };
}

/** Refuses what was changed for another database: it would be laid over this one. A request that names none is let in. */
export function ownDatabaseOnly(store: Store): RequestHandler {
  return async (request, response, next) => {
    const meant = request.method === 'GET' ? undefined : request.get(DATABASE_HEADER);
    if (meant === undefined || meant === (await store.database())) next();
    else
      sendFault(response, {
        code: 'other-database',
        message:
          'Another database answers at this address now than the one this was changed for. Nothing was changed; what you changed is kept in your browser for the other one.',
      });
  };
}

/** A name of this machine, with a port or without. */
const OWN_NAME = /^(127\.0\.0\.1|localhost|\[::1\])(:\d{1,5})?$/i;

/** Refuses requests under another name than this machine's own, so that a page from elsewhere cannot reach in. */
export function localNamesOnly(): RequestHandler {
  return (request, response, next) => {
    if (OWN_NAME.test(request.headers.host ?? '')) next();
    else
      sendFault(response, {
        code: 'invalid',
        message: 'This server answers only to 127.0.0.1 and localhost.',
        path: '',
      });
  };
}
