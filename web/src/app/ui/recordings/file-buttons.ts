import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { FileToBring } from '../../state/recordings/bringing-in';
import { pickFiles } from './pick-files';

/** Buttons that pick audio files, or a folder of them. */
@Component({
  selector: 'pc-file-buttons',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" matButton="outlined" (click)="pick('files')">Add files…</button>
    <button type="button" matButton="outlined" (click)="pick('folder')">Add a folder…</button>
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class FileButtons {
  readonly picked = output<FileToBring[]>();

  protected async pick(what: 'files' | 'folder'): Promise<void> {
    const files = await pickFiles(what);
    if (files.length > 0) this.picked.emit(files);
  }
}
