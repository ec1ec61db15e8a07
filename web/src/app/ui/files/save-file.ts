/** Milliseconds for which a file is there for the browser to take. */
const THERE_FOR = 60_000;

/** Has the browser save a file under a name. */
export function saveFile(name: string, content: BlobPart, type: string): void {
  saveBlob(name, new Blob([content], { type }));
}

/** Has the browser save what it holds already under a name. */
export function saveBlob(name: string, content: Blob): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), THERE_FOR);
}
