import { recipeIn } from '../model/library/source-id.js';
import type { Span } from '../range/range.js';
import { recipeOf } from './house-sounds.js';
import { planText, planZones, renderZone, type SoundRecipe } from './recipe.js';
import type { SoundSource } from './source.js';
import type { RenderedZone } from './zone.js';

/** Sounds are compared at middle C, or as near to it as they were made for. */
const MIDDLE_C = 60;

/** One zone that is yet to be made. */
export interface ZoneToMake {
  keys: Span;
  make(): RenderedZone;
}

/** What a source is made of. */
export interface SourceZones {
  /** Its zones, to be made one after the other. */
  zones: readonly ZoneToMake[];
  /** What its zones are made from: equal texts, equal zones. */
  readonly text: string;
}

/** The zones of a source, unmade. Throws for one that is none. */
export function zonesOf({ id }: Pick<SoundSource, 'id'>): SourceZones {
  const plans = planZones(known(id));
  return {
    zones: plans.map((plan) => ({ keys: plan.keys, make: () => renderZone(plan) })),
    get text() {
      return planText(plans);
    },
  };
}

/** The key at which a source is compared with others. Throws for one that is none. */
export function referenceOf({ id }: Pick<SoundSource, 'id'>): number {
  const { low, high } = known(id).natural;
  return Math.min(high, Math.max(low, MIDDLE_C));
}

function known(id: string): SoundRecipe {
  const recipe = recipeOf(recipeIn(id) ?? '');
  if (!recipe) throw new Error(`there is no sound “${id}”`);
  return recipe;
}
