import { describe, expect, it } from 'vitest';
import { PLAIN_ZONE, type SampleZone } from '../model/library/sample-zone.js';
import type { Sound } from '../model/library/sound.js';
import { kitKeysOf } from '../patterns/kit-keys.js';
import { KIT_PIECES } from '../patterns/kit-pieces.js';
import { NAMES, pieceNamed } from './piece-named.js';

describe('the piece that a name speaks of', () => {
  it.each<[string, number | null]>([
    ['Kick_01.wav', 36],
    ['BassDrum hard', 36],
    ['SnareRim v3', 37],
    ['SD-12', 38],
    ['snare 2 soft', 38],
    ['HiHat Open 4', 46],
    ['hh_closed_07', 42],
    ['HatPedal', 44],
    ['Tom 1', 50],
    ['Floor Tom', 41],
    ['tom04', 41],
    ['Ride bell', 53],
    ['Crash 1', 49],
    ['conga slap', 62],
    ['Kicking the tide', null],
    ['Cello C4', null],
  ])('%s', (name, key) => expect(pieceNamed(name)).toBe(key));

  it('is found by every name that is shown', () => {
    for (const [key, name] of KIT_PIECES)
      for (const one of [name, ...(NAMES[key] ?? [])])
        expect([one, pieceNamed(one)]).toEqual([one, key]);
  });
});

it('a kit is played where its pieces lie, else where the nearest like them do', () => {
  const zone = (piece: number | null, root: number): SampleZone => ({
    ...{ ...PLAIN_ZONE, id: `z${root}`, recordingId: 'a'.repeat(64), root, piece },
    keys: { low: root, high: root, fadeIn: 0, fadeOut: 0, law: 'linear' },
    velocities: { low: 1, high: 127, fadeIn: 0, fadeOut: 0, law: 'linear' },
  });
  const kit = (...zones: SampleZone[]): Sound => ({
    ...{ id: 'kit', name: 'Kit', category: 'drums and percussion', tags: [], favourite: false },
    ...{ origin: { kind: 'recordings', dynamics: 0, zones }, lowestNote: 0, highestNote: 127 },
  });
  expect(kitKeysOf(kit(zone(null, 60)))).toBeNull();
  const keys = kitKeysOf(kit(zone(36, 48), zone(38, 49), zone(42, 50), zone(45, 52), zone(50, 53)));
  const at = [36, 35, 38, 40, 42, 44, 41, 48, 47, 46, 56].map((key) => keys?.[key]);
  expect(at).toEqual([48, 48, 49, 49, 50, 50, 52, 53, 52, -1, -1]);
});
