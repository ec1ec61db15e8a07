import { channelOf, NOTE_ON } from '../midi/messages.js';
import type { Recipe, RecipeStep } from '../model/rig/recipe.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';

/** A step as it is told to the player. */
export function stepInWords(step: RecipeStep, middleC: NoteNaming): string {
  switch (step.kind) {
    case 'hold':
      return `hold ${step.button}`;
    case 'letGo':
      return `let go of ${step.button}`;
    case 'press':
      return `press ${step.button}`;
    case 'key':
      return `press the key ${noteName(step.key, middleC)}`;
    case 'arrivesOn':
      return `play any key: it has to arrive on channel ${step.channel}`;
  }
}

/**
 * Goes through a recipe. Buttons send nothing, so the player says that they are done; keys are ticked off as they are seen, and
 * a check only by what really arrives.
 */
export class RecipeRun {
  private done = 0;
  private wrong: string | null = null;

  constructor(readonly recipe: Recipe) {}

  /** The step that waits; null when all are done. */
  get step(): RecipeStep | null {
    return this.recipe.steps.at(this.done) ?? null;
  }

  /** How many steps are done. */
  get at(): number {
    return this.done;
  }

  /** What arrived instead of what was waited for; null for nothing. */
  get problem(): string | null {
    return this.wrong;
  }

  /** Whether the player can say that the step is done: of what arrives only the bytes can. */
  get canSay(): boolean {
    return this.step !== null && this.step.kind !== 'arrivesOn';
  }

  /** The player says that the step is done. */
  say(): void {
    if (this.canSay) this.next();
  }

  /** Goes back by a step. */
  back(): void {
    this.done = Math.max(0, this.done - 1);
    this.wrong = null;
  }

  /** A message from the device. */
  message(status: number, data1: number, data2: number): void {
    const { step } = this;
    if ((status & 0xf0) !== NOTE_ON || data2 === 0 || !step) return;
    if (step.kind === 'key' && data1 === step.key) this.next();
    if (step.kind !== 'arrivesOn') return;
    const channel = channelOf(status);
    if (channel === step.channel) this.next();
    else
      this.wrong = `It arrived on channel ${channel}, not ${step.channel}: go back, and try again.`;
  }

  private next(): void {
    this.done++;
    this.wrong = null;
  }
}
