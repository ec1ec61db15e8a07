import { beforeEach, describe, expect, it } from 'vitest';
import { BEND_FULL } from '../../midi/messages.js';
import type { OutsideTarget } from './outside-target.js';
import { OutsideVoices, volumeOf } from './outside-voices.js';

let now: number;
let sent: { bytes: number[]; at: number }[];
let voices: OutsideVoices;
let module: OutsideTarget;
beforeEach(() => {
  now = 1;
  sent = [];
  voices = new OutsideVoices(() => now);
  const port = {
    name: 'module',
    send: (bytes: readonly number[], at: number) => sent.push({ bytes: [...bytes], at }),
  };
  module = { port, channel: 3, bank: null, program: 7 };
});
const ON = { bytes: [0x92, 60, 100], at: 1.05 };
const off = (at: number) => ({ bytes: [0x82, 60, 64], at });
/** Lets time pass in milliseconds, in steps as coarse as a busy page makes them. */
const pass = (milliseconds: number) => {
  now += milliseconds / 1000;
  voices.advance();
};

describe('notes of an outside module', () => {
  it('go in the order of their times, whatever order they were told in', () => {
    voices.start(2, module, 62, 90, 1.04);
    voices.start(1, module, 60, 100, 1.02);
    voices.end(1, 1.04);
    pass(60);
    expect(sent.map(({ bytes }) => bytes.slice(0, 2))).toEqual([
      [0x92, 60],
      [0x92, 62],
      [0x82, 60],
    ]);
  });

  it('never sound when they are taken back before they were handed over', () => {
    voices.start(1, module, 60, 100, 1.05);
    voices.end(1, 1.2);
    expect(voices.takeBack(1)).toBe(true);
    pass(300);
    expect(sent).toEqual([]);
    expect(voices.takeBack(1)).toBe(false);
  });

  it('end as soon as they have come when their beginning was handed over and cannot be taken back', () => {
    voices.start(1, module, 60, 100, 1.05);
    voices.end(1, 1.2);
    pass(40);
    expect(voices.takeBack(1)).toBe(true);
    pass(300);
    expect(sent).toEqual([ON, off(1.05)]);
  });

  it('come at another time when they are told one, and begin only once', () => {
    voices.start(1, module, 60, 100, 1.05);
    voices.end(1, 1.2);
    expect(voices.retime(1, 1.07, 1.3)).toBe(true);
    pass(60);
    expect(sent).toEqual([{ ...ON, at: 1.07 }]);
    // Handed over already it stays, and only its end moves; without an end it goes on.
    voices.retime(1, 1.09, Infinity);
    pass(400);
    expect(sent).toHaveLength(1);
    voices.end(1, 0);
    expect(sent).toEqual([{ ...ON, at: 1.07 }, off(0)]);
    expect(voices.retime(1, 2, 3)).toBe(false);
  });

  it('never end before they begin, nor cut the next of the same key', () => {
    voices.start(1, module, 60, 100, 1.05);
    pass(40);
    voices.end(1, 0);
    expect(sent).toEqual([ON, off(1.05)]);
    // The end that was handed over comes first, and then the other note.
    voices.start(2, module, 60, 100, 0);
    expect(sent.at(-1)).toEqual(ON);
    voices.end(2, 0);
    expect(sent.at(-1)).toEqual(off(1.05));
    pass(100);
    voices.start(3, module, 60, 100, 0);
    expect(sent.at(-1)).toEqual({ ...ON, at: 0 });
  });

  it('are forgotten with everything that waits when all is silenced', () => {
    voices.prepare(module, -6, 0, 0);
    voices.start(1, module, 60, 100, 1.05);
    sent.length = 0;
    voices.silence();
    pass(300);
    expect(sent.map(({ bytes }) => bytes[1])).toEqual([120, 121, 123]);
  });
});

describe('the volume of an outside module', () => {
  it('glides in steps to the level asked for, and then rests', () => {
    voices.prepare(module, 0, 0, 0);
    sent.length = 0;
    voices.prepare(module, -20, 0, 0.5);
    for (let i = 0; i < 60; i++) pass(10);
    const volumes = sent.filter(({ bytes }) => bytes[1] === 7).map(({ bytes }) => bytes[2]);
    expect(volumes.length).toBeGreaterThan(10);
    expect(volumes).toEqual([...volumes].sort((a, b) => b - a));
    // −20 dB: 127 · 10^(−20 / 40).
    expect(volumes.at(-1)).toBe(40);
    expect(voices.needsClock).toBe(false);
  });

  it('glides on when it is asked for the same again', () => {
    voices.prepare(module, 0, 0, 0);
    voices.prepare(module, -20, 0, 4);
    for (let i = 0; i < 10; i++) pass(10);
    voices.prepare(module, -20, 0, 0.03);
    for (let i = 0; i < 10; i++) pass(10);
    expect(sent.filter(({ bytes }) => bytes[1] === 7).at(-1)?.bytes[2]).toBeGreaterThan(115);
  });
});

describe('bank and program of an outside module', () => {
  const told = () => sent.splice(0).map(({ bytes }) => [...bytes]);
  const isChoice = ([status, first]: number[]) =>
    (status & 0xf0) === 0xc0 || ((status & 0xf0) === 0xb0 && (first === 0 || first === 32));

  it('are chosen in this order, and only as far as they are otherwise than before', () => {
    const choices = (target: OutsideTarget) => {
      voices.prepare(target, 0, 0, 0);
      return told().filter(isChoice);
    };
    const inBank = { ...module, bank: { msb: 1, lsb: 3 } };
    expect(choices(inBank)).toEqual([
      [0xb2, 0, 1],
      [0xb2, 32, 3],
      [0xc2, 7],
    ]);
    expect(choices(inBank)).toEqual([]);
    expect(choices({ ...inBank, program: 8 })).toEqual([[0xc2, 8]]);
    // The same program of another bank is another program.
    expect(choices({ ...inBank, program: 8, bank: { msb: 1, lsb: 4 } })).toEqual([
      [0xb2, 0, 1],
      [0xb2, 32, 4],
      [0xc2, 8],
    ]);
    // Without a bank the module stays in the one it is in.
    expect(choices({ ...inBank, program: 9, bank: null })).toEqual([[0xc2, 9]]);
  });

  it('are told anew to another device behind the port, with all else that the one before was told', () => {
    const inBank = { ...module, bank: { msb: 0, lsb: 1 } };
    voices.prepare(inBank, -6, 1, 0);
    voices.prepare({ ...module, port: { ...module.port, name: 'other' } }, -6, 0, 0);
    voices.control(inBank, 74, 9);
    voices.bend(inBank, BEND_FULL);
    voices.start(1, inBank, 60, 100, 0);
    told();
    voices.renew('module');
    expect(told()).toEqual([
      ...[120, 121, 123].map((mode) => [0xb2, mode, 0]),
      ...[
        [0xb2, 0, 0],
        [0xb2, 32, 1],
        [0xc2, 7],
      ],
      ...[
        [0xb2, 7, volumeOf(-6)],
        [0xb2, 10, 127],
        [0xb2, 74, 9],
        [0xe2, 127, 127],
      ],
    ]);
    expect(voices.end(1, 0)).toBe(false);
  });
});

describe('what an outside module is told', () => {
  const bytes = () => sent.splice(0).map(({ bytes: told }) => [...told]);

  it('is known to be reset by a silence: wheels go back to where they stood, pedals are up', () => {
    for (const [controller, value] of [
      [1, 30],
      [66, 127],
      [74, 9],
    ])
      voices.control(module, controller, value);
    voices.silence();
    expect([1, 66, 74, 67].map((controller) => voices.toldOf(module, controller))).toEqual([
      ...[30, 0, 9, -1],
    ]);
  });

  it('is the end of a note with the last voice that holds it, on its own channel', () => {
    const other = { ...module, channel: 4 };
    for (const [voice, target] of [
      [1, module],
      [2, module],
      [3, other],
    ] as const)
      voices.start(voice, target, 60, 100, 0);
    bytes();
    voices.end(1, 0);
    expect(bytes()).toEqual([]);
    voices.end(3, 0);
    expect(bytes()).toEqual([[0x83, 60, 64]]);
    voices.end(2, 0);
    expect(bytes()).toEqual([[0x82, 60, 64]]);
    voices.start(4, module, 60, 90, 0);
    voices.end(4, 0);
    expect(bytes()).toEqual([
      [0x92, 60, 90],
      [0x82, 60, 64],
    ]);
  });

  it('glides no more often than every 25 ms, and each channel by itself', () => {
    const other = { ...module, channel: 4 };
    voices.prepare(module, 0, 0, 0);
    voices.prepare(other, 0, 0, 0);
    bytes();
    voices.prepare(module, -60, 0, 1);
    expect(voices.needsClock).toBe(true);
    bytes();
    let told = 0;
    let stretch = 0;
    for (let i = 0; i < 1000; i++) {
      pass(1);
      const now = bytes();
      expect(now.every(([status, controller]) => status === 0xb2 && controller === 7)).toBe(true);
      stretch++;
      if (now.length === 0) continue;
      if (told > 0) expect(stretch).toBeGreaterThanOrEqual(25);
      stretch = 0;
      told++;
    }
    pass(30);
    expect(told).toBeGreaterThan(30);
    expect(voices.needsClock).toBe(false);
    // Half-way in time is half-way in dB.
    voices.prepare(other, -20, 0, 1);
    pass(500);
    expect(bytes().at(-1)).toEqual([0xb3, 7, volumeOf(-10)]);
  });

  it('is silence on every channel that was used, once each', () => {
    const other = { ...module, channel: 4 };
    for (const target of [module, other, module]) voices.prepare(target, 0, 0, 0);
    voices.start(1, module, 60, 100, 0);
    bytes();
    voices.silence();
    expect(bytes()).toEqual([
      ...[120, 121, 123].map((mode) => [0xb2, mode, 0]),
      ...[120, 121, 123].map((mode) => [0xb3, mode, 0]),
    ]);
    // A note that was held then is not counted any more.
    voices.start(2, module, 60, 100, 0);
    voices.end(2, 0);
    expect(bytes().at(-1)).toEqual([0x82, 60, 64]);
    // Wheels and pedals stand where they stood, and what was handed over ahead ends as it comes.
    voices.control(module, 11, 20);
    voices.bend(module, -BEND_FULL);
    voices.start(3, module, 64, 100, now + 0.01);
    voices.start(4, module, 65, 100, now + 9);
    voices.advance();
    bytes();
    voices.silence();
    expect(bytes().slice(3)).toEqual([
      ...[
        [0xb2, 11, 20],
        [0xe2, 1, 0],
      ],
      ...[120, 121, 123].map((mode) => [0xb3, mode, 0]),
      [0x82, 64, 64],
    ]);
    pass(10_000);
    expect([bytes(), voices.needsClock]).toEqual([[], false]);
  });
});
