import type { RequestHandler } from 'express';
import helmet from 'helmet';
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
        // Components bring their styles with them as style elements.
        styleSrc: ["'self'", "'unsafe-inline'"],
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

/** Refuses requests under another name than this machine's own, so that a page from elsewhere cannot reach in. */
export function localNamesOnly(): RequestHandler {
  return (request, response, next) => {
    const { hostname } = request;
    if (hostname === '127.0.0.1' || hostname === 'localhost' || hostname === '[::1]') next();
    else
      sendFault(response, {
        code: 'invalid',
        message: 'This server answers only to 127.0.0.1 and localhost.',
        path: '',
      });
  };
}
