import type { FileToBring } from '../../state/recordings/bringing-in';
import { pickedFiles } from './dropped-files';

/** What is offered first in the browser’s own dialog; anything else can be picked, and is refused with the reason. */
const OFFERED =
  '.wav,.wave,.rf64,.aif,.aiff,.aifc,.flac,.mp3,.ogg,.oga,.zip,audio/*,application/zip';

/** Has the browser ask for files, audio files first, or for a folder of them; empty when nothing is picked. */
export async function pickFiles(
  what: 'files' | 'folder',
  offered = OFFERED,
): Promise<FileToBring[]> {
  const input = document.createElement('input');
  input.type = 'file';
  if (what === 'folder') input.webkitdirectory = true;
  else Object.assign(input, { multiple: true, accept: offered });
  return new Promise((resolve) => {
    input.addEventListener('change', () => resolve(pickedFiles(input.files ?? [])));
    input.addEventListener('cancel', () => resolve([]));
    input.click();
  });
}
