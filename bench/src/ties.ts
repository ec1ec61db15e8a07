import {
  newLayer,
  newPatch,
  newPatchSound,
  usualManner,
  type ControlBox,
  type ControlTarget,
  type Tie,
} from '@pentachord/core/model';
import { TiedControls } from '@pentachord/core/playing';
import { quantile, times, type Result } from './table.js';

const DEVICES = 8;
const TIES = 300;
const KNOBS = 32;
const LAYERS = 16;
/** Messages timed together, since one is shorter than the clock can tell. */
const BATCH = 20;

/** A rig of eight boxes and three hundred ties: a knob’s message to all its targets. */
export function measureTies(): Result[] {
  const devices = Array.from({ length: DEVICES }, (_, at): ControlBox => ({
    kind: 'controlBox',
    ...{ id: `box-${at}`, rigId: 'rig', position: at, name: `Box ${at}`, port: `port ${at}` },
    ...{ place: `knobs${at + 1}`, at: null, alsoAt: [], channel: at + 1, heardAs: null },
    settings: { known: null, wanted: {} },
    padNotes: [],
    knobControllers: Array.from({ length: KNOBS }, (_, knob) => knob),
  }));
  const parameters = ['level', 'pan', 'reverb', 'brightness'] as const;
  const ties = Array.from({ length: TIES }, (_, i): Tie => {
    const message = { kind: 'knob', knob: (i >> 3) % KNOBS } as const;
    const target: ControlTarget = {
      ...{ kind: 'letter', layer: i % LAYERS, parameter: parameters[i % 4] },
    };
    const manner = { ...usualManner(message), pickUp: false };
    return {
      ...{ id: `tie-${i}`, place: `knobs${(i % DEVICES) + 1}`, message, target },
      ...{ from: -1, to: 0 },
      ...manner,
    };
  });
  const layers = Array.from({ length: LAYERS }, (_, i) => newLayer(`l${i}`, `L ${i}`, `s${i}`));
  let moved = 0;
  const controls = new TiedControls({
    moveLayer: () => moved++,
    moveSound: () => moved++,
    isOn: () => false,
    switchTo: () => undefined,
    untied: () => undefined,
    standingOf: () => null,
    put: () => undefined,
    press: () => undefined,
    pickedBy: () => 0,
    pick: () => undefined,
  });
  controls.setSources({ devices, show: null, rig: { ties } });
  controls.take({
    ...newPatch('patch', 'song', 0, 'Patch'),
    sounds: layers.map(({ soundId }) => newPatchSound(soundId, 'house')),
    layers,
  });
  const took = times(20_000, (run) => {
    for (let i = 0; i < BATCH; i++) {
      const device = (run + i) % DEVICES;
      controls.message(device, 0xb0 | device, (run + i) % 5, run & 127);
    }
  });
  if (moved === 0) throw new Error('nothing was moved');
  return [
    {
      what: `a knob’s message to all it moves, ${DEVICES} devices and ${TIES} ties, median`,
      value: (quantile(took, 0.5) / BATCH) * 1000,
      goal: 50,
      unit: 'µs',
    },
  ];
}
