import type { Cue, CueLevel, OrderEntry, Patch, Show, Song, Tonight } from '@pentachord/core/model';
import type { CueContent, CuePlaces } from '@pentachord/core/setlist';
import { createActionGroup, props } from '@ngrx/store';

/** What can be changed of a show. */
export type ShowSettings = Partial<Omit<Show, 'id' | 'order'>>;
/** What can be changed of a song. */
export type SongSettings = Partial<Omit<Song, 'id'>>;
/** What can be changed of a cue, apart from where it stands. */
export type CueSettings = Partial<Omit<Cue, 'id' | 'songId' | 'position' | 'atSeconds'>>;
/** A song with its patches and cues. */
export interface WholeSong {
  song: Song;
  patches: readonly Patch[];
  cues: readonly Cue[];
}

/** Changes to shows, songs and cues. `gesture` is what it is among the edits of a patch. */
export const showEdits = createActionGroup({
  source: 'Show edit',
  events: {
    'Show added': props<{ show: Show }>(),
    'Show changed': props<{ showId: string; changes: ShowSettings; gesture?: string }>(),
    'Show removed': props<{ showId: string }>(),
    /** The running order as it is from now on, with songs that are new or change with it. */
    'Order changed': props<{
      showId: string;
      order: readonly OrderEntry[];
      words: string;
      songs?: readonly WholeSong[];
      /** What changes of songs that are there. */
      changes?: Readonly<Record<string, SongSettings>>;
      gesture?: string;
    }>(),
    'Tonight changed': props<{
      showId: string;
      entryId: string;
      tonight: Tonight | null;
      words: string;
      gesture?: string;
    }>(),
    /** What is otherwise tonight holds for good: in the song, and so in every show. */
    'Tonight kept': props<{ showId: string; entryId: string }>(),
    'Song changed': props<{ songId: string; changes: SongSettings; gesture?: string }>(),
    /** Takes a song out of a show’s order, and out of the repertoire unless another show needs it. */
    'Song removed': props<{ songId: string; showId: string | null }>(),
    'Patches ordered': props<{ patchIds: readonly string[] }>(),
    /** Cues that are new, with the places of those that make room for them, and those in whose place they stand. */
    'Cues added': props<{
      cues: readonly Cue[];
      places: CuePlaces;
      replaced?: readonly string[];
      words: string;
    }>(),
    'Cue changed': props<{
      cueId: string;
      changes: CueSettings;
      words: string;
      gesture?: string;
    }>(),
    'Cue taken': props<{ cueId: string; content: CueContent }>(),
    'Cues placed': props<{ places: CuePlaces; gesture?: string }>(),
    'Cue removed': props<{ cueId: string }>(),
    /** Parts of a cue’s balance, laid over those it has. */
    'Cue balanced': props<{
      cueId: string;
      balance: Readonly<Record<string, CueLevel>>;
      treatments?: Readonly<Record<string, boolean>>;
      choices?: Readonly<Record<string, number>>;
      gesture?: string;
    }>(),
  },
});

/** An edit of shows, songs or cues. */
export type ShowEdit = ReturnType<(typeof showEdits)[keyof typeof showEdits]>;

const WORDS: Partial<Record<ShowEdit['type'], string>> = {
  [showEdits.showAdded.type]: 'show added',
  [showEdits.showChanged.type]: 'show changed',
  [showEdits.showRemoved.type]: 'show removed',
  [showEdits.tonightKept.type]: 'tonight made permanent',
  [showEdits.songRemoved.type]: 'song removed',
  [showEdits.patchesOrdered.type]: 'patch moved',
  [showEdits.cueTaken.type]: 'cue taken over',
  [showEdits.cuesPlaced.type]: 'cue moved',
  [showEdits.cueRemoved.type]: 'cue removed',
  [showEdits.cueBalanced.type]: 'the cue’s balance changed',
};

const PARTS_OF_SONG: Partial<Record<keyof SongSettings, string>> = {
  name: 'name',
  lengthSeconds: 'length',
  tempo: 'tempo',
  metre: 'metre',
  fingered: 'key of the hands',
  sounding: 'sounding key',
  octaves: 'octave',
  notes: 'notes',
  number: 'number',
  ties: 'ties',
};

/** What an edit of shows, songs or cues did, in words for the undo button. */
export function showEditInWords(edit: ShowEdit): string {
  if ('words' in edit) return edit.words;
  if (edit.type === showEdits.songChanged.type) {
    const [part] = Object.keys(edit.changes) as (keyof SongSettings)[];
    return `${PARTS_OF_SONG[part] ?? 'song'} changed`;
  }
  if (edit.type === showEdits.showChanged.type && 'controls' in edit.changes)
    return 'controls changed';
  if (edit.type === showEdits.showChanged.type && 'going' in edit.changes)
    return 'presses or clock changed';
  return WORDS[edit.type] ?? 'changed';
}
