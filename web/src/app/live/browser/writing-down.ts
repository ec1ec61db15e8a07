import { ownStorage } from './storage';

/** Under which the take that is being written stands in this window's own store: where it is played, and its id. */
export const WRITING = 'pentachord take';

/** Whether this window wrote down what was played on its desk when the page was left. */
export function wroteDownDesk(): boolean {
  try {
    return ownStorage()?.getItem(WRITING)?.startsWith('desk ') ?? false;
  } catch {
    return false;
  }
}
