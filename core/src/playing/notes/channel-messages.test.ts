import { describe, expect, it } from 'vitest';
import { readChannelMessage, type ChannelMessages } from './channel-messages.js';

/** What one message says, as names and numbers. */
function read(status: number, data1: number, data2 = 0): unknown[][] {
  const said: unknown[][] = [];
  const to = new Proxy({} as ChannelMessages, {
    get:
      (_, name) =>
      (...told: unknown[]) =>
        said.push([name, ...told]),
  });
  readChannelMessage(to, 7, status, data1, data2);
  return said;
}

describe('a channel message', () => {
  it.each<[string, number[], unknown[][]]>([
    ['a struck key', [0x90, 60, 1], [['noteOn', 7, 1, 60, 1]]],
    ['velocity 0', [0x9f, 60, 0], [['noteOff', 7, 16, 60]]],
    ['a note-off', [0x83, 60, 64], [['noteOff', 7, 4, 60]]],
    ['a controller', [0xb1, 11, 9], [['controller', 7, 2, 11, 9]]],
    ['aftertouch of a channel', [0xd0, 90], [['pressure', 7, 1, 90]]],
    ['aftertouch of a key', [0xa2, 61, 90], [['keyPressure', 7, 3, 61, 90]]],
    ['a pedal just down', [0xb0, 64, 64], [['pedalMoved', 7, 1, true]]],
    ['a pedal just up', [0xb0, 64, 63], [['pedalMoved', 7, 1, false]]],
    [
      'all sound off',
      [0xb0, 120, 0],
      [
        ['pedal', 7, 1, false],
        ['endChannel', 7, 1],
      ],
    ],
    [
      'all controllers to rest',
      [0xb0, 121, 0],
      [
        ['pedal', 7, 1, false],
        ['resetControllers', 7, 1],
      ],
    ],
    ['local control', [0xb0, 122, 0], [['controller', 7, 1, 122, 0]]],
    ...[123, 124, 125, 126, 127].map((mode): [string, number[], unknown[][]] => [
      `channel mode ${mode}`,
      [0xb4, mode, 0],
      [['endChannel', 7, 5]],
    ]),
    ['a program', [0xc0, 5], []],
    ['a clock tick', [0xf8, 0], []],
    ['a data byte', [0x70, 60, 100], []],
  ])('%s', (_, [status, data1, data2], said) => {
    expect(read(status, data1, data2)).toEqual(said);
  });

  it('of the pitch wheel goes as far down as up', () => {
    const bend = (data1: number, data2: number) => read(0xe0, data1, data2)[0][3];
    expect([bend(0, 0), bend(1, 0), bend(0, 64), bend(127, 127)]).toEqual([-8191, -8191, 0, 8191]);
    expect(bend(1, 96)).toBe(4097);
    expect(read(0xe6, 0, 64)[0].slice(0, 3)).toEqual(['bend', 7, 7]);
  });
});
