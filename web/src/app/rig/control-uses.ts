import { inject, Injectable } from '@angular/core';
import { isStruck, sentAt, type Place, type ShowMessage } from '@pentachord/core/model';
import {
  isInForce,
  jobInWords,
  keyOfSent,
  OWNER_NAMES,
  usualUse,
  type Job,
} from '@pentachord/core/ties';
import { senderAt } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { TieEditing } from '../state/editing/tie-editing';
import type { AppState } from '../state/reducers';
import { selectThings } from '../state/selectors';

/** What controls do already while the patch on the desk is played. */
@Injectable()
export class ControlUses {
  private readonly editing = inject(TieEditing);
  private readonly things = inject<Store<AppState>>(Store).selectSignal(selectThings);

  /** What a job does, in words. */
  inWords(job: Job): string {
    const patch = this.editing.patch();
    const { songs, cues } = this.things();
    return jobInWords(job, {
      layers: patch?.layers ?? [],
      treatments: patch?.treatments ?? [],
      accompanists: patch?.accompanists ?? [],
      called: (songId, cueId) => {
        const song = songId in songs ? songs[songId].name : 'a song that is gone';
        return cueId && cueId in cues ? `${song}: ${cues[cueId].name}` : song;
      },
    });
  }

  /** What a control does when it is moved, tied or by itself, each with whom it holds for. */
  of(place: Place, message: ShowMessage): string[] {
    const devices = this.editing.devices();
    const device = senderAt(devices, place);
    const sent = sentAt({ place, message }, devices)?.sent;
    if (!sent || device < 0) return [];
    const key = keyOfSent({ device, ...sent });
    const jobs = this.editing
      .jobs()
      .filter((job) => job.sent && keyOfSent(job.sent) === key && isInForce(job))
      .map((job) => `${this.inWords(job)} (${OWNER_NAMES[job.owner]})`);
    // A key plays as well: that is no use that would be lost.
    const own = isStruck(message) ? null : usualUse(sent, this.editing.patch()?.layers ?? []);
    return own !== null && jobs.length === 0 ? [own] : jobs;
  }
}
