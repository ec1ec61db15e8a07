import { Injectable } from '@angular/core';
import { idSchema, KINDS, type Kind } from '@pentachord/core/model';
import { filter, fromEvent, map, mergeMap, type Observable } from 'rxjs';
import * as z from 'zod';
import { Channel } from '../../live/browser/channel';

const CHANNEL = 'pentachord saved';
const savedSchema = z.object({ kind: z.enum(KINDS as [Kind, ...Kind[]]), id: idSchema });
const exchangedSchema = z.object({ exchanged: z.literal(true) });

/** What of which kind was saved. */
export type SavedThing = z.infer<typeof savedSchema>;

/** What windows of one browser tell one another of saving. A window never hears itself. */
@Injectable({ providedIn: 'root' })
export class OtherWindows {
  // One for both ways: with two of them the window would take its own word for another's.
  private readonly channel = new Channel(CHANNEL);

  /** What the others have saved; what is not understood is passed over. */
  readonly saved: Observable<SavedThing> = fromEvent<MessageEvent>(this.channel, 'message').pipe(
    map(({ data }) => savedSchema.safeParse(data)),
    mergeMap(({ data }) => (data ? [data] : [])),
  );

  /** That the whole database, or much of it, is another one now. */
  readonly exchanged = fromEvent<MessageEvent>(this.channel, 'message').pipe(
    filter(({ data }) => exchangedSchema.safeParse(data).success),
  );

  /** Tells the others that they had better open everything anew. */
  tellExchanged(): void {
    this.channel.postMessage({ exchanged: true });
  }

  /** Tells the others of something that was saved or removed here. */
  tell(thing: SavedThing): void {
    this.channel.postMessage(thing);
  }
}
