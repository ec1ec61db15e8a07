import { inject, Injectable } from '@angular/core';
import type { ShelfItem } from '@pentachord/core/library';
import { freeName, newPatchSound, type KeptContent, type PatchSound } from '@pentachord/core/model';
import type { Range } from '@pentachord/core/range';
import { Store } from '@ngrx/store';
import { AddedInCue } from './added-in-cue';
import { Carrying } from './carrying';
import { Editing } from './editing';
import { edits } from './edits';
import { PatchesOfSong } from './patches-of-song';
import type { AppState } from '../reducers';
import {
  selectKeepsakes,
  selectKeyboard,
  selectPreferences,
  selectSounds,
  selectWrittenPatch,
} from '../selectors';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';

/** Which keys a new layer and the one beside it play from now on. */
export interface Beside {
  layerId: string;
  keys: Range;
  neighbourKeys: Range;
}

/** Taking from the shelf into the patch on the desk, and keeping what is there. */
@Injectable({ providedIn: 'root' })
export class Taking {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly added = inject(AddedInCue);
  private readonly carrying = inject(Carrying);
  private readonly status = inject(StatusLine);
  private readonly songPatches = inject(PatchesOfSong);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly preferences = this.store.selectSignal(selectPreferences);
  private readonly keepsakes = this.store.selectSignal(selectKeepsakes);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly keyboard = this.store.selectSignal(selectKeyboard);

  /** Takes an item, selects what came of it, and says what was done; an empty text when there is no song to take it into. */
  take(item: ShelfItem, beside?: Beside): string {
    const content = item.keepsake?.content;
    if (content?.kind === 'patch') {
      const name = this.songPatches.add(item.name, content.patch);
      return name === null ? '' : `“${name}” is now a patch of this song, and open.`;
    }
    // A song without a patch gets one of its own.
    if (!this.patch()) this.songPatches.addEmpty();
    const patch = this.patch();
    if (!patch) return '';
    if (content?.kind === 'layer') {
      const { sound, layer, treatments, controls, choosers } = content;
      const carried = { sounds: [sound], layers: [layer], treatments, controls, choosers };
      this.carrying.paste(carried, 'layer taken');
      return `Added “${content.layer.name}” to ${patch.name}.`;
    }
    const sound = soundOf(item);
    if (!sound) return '';
    const layerId = crypto.randomUUID();
    this.door.do(
      edits.layerAdded({
        patchId: patch.id,
        layerId,
        name: item.name,
        sound,
        keyboard: this.keyboard()?.place ?? null,
        channel: this.preferences().channel,
        beside,
      }),
    );
    this.store.dispatch(session.layerSelected({ layerId }));
    this.added.note({ layerIds: [layerId] });
    return `Added “${item.name}” to ${patch.name}.`;
  }

  /**
   * Gives a layer of the patch another sound; everything else of the layer stays, and of the sound what the new one has too:
   * one voice, glide and timbre. A kept sound brings its own.
   */
  swap(layerId: string, item: ShelfItem): void {
    const patch = this.patch();
    const sound = soundOf(item);
    if (!patch || !sound) return;
    const layer = patch.layers.find(({ id }) => id === layerId);
    const before = patch.sounds.find(({ id }) => id === layer?.soundId);
    const keeps = !item.keepsake && item.sound && item.sound.origin.kind !== 'outside' && before;
    const { polyphony, glideSeconds, timbre } = keeps || sound;
    const swapped = { ...sound, polyphony, glideSeconds, timbre };
    const old = this.sounds().get(before?.librarySoundId ?? '')?.name ?? '';
    const names = { before: old, now: item.name };
    this.door.do(edits.soundSwapped({ patchId: patch.id, layerId, sound: swapped, names }));
  }

  /** Keeps a copy under a name. */
  keep(name: string, content: KeptContent): void {
    const keepsake = { id: crypto.randomUUID(), name, favourite: false, content };
    this.door.do(edits.keepsakeAdded({ keepsake }));
    this.status.say(`Kept “${name}” in my sounds.`);
  }

  /** A name that nothing kept bears yet. */
  freeName(wish: string): string {
    return freeName(
      wish,
      this.keepsakes().map(({ name }) => name),
    );
  }

  /** Keeps a layer of the patch on the desk under a name, with its sound, treatments and ties. */
  keepLayer(layerId: string, name: string): void {
    const carried = this.carrying.carry([layerId]);
    const layer = carried?.layers.at(0);
    const sound = carried?.sounds.at(0);
    if (!carried || !layer || !sound) return;
    const { treatments, controls, choosers } = carried;
    this.keep(name, { kind: 'layer', sound, layer, treatments, controls, choosers });
  }
}

/** The sound that an item stands for, with an id of its own; null for a whole patch. */
function soundOf({ keepsake, sound, played }: ShelfItem): PatchSound | null {
  const id = crypto.randomUUID();
  if (keepsake) return played && { ...played, id };
  return sound && newPatchSound(id, sound.id);
}
