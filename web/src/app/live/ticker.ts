/** Ticks every few milliseconds while something waits for the show's clock, and rests otherwise. */
export class Ticker {
  private worker: Worker | null = null;
  private running = false;

  /** @param tick called on every tick; what it gives back says whether to go on */
  constructor(private readonly tick: () => boolean) {}

  /** Begins to tick, unless it does already. */
  start(): void {
    if (this.running) return;
    this.running = true;
    if (!this.worker) {
      this.worker = new Worker(new URL('./ticks.worker', import.meta.url), { type: 'module' });
      this.worker.addEventListener('message', () => {
        if (this.running && !this.tick()) this.stop();
      });
    }
    this.worker.postMessage(true);
  }

  private stop(): void {
    this.running = false;
    this.worker?.postMessage(false);
  }
}
