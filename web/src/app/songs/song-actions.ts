import { inject, Injectable } from '@angular/core';
import { SongEditing } from '../state/editing/song-editing';
import { Dialogs } from '../ui/dialogs/dialogs';
import type { Start } from './start';

/** What can be done with the current song beyond its settings. */
@Injectable({ providedIn: 'root' })
export class SongActions {
  private readonly dialogs = inject(Dialogs);
  private readonly editing = inject(SongEditing);

  /** Has the player choose what to start from, heard on every keyboard before it is taken. */
  async startFrom(): Promise<void> {
    const { StartFromDialog } = await import('./start-from-dialog');
    const start = await this.dialogs.open<undefined, Start>(StartFromDialog, {
      width: '860px',
      maxWidth: '96vw',
    });
    if (start) this.editing.startFrom(start.name, start.patch);
  }
}
