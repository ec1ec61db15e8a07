import { inject, Injectable, Injector, type Type } from '@angular/core';
import type { MatDialogConfig } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';
import type { NameData } from './name-dialog';

/** Opens dialogs. What they are made of is fetched with the first one. */
@Injectable({ providedIn: 'root' })
export class Dialogs {
  private readonly injector = inject(Injector);

  /** Shows a component in a dialog and waits for what it was closed with; nothing when it was dismissed. */
  async open<Data, Result = undefined>(
    component: Type<unknown>,
    config: MatDialogConfig<Data>,
  ): Promise<Result | undefined> {
    const { MatDialog } = await import('@angular/material/dialog');
    const dialog = this.injector.get(MatDialog).open<unknown, Data, Result>(component, config);
    return firstValueFrom(dialog.afterClosed());
  }

  /** Asks for a name, where the hand is; nothing when none was given. */
  async askName(data: NameData): Promise<string | undefined> {
    const { NameDialog } = await import('./name-dialog');
    return this.open<NameData, string>(NameDialog, {
      ...{ data, width: '360px' },
      position: besideFocus(),
    });
  }
}

/** Pixels that a dialog of one field takes at the most. */
const ROOM = { width: 360, height: 190 };

/** Beside what has the focus, within the window; in the middle where nothing has it. */
function besideFocus(): { left: string; top: string } | undefined {
  const focused = document.activeElement;
  if (!focused || focused === document.body) return undefined;
  const { left, bottom } = focused.getBoundingClientRect();
  const within = (at: number, most: number) => `${Math.max(8, Math.min(at, most - 8))}px`;
  return {
    left: within(left, window.innerWidth - ROOM.width),
    top: within(bottom + 4, window.innerHeight - ROOM.height),
  };
}
