import fc from 'fast-check';
import { newLayer, type Layer } from '../model/patch/layer.js';
import { newPatch, newPatchSound, type Patch } from '../model/patch/patch.js';
import type { Device, Keyboard } from '../model/rig/rig.js';
import { keyRangeSchema, velocityRangeSchema, type Range } from '../range/range.js';
import { compilePatch, compileRig, type CompiledPatch } from '../routing/compile.js';
import { EVEN_TOUCH } from '../touch/touch.js';

export function keyboard(id: string, changes: Partial<Keyboard> = {}): Keyboard {
  return {
    kind: 'keyboard',
    heardAs: null,
    settings: { known: null, wanted: {} },
    id,
    rigId: 'show',
    place: id === 'upper' ? 'keys1' : 'keys2',
    position: 0,
    name: id === 'upper' ? 'Upper keys' : 'Lower keys',
    port: id,
    at: null,
    alsoAt: [],
    lowestKey: 28,
    highestKey: 103,
    channel: id === 'upper' ? 1 : 2,
    octaveShift: 0,
    touch: EVEN_TOUCH,
    ...changes,
  };
}

export const demoRig: Device[] = [
  keyboard('upper'),
  keyboard('lower', { lowestKey: 36, highestKey: 96 }),
];

export const keys = (low: number, high: number, fadeIn = 0, fadeOut = 0): Range =>
  keyRangeSchema.parse({ low, high, fadeIn, fadeOut });
export const velocities = (low: number, high: number, fadeIn = 0, fadeOut = 0): Range =>
  velocityRangeSchema.parse({ low, high, fadeIn, fadeOut });

export function layer(id: string, changes: Partial<Layer> = {}): Layer {
  return { ...newLayer(id, id, `sound-${id}`), ...changes };
}

export function patchOf(layers: Layer[], id = 'patch'): Patch {
  const sounds = [...new Set(layers.map((l) => l.soundId))];
  return {
    ...newPatch(id, 'song', 0, 'A patch'),
    sounds: sounds.map((s) => newPatchSound(s, `library-${s}`)),
    layers,
  };
}

export function compiled(
  layers: Layer[],
  {
    id = 'patch',
    devices = demoRig,
    songShift = 0,
    soloed,
  }: { id?: string; devices?: Device[]; songShift?: number; soloed?: Set<string> } = {},
): CompiledPatch {
  return compilePatch(patchOf(layers, id), { rig: compileRig(devices), songShift, soloed });
}

const anyKeys = fc
  .tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 127 }))
  .map(([a, b]) => keys(Math.min(a, b), Math.max(a, b)));
const anyVelocities = fc
  .tuple(fc.integer({ min: 1, max: 127 }), fc.integer({ min: 1, max: 127 }))
  .map(([a, b]) => velocities(Math.min(a, b), Math.max(a, b)));

/** Layers of every sort: other keyboards and channels, muted, silencing touches, far transpositions. */
export const anyLayers = fc
  .array(
    fc.record({
      keys: anyKeys,
      velocities: anyVelocities,
      keyboards: fc.constantFrom<Layer['keyboards']>(
        'any',
        ['keys1'],
        ['keys2'],
        ['keys1', 'keys2'],
      ),
      channel: fc.constantFrom<Layer['channel']>('any', 1, 2, 7),
      transpose: fc.constantFrom(0, 0, 12, -24, 60, -60),
      muted: fc.constantFrom(false, false, false, true),
      followsSong: fc.boolean(),
      touch: fc.constantFrom(EVEN_TOUCH, { ...EVEN_TOUCH, inLow: 77, below: 'silent' as const }),
      obeys: fc.constantFrom<Layer['obeys']>(['sustain'], []),
      soundId: fc.constantFrom('one', 'two', 'three'),
    }),
    { maxLength: 8 },
  )
  .map((many) => many.map((changes, i) => layer(`layer-${i}`, changes)));
