/** The rooms of the core whose tests are tried by mutants. */
export const ROOMS = [
  'range',
  'touch',
  'routing',
  'playing',
  'coverage',
  'loudness',
  'treatments',
  'sampler',
];

/** Rooms that render sound: by the tests of other rooms as well they would take hours. */
const ALONE = ['loudness', 'sampler'];

/** The rooms by whose tests a room is tried. */
export function roomsThatTest(room) {
  return ALONE.includes(room) ? [room] : ROOMS.filter((other) => !ALONE.includes(other));
}
