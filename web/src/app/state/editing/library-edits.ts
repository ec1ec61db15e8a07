import type { Pattern, SampledSound, SampleZone, Sound } from '@pentachord/core/model';
import { createActionGroup, props } from '@ngrx/store';

/** What can be said of a sound in the library. */
export type SoundDescription = Partial<
  Pick<Sound, 'name' | 'category' | 'tags' | 'lowestNote' | 'highestNote'>
>;
/** What can be changed of a zone. */
export type ZoneSettings = Partial<Omit<SampleZone, 'id'>>;

/** Changes to patterns of the library, and to its sounds that are made of recordings. */
export const libraryEdits = createActionGroup({
  source: 'Library edit',
  events: {
    'Sound made': props<{ sound: SampledSound }>(),
    'Sound described': props<{ soundId: string; changes: SoundDescription }>(),
    'Library sound removed': props<{ soundId: string }>(),
    /** All its zones at once; the depth from velocity to level too, where it is proposed along. */
    'Zones laid': props<{
      soundId: string;
      zones: readonly SampleZone[];
      dynamics?: number;
      words: string;
    }>(),
    'Zones changed': props<{
      soundId: string;
      changes: Readonly<Record<string, ZoneSettings>>;
      words: string;
      gesture?: string;
    }>(),
    /** A pattern as it is from now on, or a new one. */
    'Pattern saved': props<{ pattern: Pattern; words: string; gesture?: string }>(),
    /** Several at once, such as those of a file. */
    'Patterns added': props<{ patterns: readonly Pattern[]; words: string }>(),
    'Pattern removed': props<{ patternId: string }>(),
    'Dynamics changed': props<{ soundId: string; dynamics: number; gesture?: string }>(),
  },
});

export type LibraryEdit = ReturnType<(typeof libraryEdits)[keyof typeof libraryEdits]>;

const TYPES: ReadonlySet<string> = new Set(Object.values(libraryEdits).map(({ type }) => type));

/** True for edits of sounds and patterns in the library. */
export function isLibraryEdit(edit: { type: string }): edit is LibraryEdit {
  return TYPES.has(edit.type);
}

/** What an edit did, in words for the undo button. */
export function libraryEditInWords(edit: LibraryEdit): string {
  switch (edit.type) {
    case libraryEdits.soundMade.type:
      return 'sound made';
    case libraryEdits.soundDescribed.type:
      return 'sound described';
    case libraryEdits.librarySoundRemoved.type:
      return 'sound removed';
    case libraryEdits.patternRemoved.type:
      return 'pattern removed';
    case libraryEdits.dynamicsChanged.type:
      return 'depth of velocity changed';
    default:
      return edit.words;
  }
}
