import { faultSchema } from '@pentachord/core/model';

/** A part of a sheet: the running order, a page a song, the rig. */
export type SheetPart = 'order' | 'songs' | 'rig';

/** How a sheet is wanted. */
export interface SheetWishes {
  showId: string;
  paper: 'A4' | 'Letter';
  large: boolean;
  parts: readonly SheetPart[];
}

/** What every PDF document begins with. */
const MARK = '%PDF-';

/**
 * The sheet of a night as PDF.
 * @throws Error in plain words where the server does not answer, or has no such show
 */
export async function sheetBytes(
  { showId, paper, large, parts }: SheetWishes,
  signal: AbortSignal,
): Promise<Uint8Array<ArrayBuffer>> {
  const wishes = new URLSearchParams({ paper, large: String(large), parts: parts.join() });
  const answer = await fetch(`/api/sheets/${showId}?${wishes.toString()}`, { signal }).catch(
    (fault: unknown) => {
      if (signal.aborted) throw fault;
      throw new Error('The server does not answer. Nothing is lost: try again when it is back.');
    },
  );
  if (!answer.ok) {
    const fault = faultSchema.safeParse(await answer.json().catch(() => null));
    throw new Error(
      fault.success ? fault.data.error.message : 'The sheet could not be made. Try again.',
    );
  }
  const bytes = new Uint8Array(await answer.arrayBuffer());
  if (String.fromCharCode(...bytes.subarray(0, MARK.length)) !== MARK)
    throw new Error('The server answered with something that is no sheet. Try again.');
  return bytes;
}
