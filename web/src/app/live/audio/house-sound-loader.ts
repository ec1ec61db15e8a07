import type { CoreShare } from '@pentachord/core/cost';
import type { Response } from '@pentachord/core/loudness';
import type { LoadedSound } from '@pentachord/core/sampler';
import { recipeOf } from '@pentachord/core/synthesis';
import { soundAnswerSchema, type Coloured, type SoundRequest } from './sound-messages';

/** How far the sounds of the show are. */
export interface SoundProgress {
  /** Sounds that can be played. */
  ready: number;
  /** Sounds that were asked for. */
  of: number;
  /** Name of the one being made, with how much of it is done (0–1). */
  making: { name: string; done: number } | null;
  /** What went wrong, in plain words. */
  problems: string[];
}

/** Has house sounds rendered in a worker, one after the other, each ready as soon as it is done. */
export class HouseSoundLoader {
  private worker: Worker | null = null;
  private readonly slots = new Map<string, number>();
  private readonly finished = new Set<string>();
  private gauged: ((budget: CoreShare) => void) | null = null;
  /** Told how loud each sound was measured to be and what one voice costs, by its recipe. */
  onMeasured: (recipe: string, response: Response, voiceCost: CoreShare) => void = () => undefined;
  /** Told how loud a sound is in another colour, by the key it was asked for with. */
  onColoured: (key: string, response: Response) => void = () => undefined;
  private readonly coloured = new Set<string>();
  private making: SoundProgress['making'] = null;
  private readonly problems: string[] = [];

  /** @param loaded called with each sound as it becomes playable */
  constructor(private readonly loaded: (slot: number, sound: LoadedSound) => void) {}

  /** The slot of a recipe, asking for it if nobody has yet; −1 for a recipe that does not exist. */
  slotOf(recipe: string): number {
    const known = this.slots.get(recipe);
    if (known !== undefined) return known;
    if (!recipeOf(recipe)) return -1;
    const slot = this.slots.size;
    this.slots.set(recipe, slot);
    this.ask({ kind: 'render', recipe });
    return slot;
  }

  /** A sound that failed counts as done: nothing more will come of it. */
  get progress(): SoundProgress {
    return {
      ready: this.finished.size,
      of: this.slots.size,
      making: this.making,
      problems: this.problems,
    };
  }

  /** Measures what share of a core sound may use on this machine, once the sounds asked for before are made. */
  async gauge(): Promise<CoreShare> {
    return new Promise((resolve) => {
      this.gauged = resolve;
      this.ask({ kind: 'gauge' });
    });
  }

  /** Has the loudness of a sound in another colour measured, once. */
  measure(coloured: Coloured): void {
    if (this.coloured.has(coloured.key)) return;
    this.coloured.add(coloured.key);
    this.ask({ kind: 'measure', ...coloured });
  }

  private ask(request: SoundRequest): void {
    this.theWorker().postMessage(request);
  }

  private theWorker(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('./sounds.worker', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => this.answer(data));
    worker.addEventListener('error', () =>
      this.problems.push('The sounds cannot be made: their worker did not start. Reload the page.'),
    );
    return (this.worker = worker);
  }

  private answer(data: unknown): void {
    const answer = soundAnswerSchema.safeParse(data);
    if (!answer.success) {
      this.problems.push('A sound came out broken and is left out. Reload the page to try again.');
      return;
    }
    const message = answer.data;
    if (message.kind === 'gauged') {
      this.gauged?.(message.budget);
      return;
    }
    if (message.kind === 'measured') {
      this.onColoured(message.key, message.response);
      return;
    }
    const recipe = recipeOf(message.recipe);
    const slot = this.slots.get(message.recipe);
    if (!recipe || slot === undefined) return;
    if (message.kind === 'progress') {
      this.making = { name: recipe.name, done: message.done / message.of };
    } else if (message.kind === 'ready') {
      this.making = null;
      this.finished.add(message.recipe);
      this.onMeasured(message.recipe, message.response, message.voiceCost);
      this.loaded(slot, { voicing: recipe.voicing, zones: message.zones });
    } else {
      this.making = null;
      this.finished.add(message.recipe);
      this.problems.push(`${recipe.name} could not be made: ${message.problem}`);
    }
  }
}
