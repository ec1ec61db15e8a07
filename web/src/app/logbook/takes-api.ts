import { inject, Injectable } from '@angular/core';
import { bytesOfTake, readTake } from '@pentachord/core/exchange';
import type { WholeTake } from '@pentachord/core/logbook';
import {
  DATABASE_HEADER,
  faultSchema,
  takeInShortSchema,
  type TakeInShort,
  type TakeWords,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { ServerFault } from '../state/saving/api';
import { selectDatabase } from '../state/selectors';

/** Speaks to the server of takes that are kept. Whatever it answers is checked. @throws ServerFault in plain words */
@Injectable({ providedIn: 'root' })
export class TakesApi {
  private readonly database = inject<Store<AppState>>(Store).selectSignal(selectDatabase);

  async list(): Promise<TakeInShort[]> {
    const read = takeInShortSchema.array().safeParse(await (await this.ask('GET', '')).json());
    if (!read.success) throw new ServerFault('What the server answers cannot be read.');
    return read.data;
  }

  async find(id: string): Promise<WholeTake> {
    const answer = await this.ask('GET', `/${id}`);
    const read = readTake(new Uint8Array(await answer.arrayBuffer()));
    if (typeof read === 'string') throw new ServerFault(`The take cannot be read: ${read}.`);
    return read;
  }

  async keep(whole: WholeTake): Promise<void> {
    await this.ask('PUT', `/${whole.take.id}`, bytesOfTake(whole), 'application/octet-stream');
  }

  async say(id: string, words: TakeWords): Promise<void> {
    await this.ask('PUT', `/${id}/words`, JSON.stringify(words), 'application/json');
  }

  async remove(id: string): Promise<void> {
    await this.ask('DELETE', `/${id}`);
  }

  private async ask(
    method: string,
    path: string,
    body?: BodyInit,
    type?: string,
  ): Promise<Response> {
    const database = this.database();
    const headers = {
      ...(type ? { 'Content-Type': type } : {}),
      ...(database ? { [DATABASE_HEADER]: database } : {}),
    };
    let answer: Response;
    try {
      answer = await fetch(`/api/takes${path}`, { method, headers, ...(body ? { body } : {}) });
    } catch {
      throw new ServerFault(
        'The server does not answer. Nothing was changed: try again when it is back.',
      );
    }
    if (answer.ok) return answer;
    const fault = faultSchema.safeParse(await answer.json().catch(() => null));
    throw new ServerFault(
      fault.success ? fault.data.error.message : 'The server made a mistake. Nothing was changed.',
    );
  }
}
