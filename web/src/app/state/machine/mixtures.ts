import { inject, Injectable } from '@angular/core';
import { probesOf, type Mixture } from '@pentachord/core/loudness';
import { sourceIdOf } from '@pentachord/core/model';
import type { CompiledLayer, CompiledPatch } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import type { AppState } from '../reducers';
import { selectPlayedKeys, selectSounds, selectWrittenPatch } from '../selectors';

/** What the layers of a patch make together, listened to by a worker and remembered as long as nothing of it changes. */
@Injectable({ providedIn: 'root' })
export class Mixtures {
  private readonly live = inject(Live);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly played = this.store.selectSignal(selectPlayedKeys);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);

  /** Of the patch on the desk, made ready. */
  async of(compiled: CompiledPatch): Promise<Mixture[]> {
    const patch = this.patch();
    if (compiled.id !== patch?.id) return [];
    return this.live.sounds.mix(
      probesOf(compiled, this.played()),
      ({ librarySoundId, patchSoundId, source }: CompiledLayer) => {
        const sound = this.sounds().get(librarySoundId);
        const sourceId = sound ? sourceIdOf(sound) : null;
        const timbre = patch.sounds.find(({ id }) => id === patchSoundId)?.timbre;
        return sourceId !== null && timbre
          ? { sourceId, colour: { timbre, tone: source.tone } }
          : null;
      },
    );
  }
}
