import { isSampled, MOST_ZONES, type SampledSound, type SampleZone } from '@pentachord/core/model';
import { current, isDraft } from 'immer';
import { remove, type Things } from '../show/document';
import { libraryEdits, type LibraryEdit } from './library-edits';

/** An edit of a sound that is there. */
type SoundEdit = Extract<LibraryEdit, { soundId: string }>;

/** Carries an edit of a sound or a pattern in the library out on a draft. */
export function carryOutLibraryEdit(things: Things, edit: LibraryEdit): void {
  switch (edit.type) {
    case libraryEdits.soundMade.type:
      things.sounds[edit.sound.id] = edit.sound;
      break;
    case libraryEdits.patternSaved.type:
      things.patterns[edit.pattern.id] = edit.pattern;
      break;
    case libraryEdits.patternsAdded.type:
      for (const pattern of edit.patterns) things.patterns[pattern.id] = pattern;
      break;
    case libraryEdits.patternRemoved.type:
      remove(things.patterns, edit.patternId);
      break;
    default:
      carryOutSoundEdit(things, edit);
  }
}

function carryOutSoundEdit(things: Things, edit: SoundEdit): void {
  const sound = things.sounds[edit.soundId];
  if (!sound) return;
  if (edit.type === libraryEdits.soundDescribed.type) {
    Object.assign(sound, edit.changes);
    return;
  }
  if (edit.type === libraryEdits.librarySoundRemoved.type) {
    remove(things.sounds, edit.soundId);
    return;
  }
  if (!isSampled(sound)) return;
  const { origin } = sound;
  switch (edit.type) {
    case libraryEdits.zonesLaid.type:
      origin.zones = edit.zones.slice(0, MOST_ZONES);
      if (edit.dynamics !== undefined) origin.dynamics = edit.dynamics;
      reachAsZones(sound);
      break;
    case libraryEdits.zonesChanged.type:
      // Only those that change are touched: a draft of each of hundreds takes its time.
      asIs(origin.zones).forEach(({ id }, at) => {
        if (id in edit.changes) Object.assign(origin.zones[at], edit.changes[id]);
      });
      reachAsZones(sound);
      break;
    case libraryEdits.dynamicsChanged.type:
      origin.dynamics = edit.dynamics;
  }
}

/** A sound of recordings is made for the notes that its zones answer. */
function reachAsZones(sound: SampledSound): void {
  const zones = asIs(sound.origin.zones);
  if (zones.length === 0) return;
  sound.lowestNote = Math.min(...zones.map(({ keys }) => keys.low));
  sound.highestNote = Math.max(...zones.map(({ keys }) => keys.high));
}

/** Zones as they are, whether or not they are a draft. */
function asIs(zones: SampleZone[]): readonly SampleZone[] {
  return isDraft(zones) ? current(zones) : zones;
}
