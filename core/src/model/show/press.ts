import * as z from 'zod';

/** What a press does to the show. */
export const pressSchema = z.enum([
  'nextCue',
  'previousCue',
  'nextSong',
  'previousSong',
  'tapTempo',
  'countIn',
  'stopClock',
  'click',
  'transposeUp',
  'transposeDown',
  'allNotesOff',
]);
export type Press = z.infer<typeof pressSchema>;

/** What each press is called where it is chosen. */
export const PRESS_NAMES: Readonly<Record<Press, string>> = {
  nextCue: 'Next cue',
  previousCue: 'Back a cue',
  nextSong: 'First cue of the next song',
  previousSong: 'First cue of the song before',
  tapTempo: 'Tap the tempo',
  countIn: 'Count in',
  stopClock: 'Stop the clock',
  click: 'Click on and off',
  transposeUp: 'Sound a semitone higher',
  transposeDown: 'Sound a semitone lower',
  allNotesOff: 'All notes off',
};
