import { isSampled, MOST_ZONES } from '@pentachord/core/model';
import { remove, type Things } from '../show/document';
import { libraryEdits, type LibraryEdit } from './library-edits';

/** Carries an edit of a sound in the library out on a draft. */
export function carryOutLibraryEdit(things: Things, edit: LibraryEdit): void {
  if (edit.type === libraryEdits.soundMade.type) {
    things.sounds[edit.sound.id] = edit.sound;
    return;
  }
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
      break;
    case libraryEdits.zonesChanged.type:
      for (const zone of origin.zones) Object.assign(zone, edit.changes[zone.id]);
      break;
    case libraryEdits.dynamicsChanged.type:
      origin.dynamics = edit.dynamics;
  }
}
