import { HeldLine } from './held-line.js';

/** The lines of all sounds of one voice, by instance. */
export class HeldLines {
  private readonly lines = new Map<number, HeldLine>();
  /** The same, to be gone through without making anything. */
  private readonly all: HeldLine[] = [];

  of(instance: number): HeldLine {
    let line = this.lines.get(instance);
    if (!line) {
      line = new HeldLine();
      this.lines.set(instance, line);
      this.all.push(line);
    }
    return line;
  }

  /** Whether a note is held on any of them. */
  holds(id: number): boolean {
    for (let i = 0; i < this.all.length; i++) if (this.all[i].holds(id)) return true;
    return false;
  }

  remove(id: number): void {
    for (let i = 0; i < this.all.length; i++) if (this.all[i].remove(id)) return;
  }

  clear(): void {
    for (let i = 0; i < this.all.length; i++) this.all[i].clear();
  }
}
