/** What is said where the page and its audio thread cannot share memory. */
export const NO_SHARED_MEMORY =
  'This browser does not let a page share memory with its sound, so nothing can be heard here. Everything else works; play in a current Chromium, Firefox or Safari.';

/** Why sound cannot start, in plain words, by what the browser says. */
export function soundProblem(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  const said = error instanceof Error ? error.message : String(error);
  if (name === 'NotAllowedError')
    return 'The browser refuses sound on this page. Allow it in the page’s settings, then press Start sound.';
  if (name === 'NotFoundError' || name === 'NotReadableError' || /device/i.test(said))
    return 'There is no sound device, or another program holds it. Connect one or close that program, then press Start sound.';
  if (name === 'AbortError' || /module|import|fetch|load/i.test(said))
    return 'A part of the program that makes the sound could not be loaded. Load the page anew.';
  return `The browser says: ${said}. Load the page anew, or try another browser.`;
}

/** What browsers tell of a context’s output, under one name or the other. */
interface Playout {
  underrunEvents?: number;
  fallbackFramesEvents?: number;
}

/** How often the output of a context has run dry; 0 where the browser does not count. */
export function breaksOf(context: AudioContext): number {
  const told = context as unknown as { playbackStats?: Playout; playoutStats?: Playout };
  const stats = told.playbackStats ?? told.playoutStats;
  return stats?.underrunEvents ?? stats?.fallbackFramesEvents ?? 0;
}
