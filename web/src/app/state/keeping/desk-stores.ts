import type { Kind, Saved, ValueOf } from '@pentachord/core/model';
import type { DBSchema } from 'idb';
import type { Putting } from './settled';

/** A change as it is kept: its database, kind and id are in its key. */
interface KeptUnsaved extends Partial<Putting> {
  revision: number;
  value: ValueOf<Kind> | null;
}

/** What the browser keeps of the desk. */
export interface DeskStores extends DBSchema {
  about: { key: string; value: unknown };
  base: { key: string; value: Saved<ValueOf<Kind>> };
  unsaved: { key: string; value: KeptUnsaved };
}
