import { heardChannel, type Keyboard } from '../model/rig/rig.js';
import { intersection, widthOf, type Span } from '../range/range.js';
import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { hears } from '../routing/hearing.js';
import { lowestSounding } from '../touch/touch.js';

/** Part of the field: keys across, velocities up, limits included. */
export interface Ground {
  keys: Span;
  velocities: Span;
}

/** Part of the field on which the same layers sound. */
export interface CoverageCell extends Ground {
  /** Indices of the layers, ascending; empty on silent ground. */
  layers: number[];
}

/** One key in the coverage strip. */
export interface KeyCoverage {
  key: number;
  /** Indices of the layers that answer it at some velocity, ascending. */
  layers: number[];
  /** True when some velocity of it is silent. */
  partlySilent: boolean;
}

/** Who answers where on one keyboard. */
export interface Coverage {
  /** The keys of the keyboard, after its octave shift, and all velocities. */
  ground: Ground;
  /** A partition of the ground. */
  cells: CoverageCell[];
  /** The silent cells, as few rectangles as read well; full-height ones come first. */
  silent: Ground[];
  keys: KeyCoverage[];
}

/** The most layers that one bit mask can hold. */
const BITS = 32;

/** The ground of a keyboard: its keys after its own octave shift, at every velocity. */
export function groundOf(keyboard: Keyboard): Ground {
  const shift = keyboard.octaveShift * 12;
  return {
    keys: { low: keyboard.lowestKey + shift, high: keyboard.highestKey + shift },
    velocities: { low: 1, high: 127 },
  };
}

/** The part of a keyboard's ground on which a layer sounds, or null when there is none. It is always one rectangle. */
export function territoryOf(
  layer: CompiledLayer,
  device: number,
  channel: number,
  ground: Ground,
): Ground | null {
  if (!hears(layer, device, channel) || layer.muted || layer.soloedOut || !layer.isChosen)
    return null;
  const answered = intersection({ low: layer.keyLow, high: layer.keyHigh }, ground.keys);
  const inMidi = answered && intersection(answered, { low: -layer.shift, high: 127 - layer.shift });
  const velocities = intersection(
    { low: layer.velocityLow, high: layer.velocityHigh },
    { low: lowestSounding(layer.source.touch), high: 127 },
  );
  return inMidi && velocities ? { keys: inMidi, velocities } : null;
}

/**
 * Partitions a keyboard's field by the set of layers that sound. Cuts only at the layers' edges, so its cost grows with the
 * number of layers and not with the 128 × 127 points of the field.
 */
export function coverage(patch: CompiledPatch, keyboard: Keyboard): Coverage {
  const device = patch.rig.ids.indexOf(keyboard.id);
  const ground = groundOf(keyboard);
  const territories = patch.layers
    .slice(0, BITS)
    .map((layer) => territoryOf(layer, device, heardChannel(keyboard), ground));
  const keyCuts = cuts(ground.keys, territories, 'keys');
  const velocityCuts = cuts(ground.velocities, territories, 'velocities');
  const columns = keyCuts.length - 1;
  const rows = velocityCuts.length - 1;
  const masks = new Int32Array(columns * rows);
  territories.forEach((territory, index) => {
    if (!territory) return;
    const toColumn = keyCuts.indexOf(territory.keys.high + 1);
    const toRow = velocityCuts.indexOf(territory.velocities.high + 1);
    const fromRow = velocityCuts.indexOf(territory.velocities.low);
    for (let c = keyCuts.indexOf(territory.keys.low); c < toColumn; c++)
      for (let r = fromRow; r < toRow; r++) masks[c * rows + r] |= 1 << index;
  });
  const grid: Grid = { keyCuts, velocityCuts, columns, rows, masks };
  const cells = rectangles(grid, 'columns', () => true).map((found) => ({
    keys: found.keys,
    velocities: found.velocities,
    layers: indicesOf(found.mask),
  }));
  return { ground, cells, silent: silentGround(grid), keys: keyStrip(grid, ground) };
}

interface Grid {
  keyCuts: number[];
  velocityCuts: number[];
  columns: number;
  rows: number;
  /** Which layers sound, by column × rows + row. */
  masks: Int32Array;
}

function cuts(whole: Span, territories: (Ground | null)[], axis: 'keys' | 'velocities'): number[] {
  const at = new Set([whole.low, whole.high + 1]);
  for (const territory of territories) {
    if (!territory) continue;
    at.add(territory[axis].low);
    at.add(territory[axis].high + 1);
  }
  return [...at].sort((a, b) => a - b);
}

interface MaskedGround extends Ground {
  mask: number;
}

/** Joins equal cells of the wanted sort into rectangles, growing along columns or along rows first. */
function rectangles(
  grid: Grid,
  first: 'columns' | 'rows',
  wanted: (mask: number, column: number) => boolean,
): MaskedGround[] {
  const { columns, rows, masks } = grid;
  const taken = new Uint8Array(columns * rows);
  const free = (column: number, row: number, mask: number) =>
    row < rows &&
    taken[column * rows + row] === 0 &&
    masks[column * rows + row] === mask &&
    wanted(mask, column);
  const found: MaskedGround[] = [];
  for (let column = 0; column < columns; column++) {
    for (let row = 0; row < rows; row++) {
      const mask = masks[column * rows + row];
      if (!free(column, row, mask)) continue;
      let right = column + 1;
      let top = row + 1;
      const growUp = () => {
        while (all(column, right, (c) => free(c, top, mask))) top++;
      };
      const growRight = () => {
        while (all(row, top, (r) => free(right, r, mask))) right++;
      };
      if (first === 'columns') {
        growUp();
        growRight();
      } else {
        growRight();
        growUp();
      }
      for (let c = column; c < right; c++) for (let r = row; r < top; r++) taken[c * rows + r] = 1;
      found.push({
        keys: { low: grid.keyCuts[column], high: grid.keyCuts[right] - 1 },
        velocities: { low: grid.velocityCuts[row], high: grid.velocityCuts[top] - 1 },
        mask,
      });
    }
  }
  return found;
}

function all(from: number, to: number, holds: (n: number) => boolean): boolean {
  for (let n = from; n < to; n++) if (!holds(n)) return false;
  return true;
}

/**
 * Silent ground as few readable rectangles: keys that are silent at every velocity come first, as keys; what remains is
 * joined along keys or along velocities, whichever gives fewer.
 */
function silentGround(grid: Grid): Ground[] {
  const { columns, rows, masks } = grid;
  const whollySilent = Array.from({ length: columns }, (_, c) =>
    all(0, rows, (r) => masks[c * rows + r] === 0),
  );
  const silentKeys = rectangles(grid, 'columns', (_, c) => whollySilent[c]);
  const partly = (mask: number, c: number) => mask === 0 && !whollySilent[c];
  const alongVelocities = rectangles(grid, 'columns', partly);
  const alongKeys = rectangles(grid, 'rows', partly);
  const rest = alongKeys.length <= alongVelocities.length ? alongKeys : alongVelocities;
  return [...silentKeys, ...rest].map(({ keys, velocities }) => ({ keys, velocities }));
}

/** True when a part of the ground spans every velocity. */
export function isFullHeight(part: Ground, ground: Ground): boolean {
  return widthOf(part.velocities) === widthOf(ground.velocities);
}

function keyStrip(grid: Grid, ground: Ground): KeyCoverage[] {
  const strip: KeyCoverage[] = [];
  let column = 0;
  for (let key = ground.keys.low; key <= ground.keys.high; key++) {
    while (grid.keyCuts[column + 1] <= key) column++;
    let mask = 0;
    let partlySilent = false;
    for (let row = 0; row < grid.rows; row++) {
      const here = grid.masks[column * grid.rows + row];
      mask |= here;
      if (here === 0) partlySilent = true;
    }
    strip.push({ key, layers: indicesOf(mask), partlySilent });
  }
  return strip;
}

function indicesOf(mask: number): number[] {
  const indices: number[] = [];
  for (let index = 0; index < BITS; index++) if (mask & (1 << index)) indices.push(index);
  return indices;
}
