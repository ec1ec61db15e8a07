/** Whether this browser lets a page and its audio thread share memory, without which nothing can sound. */
export function sharesMemory(): boolean {
  return typeof SharedArrayBuffer === 'function';
}

/** Memory that the audio thread shares; memory of this page alone where nothing can be shared. */
export function sharedMemory(bytes: number): SharedArrayBuffer | ArrayBuffer {
  return sharesMemory() ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes);
}
