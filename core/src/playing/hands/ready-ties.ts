import { isPress, keyOfTarget, type ControlTarget } from '../../model/patch/control-target.js';
import { isStruck } from '../../model/patch/control-message.js';
import type { Reads, Tie } from '../../model/patch/tie.js';
import type { Device } from '../../model/rig/rig.js';
import type { Job } from '../../ties/in-force.js';
import { FINE_FROM, readingAt } from '../../ties/reading.js';
import type { MovedSetting } from './control-output.js';

/** A tie as it is found at the rig, and what it moves in the patch that is played. */
export interface ReadyTie {
  tie: Tie;
  target: ControlTarget;
  /** The target as one text. */
  key: string;
  deviceId: string;
  /** The high half of the status, and the number; −1 for any. */
  kind: number;
  number: number;
  /** What its numbers mean. */
  reads: Reads;
  /** A key or pad, which is struck instead of moved. */
  isStruck: boolean;
  /** Shared with the tie made ready before it, since acting may make all of them ready anew. */
  held: { down: boolean };
  /** Steps of an endless knob that were too small to be seen so far. */
  pending: number;
  /** Where it has moved its target, kept so that moving allocates nothing. */
  moved: MovedSetting;
}

/** What a device sends as one number, by which ties are found; any number of a kind is 128. */
function keyOf(device: number, kind: number, number: number): number {
  return (device << 16) | (kind << 8) | (number < 0 ? 128 : number);
}

/** The ties that are in force, found by what a device sends. */
export class ReadyTies {
  readonly all: readonly ReadyTie[];
  private readonly bySent = new Map<number, ReadyTie[]>();
  private readonly byTarget: ReadonlySet<string>;
  private readonly byId: ReadonlyMap<string, ReadyTie>;
  /** What the patch or the song has taken. */
  private readonly nearer = new Set<number>();

  /** @param before the ties until now: what is held down stays so, or a pedal that is held would act once more as it moves */
  constructor(jobs: readonly Job[], devices: readonly Device[], before?: ReadyTies) {
    const all: ReadyTie[] = [];
    for (const { sent, task, target, owner } of jobs) {
      if (!sent) continue;
      const { device, kind, number } = sent;
      const key = keyOf(device, kind, number);
      if (owner === 'patch' || owner === 'song') this.nearer.add(key);
      if (task.kind !== 'tie' || !target) continue;
      const { tie } = task;
      const deviceId = devices[device].id;
      const known = before?.all.find(
        (one) => one.tie.id === tie.id && one.deviceId === deviceId && one.number === number,
      );
      const one: ReadyTie = {
        ...{ tie, target, key: keyOfTarget(target), deviceId, kind, number },
        reads: readingAt(tie.reads, kind, number),
        isStruck: isStruck(tie.message),
        held: known?.held ?? { down: false },
        pending: 0,
        moved: { target, value: 0, tie },
      };
      all.push(one);
      const same = this.bySent.get(key);
      if (same) same.push(one);
      else this.bySent.set(key, [one]);
      if (one.reads === 'fine') this.nearer.add(keyOf(device, kind, number + FINE_FROM));
    }
    this.all = all;
    this.byTarget = new Set(all.map(({ key }) => key));
    this.byId = new Map(all.map((one) => [one.tie.id, one]));
  }

  /** Ties of what a device sends; undefined for none. */
  of(device: number, kind: number, number: number): readonly ReadyTie[] | undefined {
    return this.bySent.get(keyOf(device, kind, number)) ?? this.bySent.get(keyOf(device, kind, -1));
  }

  /** Whether any of them moves a target, by its key. */
  moves(key: string): boolean {
    return this.byTarget.has(key);
  }

  has(tieId: string): boolean {
    return this.byId.has(tieId);
  }

  /** The tie of an id, if it is in force. */
  find(tieId: string): ReadyTie | undefined {
    return this.byId.get(tieId);
  }

  /** Whether the patch or the song has taken what a device sends. */
  isNearer(device: number, kind: number, number: number): boolean {
    const { nearer } = this;
    return nearer.has(keyOf(device, kind, number)) || nearer.has(keyOf(device, kind, -1));
  }
}

/** True for what goes where its control stands; everything else is pressed. */
export function follows({ isStruck, tie, target }: ReadyTie): boolean {
  return !isStruck && tie.acts === 'usual' && !isPress(target);
}
