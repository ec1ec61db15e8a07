import { SIX_EIGHT, strokes, THREE_FOUR } from './notation.js';

const drums = (name: string, tempo: number, ...tags: string[]) =>
  ({ name, category: 'drums', tags, tempo }) as const;
const percussion = (name: string, tempo: number, ...tags: string[]) =>
  ({ name, category: 'percussion', tags, tempo }) as const;
const fill = (name: string, tempo: number, ...tags: string[]) =>
  ({ name, category: 'fills', tags, tempo }) as const;

/** Drums, percussion and fills, for kits. */
export const STROKES = [
  strokes(drums('low tide', 87, 'soft', 'sparse'), 1 / 4, {
    kick: 'x.........x.....x.........x...o.',
    rim: '........x...............x.......',
    hat: '-.-.-.-.-.-.-.-.-.-.-.-.-.-.-.-.',
  }),
  strokes(drums('half tide', 87, 'steady'), 1 / 4, {
    kick: 'x.....o.x.......x.....o.x.o.....',
    snare: '....x.......x.......x.......x...',
    hat: 'o.-.o.-.o.-.o.-.o.-.o.-.o.-.o.--',
  }),
  strokes(drums('springs', 104, 'strong', 'open'), 1 / 4, {
    kick: 'X..x....x.x.....X..x....x.x...o.',
    snare: '....X.......X.......X.......X..-',
    hat: 'x.o.x.o.x.o.x...x.o.x.o.x.o.x...',
    open: '..............x...............x.',
    crash: 'X...............................',
  }),
  strokes(drums('quay walk', 98, 'straight'), 1 / 2, {
    kick: 'x.x.x.x.',
    snare: '..x...x.',
    hat: 'oooooooo',
  }),
  strokes(drums('lamp post', 112, 'driving'), 1 / 4, {
    kick: 'x...x...x...x...',
    claps: '....o.......o...',
    hat: '..x...x...x...x.',
    shaker: '-o-o-o-o-o-o-o-o',
  }),
  strokes(
    drums('rolling pier', 92, 'swing', 'loose'),
    1 / 2,
    {
      kick: 'x..ox...x..ox..o',
      snare: '..x...x...x...x.',
      ride: 'xoxoxoxoxoxoxoxo',
    },
    64,
  ),
  strokes(
    drums('rope step', 124, 'swing', 'brisk'),
    1 / 4,
    {
      kick: 'x.....x.x.......',
      rim: '....x..-....x..-',
      hat: 'x-o-x-o-x-o-x-o-',
    },
    58,
  ),
  strokes(drums('slack water', 74, 'soft', 'brushed'), 1 / 4, {
    kick: 'o...............o.....-.........',
    rim: '........-...............-.......',
    shaker: '--o---o---o---o---o---o---o---o-',
  }),
  strokes({ ...drums('ferry turn', 74, 'waltz'), metre: THREE_FOUR }, 1 / 2, {
    kick: 'x.....x.....',
    rim: '..x.x...x.x.',
    hat: 'o-o-o-o-o-o-',
  }),
  strokes({ ...drums('long swell', 90, 'waltz', 'broad'), metre: THREE_FOUR }, 1 / 2, {
    kick: 'x....ox.....',
    snare: '....x.....x.',
    ride: 'x.x.x.x.x.xo',
  }),
  strokes({ ...drums('nine oars', 132, 'rolling'), metre: SIX_EIGHT }, 1 / 2, {
    kick: 'x....ox.....',
    snare: '...x.....x..',
    hat: 'x-ox-ox-ox-o',
  }),
  strokes({ ...drums('cross chop', 120, 'broken'), metre: SIX_EIGHT }, 1 / 2, {
    kick: 'x..x.xx...x.',
    rim: '..x..x..x..x',
    shaker: '------------',
  }),
  strokes({ ...drums('harbour reel', 140, 'brisk'), metre: SIX_EIGHT }, 1 / 2, {
    kick: 'x..x..x..x..',
    snare: '...o.-...o--',
    tamb: 'x.ox.ox.ox.o',
  }),
  strokes(percussion('shaken sand', 100, 'even'), 1 / 4, { shaker: 'x-o-x-o-x-o-x-o-' }),
  strokes(percussion('two hands', 96, 'hand drums'), 1 / 4, {
    hand: 'x..o..x...o.x...',
    deep: '....x...x.....o.',
  }),
  strokes(percussion('ring of tin', 110, 'bell'), 1 / 4, {
    tin: 'x...o.o...x.o...',
    shaker: 'o-o-o-o-o-o-o-o-',
  }),
  strokes(percussion('tambourine row', 104, 'bright'), 1 / 4, { tamb: 'o.-.x.-.o.-.x.--' }),
  strokes(
    percussion('clap and sway', 88, 'swing'),
    1 / 2,
    { claps: '..x...x.', shaker: 'o-o-o-o-' },
    62,
  ),
  strokes({ ...percussion('six stones', 126, 'hand drums'), metre: SIX_EIGHT }, 1 / 2, {
    hand: 'x.o.o.x.oo..',
    deep: '...x.....x.x',
  }),
  strokes({ ...percussion('slow three', 80, 'soft'), metre: THREE_FOUR }, 1 / 2, {
    deep: 'x.....o.....',
    hand: '..o.o...o.oo',
  }),
  strokes(fill('over the rail', 98, 'toms'), 1 / 4, {
    snare: 'x.xxo...........',
    high: '....x.x.........',
    mid: '........x.xx....',
    floor: '............x.xX',
  }),
  strokes(fill('short knock', 98, 'one bar'), 1 / 4, {
    snare: '........x..xo.xX',
    kick: 'x.....x.........',
    hat: 'o.o.o.o.........',
  }),
  strokes(fill('rising wind', 104, 'snare'), 1 / 4, {
    snare: '-.-.-.-.--------oooooooxxxxxxxXX',
    kick: 'x...x...x...x...x...x...x...x...',
  }),
  strokes(fill('ship bell', 90, 'sparse'), 1 / 2, { bell: 'X...x.x.', crash: 'X.......' }),
  strokes({ ...fill('three waves', 84, 'waltz'), metre: THREE_FOUR }, 1 / 4, {
    high: 'x.xx........',
    mid: '....x.xx....',
    floor: '........x.xX',
  }),
  strokes({ ...fill('six steps down', 130, 'toms'), metre: SIX_EIGHT }, 1 / 2, {
    snare: 'xo....',
    high: '..x...',
    mid: '...x..',
    low: '....x.',
    floor: '.....X',
  }),
];
