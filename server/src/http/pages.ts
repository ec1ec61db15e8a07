import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Express, RequestHandler } from 'express';
import expressStaticGzip from 'express-static-gzip';

/** Headers that guard documents; on the parts that a document fetches they are only weight. */
const OF_DOCUMENTS = [
  'Content-Security-Policy',
  'Cross-Origin-Opener-Policy',
  'Origin-Agent-Cluster',
  'Referrer-Policy',
  'Permissions-Policy',
  'X-DNS-Prefetch-Control',
  'X-Download-Options',
  'X-Frame-Options',
  'X-Permitted-Cross-Domain-Policies',
  'X-XSS-Protection',
];

/** Serves the built pages; every address that is no file gives the application itself. */
export function servePages(app: Express, pages: string): void {
  const index = join(pages, 'index.html');
  if (!existsSync(index)) return;
  app.get(['/', '/index.html'], application(index));
  app.use(
    // What the build compressed is served as it is; everything else goes plainly.
    expressStaticGzip(pages, {
      enableBrotli: true,
      orderPreference: ['br'],
      index: false,
      serveStatic: {
        // What has its hash in its name is never asked for again, and the rest is small.
        etag: false,
        lastModified: false,
        acceptRanges: false,
        setHeaders(response, file) {
          // Files with a hash in their name never change; everything else is asked for anew.
          const hashed = /-[\w-]{8}\.(js|css|woff2)(\.br)?$/.test(file);
          response.setHeader(
            'Cache-Control',
            hashed ? 'public, max-age=31536000, immutable' : 'no-cache',
          );
          if (!/(chunk|main|polyfills)-[\w-]{8}\.js(\.br)?$/.test(file)) return;
          for (const header of OF_DOCUMENTS) response.removeHeader(header);
          // What never changes has no age to be reckoned with.
          response.sendDate = false;
        },
      },
    }),
  );
  // A script of another build is not there any more: whoever asks for it has to hear that, and not to get the document.
  app.get(/\.[a-z0-9]{2,5}$/i, (_request, response) => void response.status(404).end());
  app.get('/{*page}', application(index));
}

/** The application’s document. Its style elements bear a number used once, so that no others are let in. */
function application(index: string): RequestHandler {
  return (request, response) => {
    const nonce = randomBytes(16).toString('base64');
    const policy = response.getHeader('Content-Security-Policy');
    response.setHeader(
      'Content-Security-Policy',
      String(policy).replace("style-src-elem 'self'", `style-src-elem 'self' 'nonce-${nonce}'`),
    );
    // The service worker alone asks for it by this name. It keeps it with its headers as long as its version lasts, and no
    // other store does.
    const isKept = request.path === '/index.html';
    response.setHeader('Cache-Control', isKept ? 'no-store, max-age=31536000' : 'no-cache');
    response.type('html').send(readFileSync(index, 'utf8').replaceAll('nonce-of-this-page', nonce));
  };
}
