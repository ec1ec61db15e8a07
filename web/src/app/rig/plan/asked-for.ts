import { Injectable, signal } from '@angular/core';

/** What a player is asked to touch on the drawing of the stage. */
@Injectable()
export class AskedFor {
  /** The device, and its key or pad by the note; null for the device as a whole, and for nothing. */
  readonly key = signal<{ deviceId: string; key: number | null } | null>(null);
}
