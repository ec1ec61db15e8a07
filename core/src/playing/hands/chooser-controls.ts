import { CONTROL_CHANGE, NOTE_OFF, NOTE_ON, PROGRAM_CHANGE } from '../../midi/messages.js';
import { choiceAt, type Chooser, type Picks } from '../../model/patch/chooser.js';
import { isInForce, type Job } from '../../ties/in-force.js';

/** A control of a chooser as it is found at the rig. */
interface ReadyChooser {
  chooser: Chooser;
  picks: Picks;
  device: number;
  kind: number;
  number: number;
  down: boolean;
}

/** What carries a choice out. */
export interface ChoosingOutput {
  /** Which choice a chooser has picked now. */
  pickedBy(chooser: Chooser): number;
  pick(chooserId: string, choice: number): void;
}

/** Pads, keys, pedals, knobs and program changes that pick among the layers of a patch. */
export class ChooserControls {
  private ready: readonly ReadyChooser[] = [];
  private picks = 0;

  constructor(private readonly output: ChoosingOutput) {}

  /** Rises with every choice. */
  get changes(): number {
    return this.picks;
  }

  /** Takes what controls do now. */
  take(jobs: readonly Job[]): void {
    const before = this.ready;
    this.ready = jobs.flatMap((job): ReadyChooser[] => {
      const { task, sent } = job;
      if (task.kind !== 'chooser' || !sent || !isInForce(job)) return [];
      // What is held down stays so: otherwise a pedal that is held would pick once more as it moves.
      const down = before.some(
        (one) =>
          one.down &&
          one.device === sent.device &&
          one.kind === sent.kind &&
          one.number === sent.number,
      );
      return [{ chooser: task.chooser, picks: task.control.picks, ...sent, down }];
    });
  }

  /** A device has gone: nothing of it is held any more. */
  deviceGone(device: number): void {
    for (const ready of this.ready) if (ready.device === device) ready.down = false;
  }

  /** A message from a device of the rig; true when it was a control of a chooser and is used up. */
  message(device: number, kind: number, data1: number, data2: number): boolean {
    const high = kind === NOTE_OFF ? NOTE_ON : kind;
    let used = false;
    for (const ready of this.ready) {
      if (ready.device !== device || ready.kind !== high) continue;
      if (ready.number !== data1 && ready.number >= 0) continue;
      used = true;
      const { chooser } = ready;
      if (ready.picks === 'position') {
        const count = chooser.choices.length;
        this.pick(chooser, kind === PROGRAM_CHANGE ? data1 : choiceAt(data2, count));
        continue;
      }
      const down =
        kind === PROGRAM_CHANGE ||
        (kind === NOTE_ON ? data2 > 0 : kind === CONTROL_CHANGE && data2 >= 64);
      if (down && !ready.down) this.choose(chooser, ready.picks);
      ready.down = down && kind !== PROGRAM_CHANGE;
    }
    return used;
  }

  /** Picks a choice of a chooser, or the next one round. */
  choose(chooser: Chooser, picks: number | 'next'): void {
    const count = chooser.choices.length;
    this.pick(chooser, picks === 'next' ? (this.output.pickedBy(chooser) + 1) % count : picks);
  }

  /** Picks a choice, if there is one of that number. */
  pick({ id, choices }: Chooser, choice: number): void {
    if (choice >= choices.length) return;
    this.picks++;
    this.output.pick(id, choice);
  }
}
