import { coverage, remarks } from '@pentachord/core/coverage';
import { plumbLine } from '@pentachord/core/loudness';
import {
  newLayer,
  newPatch,
  newPatchSound,
  type Keyboard,
  type Layer,
  type Patch,
} from '@pentachord/core/model';
import { Player, type PlayerOutput } from '@pentachord/core/playing';
import { compilePatch, compileRig } from '@pentachord/core/routing';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { quantile, times, type Result } from './table.js';

/** Microseconds that the three bytes of a note-on take on a MIDI cable: 30 bits at 31 250 per second. */
const CABLE = 960;
/** Notes timed together, since one is shorter than the clock can tell. */
const BATCH = 20;

export const keyboard: Keyboard = {
  kind: 'keyboard',
  id: 'upper',
  rigId: 'show',
  position: 0,
  name: 'Upper keys',
  place: 'keys1',
  port: 'upper',
  at: null,
  alsoAt: [],
  heardAs: null,
  settings: { known: null, wanted: {} },
  lowestKey: 21,
  highestKey: 108,
  channel: 1,
  octaveShift: 0,
  touch: EVEN_TOUCH,
};

/** A patch whose layers overlap in ever new ways. */
export function patchOf(layerCount: number): Patch {
  const layers = Array.from({ length: layerCount }, (_, i): Layer => {
    const low = (i * 7) % 60;
    const softest = 1 + ((i * 13) % 60);
    return {
      ...newLayer(`layer-${i}`, `Layer ${i}`, `sound-${i % 6}`),
      keys: {
        low,
        high: Math.min(127, low + 60),
        fadeIn: i % 9,
        fadeOut: i % 5,
        law: 'equalPower',
      },
      velocities: { low: softest, high: 127, fadeIn: i % 11, fadeOut: 0, law: 'equalPower' },
      transpose: ((i % 5) - 2) * 12,
    };
  });
  return {
    ...newPatch(`patch-${layerCount}`, 'song', 0, 'Measured'),
    sounds: Array.from({ length: 6 }, (_, i) => newPatchSound(`sound-${i}`, `library-${i}`)),
    layers,
  };
}

/** The core's share: judging, compiling, coverage. */
export function measureCore(): Result[] {
  const rig = compileRig([keyboard]);
  const compiled = compilePatch(patchOf(32), { rig, songShift: -1 });
  let begun = 0;
  const output: PlayerOutput = {
    start: () => begun++,
    end: () => undefined,
    control: () => undefined,
    bend: () => undefined,
    pressure: () => undefined,
    voicePressure: () => undefined,
    silence: () => undefined,
    ringsOn: () => false,
    moveDevices: () => undefined,
    takeBack: () => undefined,
    retime: () => undefined,
    deviceGone: () => undefined,
  };
  const player = new Player(output);
  player.take(compiled);
  const note = times(
    20_000,
    (run) => {
      for (let i = 0; i < BATCH; i++)
        player.message(0, 0x90, 21 + ((run * 7 + i * 5) % 88), 1 + ((run + i * 31) % 127));
    },
    (run) => {
      for (let i = 0; i < BATCH; i++) player.message(0, 0x80, 21 + ((run * 7 + i * 5) % 88), 0);
    },
  );
  if (begun === 0) throw new Error('nothing was routed');
  const perNote = (share: number) => (quantile(note, share) / BATCH) * 1000;

  const patch32 = patchOf(32);
  const compiling = times(500, () => compilePatch(patch32, { rig, songShift: -1 }));
  const compiled16 = compilePatch(patchOf(16), { rig, songShift: 0 });
  const covering = times(1000, () => coverage(compiled16, keyboard));
  const response = [
    { velocity: 1, loudness: -60 },
    { velocity: 127, loudness: -20 },
  ];
  const responses = new Map(Array.from({ length: 6 }, (_, i) => [`library-${i}`, response]));
  const reading = times(400, (run) => {
    plumbLine(compiled16, responses, 0, 1, 21 + (run % 88));
    remarks(compiled16, { devices: [keyboard], sounds: new Map(), middleC: 4, responses });
  });
  return [
    {
      what: 'note-on through 32 layers, median',
      value: perNote(0.5),
      goal: CABLE / 100,
      unit: 'µs',
    },
    {
      what: 'note-on through 32 layers, 99th percentile',
      value: perNote(0.99),
      goal: CABLE / 20,
      unit: 'µs',
    },
    {
      what: 'compiling a 32-layer patch, median',
      value: quantile(compiling, 0.5),
      goal: 2,
      unit: 'ms',
    },
    {
      what: 'coverage of a 16-layer patch, median',
      value: quantile(covering, 0.5),
      goal: 1,
      unit: 'ms',
    },
    {
      what: 'plumb line and remarks of a 16-layer patch, median',
      value: quantile(reading, 0.5),
      goal: 4,
      unit: 'ms',
    },
  ];
}
