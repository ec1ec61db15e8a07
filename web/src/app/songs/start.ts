import type { Patch } from '@pentachord/core/model';

/** What a dialog of starting points is closed with. */
export interface Start {
  name: string;
  patch: Patch;
}
