import type { Layer } from '../model/layer.js';
import type { Patch } from '../model/patch.js';
import { crossfaded, meeting, movedSplit, overlapOf } from '../range/splits.js';
import { intersection, withRangePart, type Range, type Span } from '../range/range.js';
import { isKeyboard, type Device } from '../model/rig.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { groundOf } from './coverage.js';
import { causeOfSilence } from './never-heard.js';
import type { Remark } from './remark.js';

/** New keys or velocities by layer id. */
export type RangeChanges = Record<string, { keys?: Range; velocities?: Range }>;

/** New settings by layer id. */
export type LayerChanges = Record<string, Partial<Omit<Layer, 'id' | 'soundId'>>>;

/** What one click can do about a remark. */
export interface Mend {
  /** Such as “close the gap”, for the button. */
  words: string;
  changes: LayerChanges;
}

type Axis = 'keys' | 'velocities';

/** The mend for a remark, or null when there is none that is plainly right. */
export function mendOf(remark: Remark, patch: Patch, devices: readonly Device[]): Mend | null {
  const { where } = remark;
  const layer = patch.layers.find((l) => l.id === remark.layerIds[0]);
  if (remark.kind === 'neverHeard') return layer ? hearing(layer, devices) : null;
  if (!where) return null;
  const keyboard = devices.filter(isKeyboard).find((k) => k.id === remark.keyboardId);
  if (remark.kind === 'beyondKeyboard' && layer && keyboard)
    return trimmed(layer, groundOf(keyboard).keys, 'end at the keyboard');
  if (remark.kind === 'silentKeys') {
    const here = patch.layers.filter((layer) => listensTo(layer, remark.keyboardId));
    return closing(here, 'keys', where.keys);
  }
  if (remark.kind === 'silentStrengths') {
    const here = patch.layers.filter(
      (layer) => listensTo(layer, remark.keyboardId) && intersection(layer.keys, where.keys),
    );
    return closing(here, 'velocities', where.velocities);
  }
  if (remark.kind === 'dip' || remark.kind === 'leap') {
    const involved = patch.layers.filter((layer) => remark.layerIds.includes(layer.id));
    return crossfading(involved, 'velocities');
  }
  return null;
}

/** Turns the overlaps of two layers into crossfades; null when they do not overlap side by side, or fade already. */
export function crossfading(layers: readonly Layer[], axis: Axis): Mend | null {
  if (layers.length !== 2) return null;
  const [lower, upper] = [...layers].sort((a, b) => a[axis].low - b[axis].low);
  const sideBySide = lower[axis].low < upper[axis].low && lower[axis].high < upper[axis].high;
  if (!sideBySide || overlapOf(lower[axis], upper[axis]) <= 0) return null;
  const [below, above] = crossfaded([lower[axis], upper[axis]]);
  if (below.fadeOut === lower[axis].fadeOut && above.fadeIn === upper[axis].fadeIn) return null;
  return {
    words: 'crossfade them',
    changes: { [lower.id]: { [axis]: below }, [upper.id]: { [axis]: above } },
  };
}

/**
 * Moves the split at a layer by some keys: its upper side together with every layer that begins there; where none does,
 * its lower side together with those that end there. Null when the layer has no neighbour.
 */
export function movingSplit(patch: Patch, layerId: string, by: number): RangeChanges | null {
  const layer = patch.layers.find((l) => l.id === layerId);
  if (!layer) return null;
  const others = patch.layers.filter((l) => l.id !== layerId && shareKeyboard(l, layer));
  const above = others.filter((other) => isSplit(layer.keys, other.keys));
  if (above.length > 0) return movedTogether([layer], above, by);
  const below = others.filter((other) => isSplit(other.keys, layer.keys));
  return below.length > 0 ? movedTogether(below, [layer], by) : null;
}

/** All sides of a split move by the same number of keys: as many as the tightest of them allows. */
function movedTogether(lower: Layer[], upper: Layer[], by: number): RangeChanges {
  let step = by;
  for (const l of lower)
    for (const u of upper) {
      const allowed = movedSplit([l.keys, u.keys], step)[0].high - l.keys.high;
      step = allowed;
    }
  const changes: RangeChanges = {};
  for (const l of lower)
    for (const u of upper) {
      const [below, above] = movedSplit([l.keys, u.keys], step);
      changes[l.id] = { keys: below };
      changes[u.id] = { keys: above };
    }
  return changes;
}

/** Side by side: meeting, overlapping in part, or with a small gap between them. */
function isSplit(lower: Span, upper: Span): boolean {
  const widestGap = 3;
  return lower.low < upper.low && lower.high < upper.high && overlapOf(lower, upper) >= -widestGap;
}

/** Takes away what keeps a layer from ever being heard. */
function hearing(layer: Layer, devices: readonly Device[]): Mend | null {
  const cause = causeOfSilence(layer, devices);
  const mend = (words: string, changes: LayerChanges[string]): Mend => ({
    words,
    changes: { [layer.id]: changes },
  });
  switch (cause) {
    case 'muted':
      return mend('unmute it', { muted: false });
    case 'level':
      return mend('bring it up', { level: -6 });
    case 'keyboard':
      return mend('let it hear any keyboard', { keyboards: 'any' });
    case 'channel':
      return mend('let it hear any channel', { channel: 'any' });
    case 'touch':
      return mend('give it an even touch', { touch: EVEN_TOUCH });
    default:
      return null;
  }
}

function trimmed(layer: Layer, to: Span, words: string): Mend | null {
  const keys = intersection(layer.keys, to);
  if (!keys) return null;
  let range = withRangePart(layer.keys, 'low', keys.low);
  range = withRangePart(range, 'high', keys.high);
  return { words, changes: { [layer.id]: { keys: range } } };
}

function closing(layers: readonly Layer[], axis: Axis, gap: Span): Mend | null {
  const below = layers.filter((layer) => layer[axis].high === gap.low - 1);
  const above = layers.filter((layer) => layer[axis].low === gap.high + 1);
  const changes: RangeChanges = {};
  if (below.length > 0 && above.length > 0) {
    for (const lower of below)
      for (const upper of above) {
        const [l, u] = meeting([lower[axis], upper[axis]]);
        changes[lower.id] = { [axis]: { ...l, fadeOut: lower[axis].fadeOut } };
        changes[upper.id] = { [axis]: { ...u, fadeIn: upper[axis].fadeIn } };
      }
    return { words: 'close the gap', changes };
  }
  // At the end of a keyboard or of all strengths there is a neighbour on one side only: it takes the rest.
  for (const layer of below) changes[layer.id] = { [axis]: { ...layer[axis], high: gap.high } };
  for (const layer of above) changes[layer.id] = { [axis]: { ...layer[axis], low: gap.low } };
  const stretched = Object.keys(changes).length;
  return stretched > 0 ? { words: 'stretch over it', changes } : null;
}

function listensTo(layer: Layer, keyboardId: string | null): boolean {
  const { keyboards, muted } = layer;
  return !muted && (keyboards === 'any' || (keyboardId !== null && keyboards.includes(keyboardId)));
}

/** True when two layers listen to a keyboard in common. */
export function shareKeyboard(a: Layer, b: Layer): boolean {
  const { keyboards } = b;
  if (a.keyboards === 'any' || keyboards === 'any') return true;
  return a.keyboards.some((id) => keyboards.includes(id));
}
