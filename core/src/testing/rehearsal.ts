import { newTreatment, type Treatment } from '../model/patch/treatment.js';
import { Player } from '../playing/notes/player.js';
import { compilePatch, compileRig, type CompiledPatch } from '../routing/compile.js';
import { demoRig, keys, layer, patchOf } from './fixtures.js';
import { ScheduledOutput } from './scheduled-output.js';

export const A_MINOR = { tonic: 9, spelling: 'usual', mode: 'minor' } as const;

/** A player whose clock the test turns, at 120 beats a minute; it remembers what began and what ended. */
export class Rehearsal {
  private readonly output = new ScheduledOutput();
  readonly player = new Player(this.output, () => this.output.time);
  readonly began = this.output.began;
  readonly sounding = this.output.sounding;

  constructor(treatments: Treatment[], changes = {}) {
    this.player.take(this.patch(treatments, changes));
  }

  patch(treatments: Treatment[], changes = {}, id = 'patch'): CompiledPatch {
    const layers = [layer('a', changes), layer('b', { keys: keys(0, 20) })];
    return compilePatch(
      { ...patchOf(layers, id), treatments },
      { rig: compileRig(demoRig), songShift: 0, fingered: A_MINOR },
    );
  }

  wait(seconds: number, step?: number): void {
    this.output.wait(seconds, () => this.player.advance(), step);
  }

  down = (...struck: number[]) => struck.forEach((key) => this.player.noteOn(0, 1, key, 90));
  up = (...let_: number[]) => let_.forEach((key) => this.player.noteOff(0, 1, key));
  pedal = (down: boolean) => this.player.message(0, 0xb0, 64, down ? 127 : 0);
  notes = () => this.began.map(({ note }) => note);
}

/** An arpeggio on layer a, in eighths. */
export const arpeggio = (
  changes: Partial<Extract<Treatment, { kind: 'arpeggio' }>> = {},
): Treatment => ({
  ...(newTreatment('arpeggio', 'arp', ['a']) as Extract<Treatment, { kind: 'arpeggio' }>),
  rate: '1/8',
  ...changes,
});
