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
