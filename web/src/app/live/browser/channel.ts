/** What windows of one browser tell one another by; one of a browser that has no such channels reaches nobody. */
export class Channel extends EventTarget {
  private readonly real: BroadcastChannel | null;

  constructor(name: string) {
    super();
    this.real = open(name);
    this.real?.addEventListener('message', ({ data }: MessageEvent<unknown>) =>
      this.dispatchEvent(new MessageEvent('message', { data })),
    );
  }

  postMessage(message: unknown): void {
    this.real?.postMessage(message);
  }

  close(): void {
    this.real?.close();
  }
}

function open(name: string): BroadcastChannel | null {
  try {
    return 'BroadcastChannel' in globalThis ? new BroadcastChannel(name) : null;
  } catch {
    return null;
  }
}
