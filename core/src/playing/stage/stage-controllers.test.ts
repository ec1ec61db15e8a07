import { beforeEach, describe, expect, it } from 'vitest';
import { BEND_FULL } from '../../midi/messages.js';
import type { CompiledLayer } from '../../routing/compile.js';
import type { Layer } from '../../model/patch/layer.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing, RECORD } from '../../sampler/command-ring.js';
import { compiled, layer } from '../../testing/fixtures.js';
import { expressionGain } from './controllers.js';
import type { OutsideTarget } from './outside-target.js';
import { OutsideVoices } from './outside-voices.js';
import { StageControllers } from './stage-controllers.js';
import { StripsInUse } from './strips-in-use.js';

const all: Layer['obeys'] = ['modulation', 'expression', 'pitchBend', 'aftertouch'];

let ring: CommandRing;
let strips: StripsInUse;
let sent: number[][];
let controllers: StageControllers;
/** Layers on strips 0, 1 …; those named are played outside, on channels 1, 2 … of a module. */
function play(layers: Layer[], outside: string[] = []) {
  ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  strips = new StripsInUse();
  sent = [];
  const port = { name: 'module', send: (bytes: readonly number[]) => sent.push([...bytes]) };
  const targets = new Map<string, OutsideTarget>(
    outside.map((id, i) => [id, { port, channel: i + 1, bank: null, program: 0 }]),
  );
  controllers = new StageControllers(
    ...([ring, strips, new OutsideVoices(() => 0)] as const),
    ({ id }) => targets.get(id) ?? null,
  );
  const present = compiled(layers).layers;
  for (const one of present) strips.use(strips.take(one.id, new Set()), one);
  controllers.play(present);
  return present;
}
/** Commands since the last look, of one kind, with their arguments. */
function written(kind: number, args: number): number[][] {
  const record = new Float64Array(RECORD);
  const found: number[][] = [];
  while (ring.read(record)) if (record[0] === kind) found.push([...record.slice(2, 2 + args)]);
  return found;
}
beforeEach(() => {
  play([
    layer('upper', { keyboards: ['keys1'], obeys: all }),
    layer('lower', { keyboards: ['keys2'], obeys: all }),
    layer('stubborn', { obeys: [] }),
  ]);
});

describe('a wheel or a pedal', () => {
  it('moves the layers that hear it and obey it', () => {
    controllers.control(0, 1, 1, 127);
    expect(written(COMMAND.modulation, 3)).toEqual([
      [0, 1, 0.03],
      [2, 0, 0.03],
    ]);
    controllers.control(1, 2, 11, 64);
    expect(written(COMMAND.expression, 3)).toEqual([
      [1, expressionGain(64), 0.03],
      [2, 1, 0.03],
    ]);
    controllers.control(0, 1, 74, 10);
    expect(ring.read(new Float64Array(RECORD))).toBe(false);
  });

  it('bends by two semitones, in one command for all', () => {
    controllers.bend(0, 1, 4096);
    expect(written(COMMAND.bend, 5)).toEqual([[(4096 / BEND_FULL) * 2, 1, 0, 0, 0]]);
    controllers.bend(1, 2, -BEND_FULL);
    expect(written(COMMAND.bend, 5)).toEqual([[-2, 2, 0, 0, 0]]);
    // The strips of 32 and more are the bits of the next number.
    play(Array.from({ length: 40 }, (_, i) => layer(`layer-${i}`, { obeys: i > 32 ? all : [] })));
    controllers.bend(0, 1, BEND_FULL);
    expect(written(COMMAND.bend, 3)).toEqual([[2, 0, 0b11111110]]);
  });

  it('and the aftertouch of the hand tremble together: the one that asks for more counts', () => {
    controllers.control(0, 1, 1, 50);
    controllers.pressure(0, 1, 90);
    controllers.pressure(0, 1, 20);
    controllers.control(0, 1, 1, 10);
    expect(
      written(COMMAND.modulation, 2).flatMap(([strip, depth]) =>
        strip === 0 ? [Math.round(depth * 127)] : [],
      ),
    ).toEqual([50, 90, 50, 20]);
    play([
      layer('wheelOnly', { obeys: ['modulation'] }),
      layer('handOnly', { obeys: ['aftertouch'] }),
    ]);
    controllers.control(0, 1, 1, 50);
    controllers.pressure(0, 1, 90);
    expect(written(COMMAND.modulation, 2).map(([s, d]) => [s, Math.round(d * 127)])).toEqual([
      [0, 50],
      [1, 0],
      [1, 90],
    ]);
  });
});

describe('a layer that comes', () => {
  it('begins where a cue says, else where the hands are', () => {
    const [upper, , stubborn] = play([
      layer('upper', { keyboards: ['keys1'], obeys: all }),
      layer('lower', { keyboards: ['keys2'], obeys: all }),
      layer('stubborn', { obeys: [] }),
    ]);
    controllers.control(0, 1, 1, 127);
    controllers.control(0, 1, 11, 30);
    controllers.bend(0, 1, BEND_FULL);
    written(0, 0);
    const put = (...given: Parameters<StageControllers['put']>) => {
      controllers.put(...given);
      const record = new Float64Array(RECORD);
      const found: number[][] = [];
      while (ring.read(record)) found.push([record[0], ...record.slice(2, 5)]);
      return found;
    };
    expect(put(0, upper, [], 2)).toEqual([
      [COMMAND.modulation, 0, 1, 2],
      [COMMAND.expression, 0, expressionGain(30), 2],
      [COMMAND.bend, 2, 1, 0],
    ]);
    const cue = [
      { controller: 1, value: 0 },
      { controller: 11, value: 127 },
    ];
    expect(put(0, upper, cue, 1)).toEqual([
      [COMMAND.modulation, 0, 0, 1],
      [COMMAND.expression, 0, 1, 1],
      [COMMAND.bend, 2, 1, 0],
    ]);
    expect(put(2, stubborn, cue, 1)).toEqual([
      [COMMAND.modulation, 2, 0, 1],
      [COMMAND.expression, 2, 1, 1],
      [COMMAND.bend, 0, 4, 0],
    ]);
    // With a keyboard that changes its place its wheels go along.
    controllers.moveDevices([1, 0]);
    expect(put(0, upper, [], 0)).toEqual([
      [COMMAND.modulation, 0, 0, 0],
      [COMMAND.expression, 0, 1, 0],
      [COMMAND.bend, 0, 1, 0],
    ]);
  });
});

describe('a module', () => {
  const layers = () => [
    layer('upper', { keyboards: ['keys1'], obeys: all }),
    layer('stubborn', { obeys: [] }),
  ];

  it('is told of what its layers hear and obey; volume and place are their own', () => {
    play(layers(), ['upper', 'stubborn']);
    for (const controller of [1, 11, 64, 74, 7, 10]) controllers.control(0, 1, controller, 9);
    expect(sent).toEqual([
      [0xb0, 1, 9],
      [0xb0, 11, 9],
      [0xb0, 64, 9],
      [0xb1, 64, 9],
      [0xb0, 74, 9],
      [0xb1, 74, 9],
    ]);
    sent.length = 0;
    controllers.control(1, 2, 74, 9);
    controllers.bend(1, 2, BEND_FULL);
    controllers.pressure(1, 2, 8);
    expect(sent).toEqual([[0xb1, 74, 9]]);
    sent.length = 0;
    controllers.bend(0, 1, BEND_FULL);
    controllers.pressure(0, 1, 8);
    expect(sent).toEqual([
      [0xe0, 127, 127],
      [0xd0, 8],
    ]);
  });

  it('is put where a cue or the hands say, but for the pedal', () => {
    const [upper, stubborn] = play(layers(), ['upper', 'stubborn']);
    const five: OutsideTarget = {
      port: { name: 'module', send: (bytes) => void sent.push([...bytes]) },
      ...{ channel: 5, bank: null, program: 0 },
    };
    controllers.control(0, 1, 11, 60);
    controllers.bend(0, 1, -1234);
    sent.length = 0;
    const put = (layers: CompiledLayer[], positions: [number, number][]) => {
      controllers.putOutside(
        layers.map((layer) => ({ layer, target: five, level: 0, isAsked: true })),
        positions.map(([controller, value]) => ({ controller, value })),
      );
      return sent.splice(0);
    };
    expect(
      put(
        [upper],
        [
          [64, 127],
          [1, 40],
          [74, 3],
        ],
      ),
    ).toEqual([
      [0xb4, 74, 3],
      [0xb4, 1, 40],
      [0xb4, 11, 60],
      [0xe4, (8192 - 1234) & 127, (8192 - 1234) >> 7],
    ]);
    // What it was told it is not told again, the wheel included.
    expect(put([upper, stubborn], [[11, 2]])).toEqual([
      [0xb4, 1, 0],
      [0xb4, 11, 2],
    ]);
    // Nobody on the channel obeys them any more: they go to rest, once.
    expect(put([stubborn], [[1, 40]])).toEqual([
      [0xb4, 11, 127],
      [0xe4, 0, 64],
    ]);
    expect(put([stubborn], [[74, 4]])).toEqual([[0xb4, 74, 4]]);
  });
});
