import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChildren,
} from '@angular/core';
import { getDocument, GlobalWorkerOptions, type PDFDocumentProxy } from 'pdfjs-dist';

/** Pixels across of a page that is shown. */
const ACROSS = 520;

/** The pages of a PDF document, one under the other. */
@Component({
  selector: 'pc-sheet-pages',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (page of pages(); track page) {
      <canvas
        #sheet
        role="img"
        [attr.aria-label]="'Page ' + page + ' of ' + pages().length"
      ></canvas>
    }
  `,
  styles: `
    :host {
      display: grid;
      justify-items: center;
      gap: 12px;
    }
    canvas {
      max-width: 100%;
      background: #fff;
      box-shadow: 0 1px 4px rgb(0 0 0 / 40%);
    }
  `,
})
export class SheetPages {
  /** The bytes of the document. */
  readonly bytes = input.required<Uint8Array>();
  protected readonly pages = signal<readonly number[]>([]);
  private readonly sheets = viewChildren<ElementRef<HTMLCanvasElement>>('sheet');
  private readonly opened = signal<PDFDocumentProxy | null>(null);

  constructor() {
    GlobalWorkerOptions.workerPort ??= new Worker(
      new URL('./sheet-pages.worker', import.meta.url),
      { type: 'module' },
    );
    effect((onCleanup) => {
      // What takes it apart keeps what it is given.
      const loading = getDocument({ data: this.bytes().slice(), isEvalSupported: false });
      let isWanted = true;
      onCleanup(() => {
        isWanted = false;
        void loading.destroy();
      });
      void loading.promise.then(
        (read) => {
          if (!isWanted) return;
          this.pages.set(Array.from({ length: read.numPages }, (_, at) => at + 1));
          this.opened.set(read);
        },
        () => undefined,
      );
    });
    effect(() => {
      const opened = this.opened();
      const sheets = this.sheets();
      if (opened && sheets.length === opened.numPages) void this.draw(opened, sheets);
    });
    inject(DestroyRef).onDestroy(() => this.opened.set(null));
  }

  /** Draws page after page, until another document is there. */
  private async draw(
    opened: PDFDocumentProxy,
    sheets: readonly ElementRef<HTMLCanvasElement>[],
  ): Promise<void> {
    for (const [at, { nativeElement: canvas }] of sheets.entries()) {
      if (this.opened() !== opened) return;
      const page = await opened.getPage(at + 1);
      const { width } = page.getViewport({ scale: 1 });
      const viewport = page.getViewport({ scale: (ACROSS / width) * devicePixelRatio });
      canvas.width = viewport.width;
      canvas.height = viewport.height;
      await page.render({ canvas, viewport }).promise;
      canvas.dataset['drawn'] = 'true';
    }
  }
}
