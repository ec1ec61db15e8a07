import { provenMendOf, remarks, type Mend, type Remark } from '@pentachord/core/coverage';
import type { Patch } from '@pentachord/core/model';
import { patchInPlay } from '@pentachord/core/routing';
import { createSelector } from '@ngrx/store';
import { selectRemarks } from '../../state/machine/remarks.selectors';
import { selectRemarkSettings } from '../../state/machine/selectors';
import {
  selectPatch,
  selectPatchSong,
  selectPatterns,
  selectRig,
  selectSoloedSet,
  selectSounds,
} from '../../state/selectors';

/** What one click can do about a remark of the patch on the desk, if it is sure to help. */
export const selectMendOf = createSelector(
  selectPatch,
  selectPatchSong,
  selectRig,
  selectSoloedSet,
  selectRemarkSettings,
  selectRemarks,
  selectPatterns,
  selectSounds,
  (patch, song, rig, soloed, settings, before, patterns, sounds) =>
    (remark: Remark): Mend | null => {
      const remarksOf = (mended: Patch) =>
        remarks(
          patchInPlay(mended, { rig, song, cue: null, soloed, patterns, sounds }).compiled,
          settings,
        );
      return patch && provenMendOf(remark, patch, settings.devices, before, remarksOf);
    },
);
