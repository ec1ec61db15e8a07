import type { Kind } from '@pentachord/core/model';

/** A saved thing that is not on the disk as it was written. */
export interface Damage {
  kind: Kind;
  id: string;
  /** Its name as far as it can be read, else its id. */
  name: string;
  /** What is wrong with it, in plain words. */
  why: string;
  /** True when it cannot be read and is left out; false when it can, but may hold something that was never written. */
  lost: boolean;
}

/** A damaged thing that was put right from a backup that holds the very same revision. */
export interface Healed {
  kind: Kind;
  id: string;
  name: string;
  /** File name of the backup. */
  backup: string;
}

/** How the database is: what of it is damaged, and whether it can be written. */
export class Condition {
  private readonly damaged = new Map<string, Damage>();
  readonly healed: Healed[] = [];
  /** Why nothing can be saved, in plain words; null when it can. */
  readOnly: string | null = null;
  /** How many transactions have been written since the start. */
  writes = 0;

  note(damage: Damage): void {
    const key = `${damage.kind}/${damage.id}`;
    // What was found out first is told: later it is only that it is still so.
    if (!this.damaged.has(key)) this.damaged.set(key, damage);
  }

  /** Forgets about a thing: it has been written anew, or is gone. */
  mend(kind: Kind, id: string): void {
    this.damaged.delete(`${kind}/${id}`);
  }

  isLost(kind: Kind, id: string): boolean {
    return this.damaged.get(`${kind}/${id}`)?.lost ?? false;
  }

  /** Everything damaged, lost things first. */
  get damages(): Damage[] {
    return [...this.damaged.values()].sort((a, b) => Number(b.lost) - Number(a.lost));
  }
}
