import type { Injector } from '@angular/core';
import { mendOfOtherChannel, type RigMend } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { Live } from '../live/live';
import { RigEditing } from '../state/editing/rig-editing';
import type { AppState } from '../state/reducers';
import { selectDevices, selectWrittenPatch } from '../state/selectors';
import { StatusLine } from '../state/session/status-line';

export { silenceInWords } from '@pentachord/core/routing';

/** What one click does about the last key that made no sound; null where that takes more. */
export function mendOfSilence(injector: Injector): RigMend | null {
  const store = injector.get<Store<AppState>>(Store);
  const devices = store.selectSignal(selectDevices)();
  const patch = store.selectSignal(selectWrittenPatch)();
  const { device, channel } = injector.get(Live).player.lastNote;
  const id = devices.at(device)?.id;
  return patch && device >= 0 && id !== undefined
    ? mendOfOtherChannel(devices, patch, id, channel)
    : null;
}

/** Carries it out, and says so. */
export function carryOutMend(injector: Injector, mend: RigMend): void {
  injector.get(RigEditing).mend(mend);
  injector.get(StatusLine).say(`Done: ${mend.words}.`);
}
