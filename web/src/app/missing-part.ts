import { ErrorHandler, inject, Injectable, signal } from '@angular/core';

/** What browsers say of a script that is fetched when it is needed and is not there. */
const NOT_THERE =
  /dynamically imported module|importing a module script failed|error loading dynamically|ChunkLoadError/i;

/** A part of the program that could not be fetched: the server has a newer program than this page, or is away. */
@Injectable({ providedIn: 'root' })
export class MissingPart {
  private readonly missing = signal(false);
  /** True once a part was wanted that is not there. */
  readonly isMissing = this.missing.asReadonly();

  /** Looks whether an error tells of one; true when it does. */
  notice(error: unknown): boolean {
    const isOne = error instanceof Error && NOT_THERE.test(error.message);
    if (isOne) this.missing.set(true);
    return isOne;
  }

  /** It was told; the view that is open goes on. */
  dismiss(): void {
    this.missing.set(false);
  }
}

/** Tells of parts that are not there, and leaves every other error to the console. */
@Injectable()
export class TellingErrorHandler extends ErrorHandler {
  private readonly parts = inject(MissingPart);

  override handleError(error: unknown): void {
    if (!this.parts.notice(error)) super.handleError(error);
  }
}
