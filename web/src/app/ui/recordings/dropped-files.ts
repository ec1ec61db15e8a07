import type { FileToBring } from '../../state/recordings/bringing-in';

/** By name, numbers by their value. Made once: hundreds of names are compared. */
const NAMES = new Intl.Collator('en', { numeric: true });

/** Every file that was dropped, folders with all that lies in them. To be called while the drop is being handled. */
export async function droppedFiles(transfer: DataTransfer): Promise<FileToBring[]> {
  // The list is empty as soon as anybody waits.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry());
  const files = [...transfer.files];
  if (entries.every((entry) => entry === null)) return pickedFiles(files);
  const found: FileToBring[] = [];
  for (const entry of entries) if (entry) await collect(entry, found);
  return inOrder(found);
}

/** Files that were picked in a dialog, with the folder they lie in. */
export function pickedFiles(files: Iterable<File>): FileToBring[] {
  return inOrder([...files].map((file) => ({ name: file.webkitRelativePath || file.name, file })));
}

function inOrder(files: FileToBring[]): FileToBring[] {
  return files
    .filter(({ name }) => !/(^|\/)\./.test(name))
    .sort((a, b) => NAMES.compare(a.name, b.name));
}

async function collect(entry: FileSystemEntry, found: FileToBring[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    );
    found.push({ name: entry.fullPath.replace(/^\//, ''), file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A folder is read in parts of a hundred.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (part.length === 0) return;
    for (const inner of part) await collect(inner, found);
  }
}
