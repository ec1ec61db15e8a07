import type { IncomingMessage, ServerResponse } from 'node:http';

/** A server that the tests of a worker visit. */
export interface TestServer {
  /** Where it answers, without a slash at the end. */
  readonly origin: string;
  close(): Promise<void>;
}

/** The database and the pages that a server shows. */
export interface ServerParts {
  /** Port on 127.0.0.1. */
  port: number;
  /** A database filled with the demo, which is copied and not touched. */
  template: string;
  /** Answers in place of the application where it gives true. */
  answer?: (request: IncomingMessage, response: ServerResponse) => boolean;
}

/** Name of the database in its folder. */
export const DATABASE = 'pentachord.sqlite';
/** Folder of the bytes of recordings, beside it. */
export const RECORDINGS = 'recordings';
