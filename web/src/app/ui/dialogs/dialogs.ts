import { inject, Injectable, Injector, type Type } from '@angular/core';
import type { MatDialogConfig } from '@angular/material/dialog';
import { firstValueFrom } from 'rxjs';

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
}
