import { Directive, output, signal } from '@angular/core';
import type { FileToBring } from '../../state/recordings/bringing-in';
import { droppedFiles } from './dropped-files';

/** Takes files and folders that are dropped anywhere on it. While some are held over it, it bears the class `over`. */
@Directive({
  selector: '[pcDropFiles]',
  host: {
    '[class.over]': 'isOver()',
    '(dragenter)': 'enter($event)',
    '(dragover)': 'enter($event)',
    '(dragleave)': 'leave($event)',
    '(drop)': 'drop($event)',
  },
})
export class DropFiles {
  readonly filesDropped = output<FileToBring[]>();
  protected readonly isOver = signal(false);

  protected enter(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.isOver.set(true);
  }

  protected leave(event: DragEvent): void {
    const inside =
      event.relatedTarget instanceof Node &&
      (event.currentTarget as Node).contains(event.relatedTarget);
    if (!inside) this.isOver.set(false);
  }

  protected drop(event: DragEvent): void {
    this.isOver.set(false);
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    void droppedFiles(event.dataTransfer).then((files) => this.filesDropped.emit(files));
  }
}
