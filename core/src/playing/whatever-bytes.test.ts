import { describe, expect, it } from 'vitest';
import { MOST_EXCLUSIVE } from '../midi/messages.js';
import { newChooser } from '../model/patch/chooser.js';
import { usualManner, type Tie } from '../model/patch/tie.js';
import { newLayer } from '../model/patch/layer.js';
import { patchOf, plan, SmallShow } from '../testing/small-show.js';

const place = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: false },
};

/** Numbers from 0 up to a limit, the same with every run (mulberry32). */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) % below;
  };
}

describe('whatever bytes come', () => {
  it('a million of them throw nothing and leave nothing, through parser, host, ties, choosers and player', () => {
    const small = new SmallShow();
    const layers = [
      ...patchOf('first', 'house').layers,
      {
        ...newLayer('other', 'Other', 'sound'),
        velocities: { ...newLayer('', '', '').velocities, low: 60 },
      },
    ];
    const chooser = {
      ...newChooser('chooser', 'Chooser', layers),
      controls: [
        { place: 'keys1', message: { kind: 'programs' }, picks: 'position' } as const,
        { place: 'keys1', message: { kind: 'controller', controller: 30 }, picks: 'next' } as const,
      ],
    };
    const wheel: Tie = {
      ...{ id: 'wheel', place: 'keys1', message: { kind: 'controller', controller: 1 } },
      ...{ target: { kind: 'layer', layerId: 'layer', parameter: 'level' }, from: -24, to: 0 },
      ...usualManner({ kind: 'pedal' }),
    };
    const first = { ...patchOf('first', 'house'), layers, choosers: [chooser], controls: [wheel] };
    small.live.follow({ ...plan, patches: { ...plan.patches, first } }, place);
    let long = 0;
    small.host.tapLong(() => long++);
    const number = numbers(7);
    const ports = ['upper port', 'pad port', 'module port', 'borrowed'];
    for (let count = 0; count < 1_000_000;) {
      const bytes = Array.from({ length: 1 + number(40) }, () =>
        // Mostly such as make messages; now and then one that is no byte at all.
        number(50) === 0 ? 300 : number(3) === 0 ? 0x80 + number(0x80) : number(0x80),
      );
      count += bytes.length;
      small.host.receive(ports[number(ports.length)], bytes);
      if (number(100) === 0) small.commands();
    }
    expect(long).toBeGreaterThan(1000);
    expect(small.host.brokenBytes).toBeGreaterThan(1000);
    small.player.allNotesOff();
    expect(small.player.voicesHeld).toBe(0);
    small.commands();
    // It plays on as if nothing had been.
    small.host.receive('upper port', [0xf7, 0xb0, 121, 0, 0x90, 60, 100]);
    small.host.receive('upper port', [0x80, 60, 0]);
    expect(small.player.voicesHeld).toBe(0);
    expect(small.player.lastNote).toMatchObject({ device: 0, key: 60 });
  });

  it('exclusive ones are told whole, unended, or as far as they are kept', () => {
    const small = new SmallShow();
    const told: [number, number, string | null][] = [];
    small.host.tapLong((_time, _port, status, bytes, length, fault) =>
      told.push([status, length, fault ?? (bytes.length > 0 ? String(bytes[0]) : null)]),
    );
    small.host.receive('upper port', [0xf0, 0x7d, 1, 2]);
    small.host.receive('upper port', [3, 0xf7]);
    small.host.receive('upper port', [0xf0, 5, 0x90, 60, 1]);
    const megabyte = new Uint8Array(1_000_000);
    small.host.receive('upper port', [0xf0]);
    small.host.receive('upper port', megabyte);
    small.host.receive('upper port', [0xf7, 7]);
    expect(told).toEqual([
      [0xf0, 4, '125'],
      [0xf0, 1, 'unended'],
      [0xf0, MOST_EXCLUSIVE, 'too long'],
      [0, 1, null],
    ]);
  });
});
