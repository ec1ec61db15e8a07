import { Injectable } from '@angular/core';
import {
  backupContentSchema,
  faultSchema,
  keepingSchema,
  type BackupContent,
  type Keeping,
  type Kind,
} from '@pentachord/core/model';

/** Asks the server about what is kept and its backups. Throws with the server's own words. */
@Injectable({ providedIn: 'root' })
export class BackupsApi {
  async keeping(): Promise<Keeping> {
    return keepingSchema.parse(await ask('GET', '/api/keeping'));
  }

  async makeOne(): Promise<Keeping> {
    return keepingSchema.parse(await ask('POST', '/api/backups'));
  }

  async look(name: string): Promise<BackupContent> {
    return backupContentSchema.parse(await ask('GET', `/api/backups/${name}`));
  }

  async bringBack(name: string): Promise<Keeping> {
    return keepingSchema.parse(await ask('POST', `/api/backups/${name}/bring-back`));
  }

  async bringThingBack(name: string, kind: Kind, id: string): Promise<Keeping> {
    const path = `/api/backups/${name}/bring-back/${kind}/${encodeURIComponent(id)}`;
    return keepingSchema.parse(await ask('POST', path));
  }
}

async function ask(method: 'GET' | 'POST', path: string): Promise<unknown> {
  let response: Response;
  try {
    response = await fetch(path, { method });
  } catch {
    throw new Error('The server does not answer. Nothing was changed; try again.');
  }
  const body: unknown = await response.json();
  if (!response.ok) throw new Error(faultSchema.parse(body).error.message);
  return body;
}
