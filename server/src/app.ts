import { KINDS } from '@pentachord/core/model';
import express, { type Express, type RequestHandler } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { demoRoutes } from './http/demo.js';
import { faultHandler, sendFault } from './http/faults.js';
import {
  localNamesOnly,
  ownDatabaseOnly,
  ownPagesOnly,
  permissionsPolicy,
  securityHeaders,
} from './http/guards.js';
import { healthRoutes } from './http/health.js';
import { jsonBodies } from './http/json-bodies.js';
import { keepingRoutes } from './http/keeping.js';
import { keepsakeRoutes } from './http/keepsakes.js';
import { servePages } from './http/pages.js';
import { recordingRoutes } from './http/recordings.js';
import { repertoireRoutes } from './http/repertoire.js';
import { savedThingRoutes } from './http/saved-things.js';
import { patternRoutes } from './http/patterns.js';
import { sheetRoutes } from './http/sheets.js';
import { soundRoutes } from './http/sounds.js';
import { takeRoutes } from './http/takes.js';
import type { DataFolder } from './store/data-folder.js';
import type { Recordings } from './store/recordings.js';
import type { Store } from './store/store.js';

/** What the application is made of. */
export interface AppParts {
  /** The open database; null when it cannot be opened, and only backups can be looked into. */
  store: Store | null;
  log: Logger;
  version: string;
  /** Folder of the built pages; left out, only the API is served. */
  pages?: string;
  /** The folder with the database and its backups; left out, there are no backups. */
  keeping?: DataFolder;
  /** The recordings; left out, those of the folder. */
  recordings?: Recordings | null;
}

/** The whole HTTP side: API under `/api`, pages everywhere else. */
export function createApp(parts: AppParts): Express {
  const { store, log, version, pages, keeping, recordings = keeping?.recordings } = parts;
  const app = express();
  app.disable('x-powered-by');
  // Answers are made anew each time and never kept: to mark them would be work for nothing.
  app.disable('etag');
  if (log.isLevelEnabled('info'))
    app.use(pinoHttp({ logger: log, autoLogging: { ignore: (r) => !r.url?.startsWith('/api') } }));
  app.use(securityHeaders(), permissionsPolicy(), localNamesOnly());

  const api = express.Router();
  api.use(ownPagesOnly(), ...jsonBodies());
  api.use((_request, response, next) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  if (keeping) api.use(keepingRoutes(keeping), whileOpen(store, keeping));
  if (store) {
    api.use(ownDatabaseOnly(store));
    api.use('/health', healthRoutes(store, version));
    api.use('/repertoire', repertoireRoutes(store));
    api.use('/demo', demoRoutes(store, keeping, recordings?.files));
    api.use('/sounds', soundRoutes(store));
    api.use('/patterns', patternRoutes(store));
    api.use('/keepsakes', keepsakeRoutes(store));
    api.use('/sheets', sheetRoutes(store));
    api.use('/takes', takeRoutes(store));
    if (recordings)
      api.use(
        '/recordings',
        recordingRoutes(recordings, () => store.condition.readOnly),
      );
    for (const kind of KINDS) api.use(`/${kind}`, savedThingRoutes(kind, store));
  }
  api.use((_request, response) =>
    sendFault(response, { code: 'not-found', message: 'There is nothing at this address.' }),
  );
  app.use('/api', api);

  if (pages) servePages(app, pages);
  app.use(faultHandler(log));
  return app;
}

/** Says why, as long as the database is not open. */
function whileOpen(store: Store | null, keeping: DataFolder): RequestHandler {
  return (_request, response, next) => {
    if (store && keeping.store === store) next();
    else
      sendFault(response, {
        code: 'unavailable',
        message: keeping.state().closed ?? 'A backup is being brought back. Try again in a moment.',
      });
  };
}
