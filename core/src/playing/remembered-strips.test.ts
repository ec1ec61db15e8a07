import { expect, it } from 'vitest';
import { BUS, COMMAND, COMMAND_RING_BYTES, CommandRing, RECORD } from '../sampler/command-ring.js';
import { RememberedStrips } from './remembered-strips.js';

it('tell a worklet that knows nothing where everything stands, glides from where they are', () => {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  let now = 0;
  const strips = new RememberedStrips(ring, () => now);
  const told = () => {
    const record = new Float64Array(RECORD);
    const found: number[][] = [];
    while (ring.read(record)) found.push([record[0], ...record.slice(2, 8)]);
    return found;
  };
  strips.write(COMMAND.reset, 0, 2);
  strips.write(COMMAND.level, 0, 2, -60, 0);
  strips.write(COMMAND.level, 0, 2, 0, 30);
  strips.write(COMMAND.expression, 0, 2, 0.25, 0.03);
  strips.write(COMMAND.send, 0, 2, BUS.delay, -12, 10);
  strips.write(COMMAND.pan, 0, 2, -0.5);
  strips.write(COMMAND.tone, 0, 2, 3, -3);
  strips.write(COMMAND.timbre, 0, 2, 0.1, 0.2, 0.3, 0.4);
  strips.write(COMMAND.output, 0, 2, 1);
  strips.write(COMMAND.bend, 0, -2, 1 << 2, 0, 0, 0);
  // Of another strip, which is asked for nothing else.
  strips.write(COMMAND.level, 0, 40, -6, 0);
  expect(told()).toHaveLength(11);
  now = 15;
  strips.tellAgain();
  const again = told();
  const of = (command: number) => again.filter(([kind, s]) => kind === command && s === 2);
  expect(of(COMMAND.level)).toEqual([
    [COMMAND.level, 2, -30, 0, 0, 0, 0],
    [COMMAND.level, 2, 0, 15, 0, 0, 0],
  ]);
  expect(of(COMMAND.expression)).toEqual([[COMMAND.expression, 2, 0.25, 0, 0, 0, 0]]);
  expect(of(COMMAND.send).map(([, , bus, level]) => [bus, level])).toEqual([
    ...[
      [BUS.reverb, -60],
      [BUS.delay, -12],
      [BUS.chorus, -60],
    ],
  ]);
  expect(of(COMMAND.pan)[0][2]).toBe(-0.5);
  expect(of(COMMAND.tone)[0].slice(2, 4)).toEqual([3, -3]);
  expect(of(COMMAND.timbre)[0].slice(2, 6)).toEqual([0.1, 0.2, 0.3, 0.4]);
  expect(of(COMMAND.output)[0][2]).toBe(1);
  expect(again.filter(([kind]) => kind === COMMAND.bend)).toEqual([
    [COMMAND.bend, -2, 4, 0, 0, 0, 0],
  ]);
  expect(again.filter(([kind, s]) => kind === COMMAND.level && s === 40)).toHaveLength(1);
  // Begun anew everything stands at rest.
  strips.write(COMMAND.reset, 0, 2);
  told();
  strips.tellAgain();
  expect(told().filter(([kind, s]) => kind === COMMAND.level && s === 2)[0][2]).toBe(-60);
});
