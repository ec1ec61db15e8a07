import { inject, Injectable } from '@angular/core';
import { CannotRead, takeOfMidi, type NamedStep } from '@pentachord/core/exchange';
import type { WholeTake } from '@pentachord/core/logbook';
import { cutText, LONGEST_NAME } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import {
  selectDevices,
  selectSession,
  selectShow,
  selectSteps,
  selectThings,
} from '../state/selectors';
import type { FileToBring } from '../state/recordings/bringing-in';

/** Takes Standard MIDI Files in as takes of the show that is open. */
@Injectable({ providedIn: 'root' })
export class MidiIn {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly show = this.store.selectSignal(selectShow);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly steps = this.store.selectSignal(selectSteps);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly place = this.store.selectSignal(selectSession);

  /** A file as a take, with what is worth knowing of it; words that say why where it is none. */
  async read({
    name,
    file,
  }: FileToBring): Promise<{ whole: WholeTake; doubts: string[] } | string> {
    const title = cutText(name.replace(/^.*\//, '').replace(/\.[^.]*$/, ''), LONGEST_NAME);
    const show = this.show();
    try {
      const bytes = file instanceof Blob ? new Uint8Array(await file.arrayBuffer()) : file;
      return takeOfMidi(bytes, {
        about: {
          ...{ id: crypto.randomUUID(), name: title || 'A MIDI file', where: 'desk' },
          ...{ began: Date.now(), showId: show?.id ?? null, show: show?.name ?? '' },
        },
        devices: this.devices(),
        steps: this.steps().map((step) => this.named(step)),
        first: this.named({ ...this.place(), cueId: null }),
      });
    } catch (fault) {
      if (!(fault instanceof CannotRead)) throw fault;
      return `${name}: ${fault.message}. Nothing was changed.`;
    }
  }

  private named({
    entryId,
    songId,
    cueId,
    patchId = null,
  }: Pick<NamedStep, 'entryId' | 'songId' | 'cueId'> & { patchId?: string | null }): NamedStep {
    const { songs, cues, patches } = this.things();
    const cue = cueId === null ? undefined : cues[cueId];
    const played = cue?.patchId ?? patchId;
    return {
      ...{ entryId, songId, cueId, patchId: played },
      song: (songId && songs[songId]?.name) || '',
      cue: cue?.name ?? '',
      patch: (played && patches[played]?.name) || '',
    };
  }
}
