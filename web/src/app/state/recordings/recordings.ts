import type { Recording, RecordingKeeping } from '@pentachord/core/model';
import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';

/** What is known of recordings. They are not edited: they come, and are cleared away. */
export interface RecordingsState {
  byId: Readonly<Partial<Record<string, Recording>>>;
  /** Whether the server has been asked. */
  isListed: boolean;
  /** What is wanting and what is unused; null before anybody asked. */
  keeping: RecordingKeeping | null;
}

export const recordings = createActionGroup({
  source: 'Recordings',
  events: {
    Listed: props<{ recordings: readonly Recording[] }>(),
    Came: props<{ recordings: readonly Recording[] }>(),
    /** It is to be looked which are wanting and which are unused. */
    'Keeping asked': emptyProps(),
    'Keeping known': props<{ keeping: RecordingKeeping }>(),
  },
});

const NOTHING: RecordingsState = { byId: {}, isListed: false, keeping: null };

export const recordingsReducer = createReducer<RecordingsState>(
  NOTHING,
  on(recordings.listed, (state, { recordings: all }) => ({
    ...state,
    isListed: true,
    byId: Object.fromEntries(all.map((recording) => [recording.id, recording])),
  })),
  on(recordings.came, (state, { recordings: fresh }) => ({
    ...state,
    byId: { ...state.byId, ...Object.fromEntries(fresh.map((one) => [one.id, one])) },
  })),
  on(recordings.keepingKnown, (state, { keeping }) => ({ ...state, keeping })),
);
