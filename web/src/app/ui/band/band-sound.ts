import { computed, inject, Injectable } from '@angular/core';
import { KIT_PIECES, kitKeysOf } from '@pentachord/core/patterns';
import { isKit, recipeOf } from '@pentachord/core/synthesis';
import { Store } from '@ngrx/store';
import type { AppState } from '../../state/reducers';
import { selectPatch, selectSounds } from '../../state/selectors';
import { PatternAuditioning } from '../../state/session/pattern-auditioning';

/** The sound with which patterns are heard: what its pieces are called, and the keys that it is made for. */
@Injectable()
export class BandSound {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly patch = this.store.selectSignal(selectPatch);
  private readonly auditioning = inject(PatternAuditioning);
  private readonly layer = computed(() => {
    const ids = this.auditioning.layerIds();
    return this.patch()?.layers.find(({ id }) => ids.has(id)) ?? null;
  });
  private readonly sound = computed(() => {
    const used = this.patch()?.sounds.find(({ id }) => id === this.layer()?.soundId);
    return this.sounds().get(used?.librarySoundId ?? '') ?? null;
  });
  /** Names of a kit’s pieces, by key; empty for other sounds. */
  readonly pieces = computed((): ReadonlyMap<number, string> => {
    const sound = this.sound();
    const kit = sound && kitKeysOf(sound);
    if (kit) return new Map([...KIT_PIECES].filter(([key]) => kit[key] >= 0));

    const origin = sound?.origin;
    const recipe = origin?.kind === 'house' ? recipeOf(origin.recipe) : undefined;
    return new Map(
      recipe && isKit(recipe) ? recipe.pieces.map(({ key, name }) => [key, name]) : [],
    );
  });

  /** The keys that the sound is made for, as they stand before so many semitones and the layer’s own. */
  rangeBefore(semitones: number): { low: number; high: number } | null {
    const sound = this.sound();
    if (!sound) return null;
    const by = semitones + (this.layer()?.transpose ?? 0);
    return { low: sound.lowestNote - by, high: sound.highestNote - by };
  }
}
