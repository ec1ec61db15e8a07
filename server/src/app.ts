import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { KINDS } from '@pentachord/core/model';
import express, { type Express } from 'express';
import expressStaticGzip from 'express-static-gzip';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { faultHandler, sendFault } from './http/faults.js';
import { localNamesOnly, securityHeaders } from './http/guards.js';
import { healthRoutes } from './http/health.js';
import { keepsakeRoutes } from './http/keepsakes.js';
import { savedThingRoutes } from './http/saved-things.js';
import { showRoutes } from './http/shows.js';
import { soundRoutes } from './http/sounds.js';
import type { Store } from './store/store.js';

/** What the application is made of. */
export interface AppParts {
  store: Store;
  log: Logger;
  version: string;
  /** Folder of the built pages; left out, only the API is served. */
  pages?: string;
}

/** Headers that guard documents; on the parts that a document fetches they are only weight. */
const OF_DOCUMENTS = [
  'Content-Security-Policy',
  'Origin-Agent-Cluster',
  'Referrer-Policy',
  'X-DNS-Prefetch-Control',
  'X-Download-Options',
  'X-Frame-Options',
  'X-Permitted-Cross-Domain-Policies',
  'X-XSS-Protection',
];

/** The whole HTTP side: API under `/api`, pages everywhere else. */
export function createApp({ store, log, version, pages }: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log, autoLogging: { ignore: (r) => !r.url?.startsWith('/api') } }));
  app.use(securityHeaders(), localNamesOnly());

  const api = express.Router();
  api.use(express.json({ limit: '1mb', strict: false }));
  api.use((_request, response, next) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  api.use('/health', healthRoutes(store, version));
  api.use('/shows', showRoutes(store));
  api.use('/sounds', soundRoutes(store));
  api.use('/keepsakes', keepsakeRoutes(store));
  for (const kind of KINDS) api.use(`/${kind}`, savedThingRoutes(kind, store));
  api.use((_request, response) =>
    sendFault(response, { code: 'not-found', message: 'There is nothing at this address.' }),
  );
  app.use('/api', api);

  if (pages && existsSync(pages)) servePages(app, pages);
  app.use(faultHandler(log));
  return app;
}

function servePages(app: Express, pages: string): void {
  app.use(
    // What the build compressed is served as it is; everything else goes plainly.
    expressStaticGzip(pages, {
      enableBrotli: true,
      orderPreference: ['br'],
      serveStatic: {
        setHeaders(response, file) {
          // Files with a hash in their name never change; everything else is asked for anew.
          const hashed = /-[A-Z0-9]{8}\.(js|css|woff2)(\.br)?$/.test(file);
          response.setHeader(
            'Cache-Control',
            hashed ? 'public, max-age=31536000, immutable' : 'no-cache',
          );
          if (/(chunk|main)-[A-Z0-9]{8}\.js(\.br)?$/.test(file))
            for (const header of OF_DOCUMENTS) response.removeHeader(header);
        },
      },
    }),
  );
  app.get('/{*page}', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(pages, 'index.html'));
  });
}
