import type { SheetWishes } from '@pentachord/core/exchange';
import { faultSchema } from '@pentachord/core/model';
import { ServerFault } from '../state/saving/api';

/** What every PDF document begins with. */
const MARK = '%PDF-';

/**
 * The sheet of a night as PDF.
 * @throws ServerFault in plain words where the server does not answer, or has no such show
 */
export async function sheetBytes(
  showId: string,
  { paper, large, parts }: SheetWishes,
  signal: AbortSignal,
): Promise<Uint8Array<ArrayBuffer>> {
  const wishes = new URLSearchParams({ paper, large: String(large), parts: parts.join() });
  const answer = await fetch(`/api/sheets/${showId}?${wishes.toString()}`, { signal }).catch(
    (fault: unknown) => {
      if (signal.aborted) throw fault;
      throw new ServerFault(
        'The server does not answer. Nothing is lost: try again when it is back.',
      );
    },
  );
  if (!answer.ok) {
    const fault = faultSchema.safeParse(await answer.json().catch(() => null));
    throw new ServerFault(
      fault.success ? fault.data.error.message : 'The sheet could not be made. Try again.',
    );
  }
  const bytes = new Uint8Array(await answer.arrayBuffer());
  if (String.fromCharCode(...bytes.subarray(0, MARK.length)) !== MARK)
    throw new ServerFault('The server answered with something that is no sheet. Try again.');
  return bytes;
}
