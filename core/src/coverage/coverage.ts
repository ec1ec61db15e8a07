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
  /** Its keys start patterns: no layer answers them, and they are not silent. */
  starts: boolean;
}

/** One key in the coverage strip. */
export interface KeyCoverage {
  key: number;
  /** Indices of the layers that answer it at some velocity, ascending. */
  layers: number[];
  /** True when some velocity of it is silent. */
  partlySilent: boolean;
  /** It starts something of the band. */
  starts: boolean;
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
  const isStart = (key: number) =>
    device >= 0 && key >= 0 && key < 128 && patch.band.triggerAt[device * 128 + key] > 0;
  const keyCuts = cuts(ground.keys, territories, 'keys', startEdges(ground.keys, isStart));
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
  const starts = keyCuts.slice(0, columns).map(isStart);
  starts.forEach((is, c) => {
    if (is) masks.fill(0, c * rows, (c + 1) * rows);
  });
  const grid: Grid = { keyCuts, velocityCuts, columns, rows, masks, starts };
  const cells = rectangles(grid, 'columns', () => true).map((found) => ({
    keys: found.keys,
    velocities: found.velocities,
    layers: indicesOf(found.mask),
    starts: found.starts,
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
  /** Which columns are keys that start something. */
  starts: boolean[];
}

/** Where keys that start something begin and end. */
function startEdges({ low, high }: Span, isStart: (key: number) => boolean): number[] {
  const edges: number[] = [];
  for (let key = low + 1; key <= high; key++)
    if (isStart(key) !== isStart(key - 1)) edges.push(key);
  return edges;
}

function cuts(
  whole: Span,
  territories: (Ground | null)[],
  axis: 'keys' | 'velocities',
  more: readonly number[] = [],
): number[] {
  const at = new Set([whole.low, whole.high + 1, ...more]);
  for (const territory of territories) {
    if (!territory) continue;
    at.add(territory[axis].low);
    at.add(territory[axis].high + 1);
  }
  return [...at].sort((a, b) => a - b);
}

interface MaskedGround extends Ground {
  mask: number;
  starts: boolean;
}

/** Joins equal cells of the wanted sort into rectangles, growing along columns or along rows first. */
function rectangles(
  grid: Grid,
  first: 'columns' | 'rows',
  wanted: (mask: number, column: number) => boolean,
): MaskedGround[] {
  const { columns, rows, masks, starts } = grid;
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
      const isStart = starts[column];
      if (!free(column, row, mask)) continue;
      let right = column + 1;
      let top = row + 1;
      const growUp = () => {
        while (all(column, right, (c) => free(c, top, mask))) top++;
      };
      const growRight = () => {
        while (
          right < columns &&
          starts[right] === isStart &&
          all(row, top, (r) => free(right, r, mask))
        )
          right++;
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
        starts: isStart,
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
  const { starts } = grid;
  const whollySilent = Array.from({ length: columns }, (_, c) =>
    all(0, rows, (r) => masks[c * rows + r] === 0),
  );
  const silentKeys = rectangles(grid, 'columns', (_, c) => whollySilent[c] && !starts[c]);
  const partly = (mask: number, c: number) => mask === 0 && !whollySilent[c] && !starts[c];
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
    const starts = grid.starts[column];
    strip.push({ key, layers: indicesOf(mask), partlySilent: partlySilent && !starts, starts });
  }
  return strip;
}

function indicesOf(mask: number): number[] {
  const indices: number[] = [];
  for (let index = 0; index < BITS; index++) if (mask & (1 << index)) indices.push(index);
  return indices;
}
