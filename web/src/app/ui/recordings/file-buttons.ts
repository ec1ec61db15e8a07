import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { FileToBring } from '../../state/recordings/bringing-in';
import { pickedFiles } from './dropped-files';

/** Buttons that pick audio files, or a folder of them. */
@Component({
  selector: 'pc-file-buttons',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" matButton="outlined" (click)="files.click()">Add files…</button>
    <button type="button" matButton="outlined" (click)="folder.click()">Add a folder…</button>
    <input
      #files
      type="file"
      hidden
      multiple
      aria-label="Audio files"
      accept=".wav,.wave,.rf64,.aif,.aiff,.aifc,.flac,.mp3,.ogg,.oga,.zip,audio/*,application/zip"
      (change)="take(files)"
    />
    <input
      #folder
      type="file"
      hidden
      webkitdirectory
      aria-label="Folder of audio files"
      (change)="take(folder)"
    />
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class FileButtons {
  readonly picked = output<FileToBring[]>();

  protected take(input: HTMLInputElement): void {
    const files = pickedFiles(input.files ?? []);
    // The same can be picked again.
    input.value = '';
    if (files.length > 0) this.picked.emit(files);
  }
}
