import { withBandChanges, type BandChanges } from '../model/patch/accompanist.js';
import { listensTo, type Layer } from '../model/patch/layer.js';
import { patchSchema, type Patch } from '../model/patch/patch.js';
import { LOUDEST_DB, SILENCE_DB } from '../units/decibels.js';
import { contains, intersection, withRangePart, type Axis, type Span } from '../range/range.js';
import { crossfaded, meeting, overlapOf } from '../range/splits.js';
import { isKeyboard, type Device, type Keyboard } from '../model/rig/rig.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { otherKeysFor } from './band-mends.js';
import type { RangeChanges } from './moving-split.js';
import { causeOfSilence, groundHeardBy } from './never-heard.js';
import type { Remark, RemarkKind } from './remark.js';

/** New settings by layer id. */
export type LayerChanges = Record<string, Partial<Omit<Layer, 'id' | 'soundId'>>>;

/** What one click can do about a remark. */
export interface Mend extends Change {
  /** The patch that it edits. */
  patchId: string;
}

/** What is done, and to which layers. */
interface Change {
  /** Such as “close the gap”, for the button. */
  words: string;
  changes: LayerChanges;
  /** What becomes of accompanists; nothing if left out. */
  band?: BandChanges;
}

/** Strengths over which layers that only meet are crossfaded. */
const CROSSFADE_STRENGTHS = 16;
/** The most that a layer is transposed, semitones. */
const MOST_SHIFTED = 60;

/** The mend for a remark, or null when there is none that is plainly right. */
export function mendOf(remark: Remark, patch: Patch, devices: readonly Device[]): Mend | null {
  return inPatch(patch, changeFor(remark, patch, devices));
}

function inPatch({ id: patchId }: Patch, change: Change | null): Mend | null {
  return change && { patchId, ...change };
}

function changeFor(remark: Remark, patch: Patch, devices: readonly Device[]): Change | null {
  const { where } = remark;
  const layer = patch.layers.find((l) => l.id === remark.layerIds[0]);
  if (remark.kind === 'twoStarts' || remark.kind === 'beyondRun') {
    const starters = otherKeysFor(remark, patch, devices);
    return starters && { words: 'put them on free keys', changes: {}, band: { starters } };
  }
  if (remark.kind === 'silentBand' && remark.accompanistId !== undefined) {
    const layerIds = { [remark.accompanistId]: remark.layerIds };
    return layer ? { words: `have it play ${layer.name}`, changes: {}, band: { layerIds } } : null;
  }
  if (remark.kind === 'missingPieces')
    return { words: 'leave them out', changes: {}, band: { leftOut: remark.pieces } };
  if (remark.kind === 'neverHeard') return layer ? hearing(layer, devices) : null;
  const keyboard = devices.filter(isKeyboard).find((k) => k.id === remark.keyboardId);
  if (!where || !keyboard) return null;
  if (remark.kind === 'beyondKeyboard' && layer) {
    const ground = groundHeardBy(layer, devices);
    return ground && trimmed(layer, ground, 'end at the keyboard');
  }
  if (remark.kind === 'silentKeys') {
    const here = patch.layers.filter((layer) => hearsHere(layer, keyboard));
    return closing(here, 'keys', where.keys);
  }
  if (remark.kind === 'silentStrengths') {
    const here = patch.layers.filter(
      (layer) => hearsHere(layer, keyboard) && intersection(layer.keys, where.keys),
    );
    return closing(here, 'velocities', where.velocities);
  }
  if (remark.kind === 'dip' || remark.kind === 'leap') {
    const involved = patch.layers.filter((layer) => remark.layerIds.includes(layer.id));
    return crossfading(involved, 'velocities') ?? overlapping(involved);
  }
  if (remark.kind === 'sameSoundTwice') {
    const both = patch.layers.filter((layer) => remark.layerIds.includes(layer.id));
    return apart(both, 'keys') ?? apart(both, 'velocities');
  }
  if (remark.kind === 'unbalancedSplit' && remark.excess !== undefined)
    return balancing(patch, remark.layerIds, where.keys, remark.excess);
  const moved = layer && remark.octaves !== undefined ? moving(layer, remark.octaves) : null;
  return moved ?? keepingTo(remark, layer);
}

function keepingTo({ keys }: Remark, layer: Layer | undefined): Change | null {
  return layer && keys ? trimmed(layer, keys, 'keep to those keys') : null;
}

/**
 * The first mend that does what it says: with it the remark is gone, no more alarms are told than before, and the patch can
 * be saved. `before` is what is told of the patch now, `remarksOf` what would be told of another one.
 */
export function provenMendOf(
  remark: Remark,
  patch: Patch,
  devices: readonly Device[],
  before: readonly Remark[],
  remarksOf: (patch: Patch) => readonly Remark[],
): Mend | null {
  for (const { mend, mended } of mendsToTry(remark, patch, devices)) {
    const after = remarksOf(mended);
    if (!after.some(({ id }) => id === remark.id) && alarms(after) <= alarms(before)) return mend;
  }
  return null;
}

/** Mends that may help, the best first, each with the patch as it would be; those that could not be saved are left out. */
export function mendsToTry(
  remark: Remark,
  patch: Patch,
  devices: readonly Device[],
): { mend: Mend; mended: Patch }[] {
  const layer = patch.layers.find((l) => l.id === remark.layerIds[0]);
  return [mendOf(remark, patch, devices), inPatch(patch, keepingTo(remark, layer))]
    .filter((mend) => mend !== null)
    .map((mend) => ({ mend, mended: withMend(patch, mend) }))
    .filter(({ mended }) => patchSchema.safeParse(mended).success);
}

/** A patch with a mend carried out. */
export function withMend(
  patch: Patch,
  { changes, band = {} }: Pick<Mend, 'changes' | 'band'>,
): Patch {
  return {
    ...patch,
    layers: patch.layers.map((layer) => ({ ...layer, ...changes[layer.id] })),
    accompanists: withBandChanges(patch.accompanists, band),
  };
}

/** How many alarms are among them. */
export function alarms(remarks: readonly Remark[]): number {
  return remarks.filter(({ weight }) => weight === 'alarm').length;
}

const LOOK_AT: Record<RemarkKind, string> = {
  silentKeys: 'look at the ends of the layers beside it',
  silentStrengths: 'look at the velocities of the layers there',
  beyondKeyboard: 'look at its keys',
  sameSoundTwice: 'look whether both are meant',
  outsideNaturalRange: 'look at its transposition and its keys',
  outsideMidi: 'look at its transposition and its keys',
  dip: 'look at levels and touch there',
  leap: 'look at levels and touch there',
  unbalancedSplit: 'look at the levels of both sides',
  neverHeard: 'look at its keys, keyboard and transposition',
  twoPrograms: 'give each sound a channel of its own',
  twoStarts: 'give one of them another key',
  beyondRun: 'begin its run on a lower key',
  silentBand: 'choose the layers that it plays',
  missingPieces: 'leave those notes out, or say which pieces the kit has',
};

/** What to look at where no one click mends the matter. */
export function lookAt({ kind }: Remark): string {
  return LOOK_AT[kind];
}

/** Lets two layers that meet by strength overlap there, and crossfades them; null when they do not meet. */
function overlapping(layers: readonly Layer[]): Change | null {
  const pair = besideEachOther(layers, 'velocities');
  if (!pair) return null;
  const [lower, upper] = pair;
  if (overlapOf(lower.velocities, upper.velocities) !== 0) return null;
  const half = CROSSFADE_STRENGTHS / 2;
  const high = Math.min(upper.velocities.high - 1, lower.velocities.high + half);
  const low = Math.max(lower.velocities.low + 1, upper.velocities.low - half);
  const [below, above] = crossfaded([
    { ...lower.velocities, high },
    { ...upper.velocities, low },
  ]);
  return {
    words: `crossfade them over ${overlapOf(below, above)} velocities`,
    changes: { [lower.id]: { velocities: below }, [upper.id]: { velocities: above } },
  };
}

/** Makes two layers that overlap in part meet instead; null when one lies within the other. */
function apart(layers: readonly Layer[], axis: Axis): Change | null {
  const pair = besideEachOther(layers, axis);
  if (!pair) return null;
  const [lower, upper] = pair;
  const [below, above] = meeting([lower[axis], upper[axis]]);
  return {
    words: 'make them meet',
    changes: { [lower.id]: { [axis]: below }, [upper.id]: { [axis]: above } },
  };
}

/** Two layers, the lower one first, each of which has a part of its own; null for any other. */
function besideEachOther(layers: readonly Layer[], axis: Axis): [Layer, Layer] | null {
  if (layers.length !== 2) return null;
  const [lower, upper] = [...layers].sort((a, b) => a[axis].low - b[axis].low);
  const each = lower[axis].low < upper[axis].low && lower[axis].high < upper[axis].high;
  return each ? [lower, upper] : null;
}

/** Brings both sides of a split to the loudness between them. */
function balancing(patch: Patch, ids: readonly string[], at: Span, excess: number): Change | null {
  const changes: LayerChanges = {};
  for (const layer of patch.layers) {
    if (!ids.includes(layer.id)) continue;
    const [below, above] = [contains(layer.keys, at.low), contains(layer.keys, at.high)];
    if (below === above) return null;
    const level = layer.level + (below ? excess : -excess) / 2;
    if (level > LOUDEST_DB || level < SILENCE_DB) return null;
    changes[layer.id] = { level: Math.round(level * 10) / 10 };
  }
  return { words: 'balance both sides', changes };
}

const OCTAVES = ['', 'an octave', 'two octaves', 'three octaves', 'four octaves', 'five octaves'];

/** Moves what a layer sounds by octaves. */
function moving(layer: Layer, semitones: number): Change | null {
  const transpose = layer.transpose + semitones;
  const words = OCTAVES.at(Math.abs(semitones) / 12);
  if (!words || Math.abs(transpose) > MOST_SHIFTED) return null;
  return {
    words: `sound ${words} ${semitones > 0 ? 'higher' : 'lower'}`,
    changes: { [layer.id]: { transpose } },
  };
}

/** Turns the overlaps of two layers into crossfades; null when they do not overlap side by side, or fade already. */
export function crossfading(layers: readonly Layer[], axis: Axis): Change | null {
  const pair = besideEachOther(layers, axis);
  if (!pair) return null;
  const [lower, upper] = pair;
  const [below, above] = crossfaded([lower[axis], upper[axis]]);
  if (below.fadeOut === lower[axis].fadeOut && above.fadeIn === upper[axis].fadeIn) return null;
  return {
    words: 'crossfade them',
    changes: { [lower.id]: { [axis]: below }, [upper.id]: { [axis]: above } },
  };
}

/** Takes away what keeps a layer from ever being heard. */
function hearing(layer: Layer, devices: readonly Device[]): Change | null {
  const cause = causeOfSilence(layer, devices);
  const mend = (words: string, changes: LayerChanges[string]): Change => ({
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
    case 'keyboardTouch':
      return mend('let it answer every velocity', {
        velocities: { ...layer.velocities, low: 1, high: 127 },
      });
    case 'touch':
      return mend('give it an even touch', { touch: EVEN_TOUCH });
    default:
      return null;
  }
}

function trimmed(layer: Layer, to: Span, words: string): Change | null {
  const keys = intersection(layer.keys, to);
  if (!keys || (keys.low === layer.keys.low && keys.high === layer.keys.high)) return null;
  let range = withRangePart(layer.keys, 'low', keys.low);
  range = withRangePart(range, 'high', keys.high);
  return { words, changes: { [layer.id]: { keys: range } } };
}

function closing(layers: readonly Layer[], axis: Axis, silent: Span): Change | null {
  // An octave shift can bring a keyboard beyond MIDI, where no layer can answer.
  const gap = intersection(silent, { low: 0, high: 127 });
  if (!gap) return null;
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

function hearsHere(layer: Layer, keyboard: Keyboard): boolean {
  return !layer.muted && listensTo(layer, keyboard);
}
