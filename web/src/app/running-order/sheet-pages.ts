import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  signal,
  viewChildren,
} from '@angular/core';
import { getDocument, GlobalWorkerOptions } from 'pdfjs-dist';

/** Pixels across of a page that is shown. */
const ACROSS = 520;

/** The pages of a PDF document, one under the other. */
@Component({
  selector: 'pc-sheet-pages',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (isUnreadable()) {
      <p>The pages cannot be shown here. The sheet can be saved all the same.</p>
    }
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
  protected readonly isUnreadable = signal(false);
  private readonly injector = inject(Injector);
  /** What is drawn now: one document after the other, since a canvas takes one drawing at a time. */
  private drawing = Promise.resolve();

  constructor() {
    GlobalWorkerOptions.workerPort ??= new Worker(
      new URL('./sheet-pages.worker', import.meta.url),
      { type: 'module' },
    );
    effect((onCleanup) => {
      const bytes = this.bytes();
      const left = new AbortController();
      onCleanup(() => left.abort());
      // What was left, or is no document, is followed by the next one.
      this.drawing = this.drawing.then(() => this.show(bytes, left.signal)).catch(() => undefined);
    });
  }

  /** Draws page after page, until another document is wanted. */
  private async show(bytes: Uint8Array, left: AbortSignal): Promise<void> {
    if (left.aborted) return;
    // What takes it apart keeps what it is given.
    const loading = getDocument({ data: bytes.slice(), isEvalSupported: false });
    try {
      const opened = await loading.promise;
      if (left.aborted) return;
      this.isUnreadable.set(false);
      this.pages.set(Array.from({ length: opened.numPages }, (_, at) => at + 1));
      await this.rendered(left);
      for (const [at, { nativeElement: canvas }] of this.sheets().entries()) {
        if (left.aborted) return;
        const page = await opened.getPage(at + 1);
        const { width } = page.getViewport({ scale: 1 });
        const viewport = page.getViewport({ scale: (ACROSS / width) * devicePixelRatio });
        canvas.width = viewport.width;
        canvas.height = viewport.height;
        await page.render({ canvas, viewport }).promise;
        canvas.dataset['drawn'] = 'true';
      }
    } catch (fault) {
      if (!left.aborted) this.isUnreadable.set(true);
      throw fault;
    } finally {
      await loading.destroy();
    }
  }

  /** Waits until as many canvases are there as there are pages, or nobody wants them any more. */
  private rendered(left: AbortSignal): Promise<void> {
    return new Promise((resolve) => {
      left.addEventListener('abort', () => resolve(), { once: true });
      afterNextRender(() => resolve(), { injector: this.injector });
      // Where the pages are as many as before, nothing else would have it look.
      this.injector.get(ChangeDetectorRef).markForCheck();
    });
  }
}
