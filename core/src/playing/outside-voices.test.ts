import { beforeEach, describe, expect, it } from 'vitest';
import { OutsideVoices, type OutsideTarget } from './outside-voices.js';

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
  it('are kept back until shortly before their time, and bear it when they go', () => {
    voices.start(1, module, 60, 100, 1.05);
    voices.end(1, 1.2);
    pass(30);
    expect(sent).toEqual([]);
    pass(10);
    expect(sent).toEqual([ON]);
    pass(150);
    expect(sent).toEqual([ON, off(1.2)]);
    expect(voices.needsClock).toBe(false);
  });

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

  it('go on when only their end is called off, and end when told anew', () => {
    voices.start(1, module, 60, 100, 1.05);
    voices.end(1, 1.2);
    pass(60);
    voices.callOffEnd(1);
    pass(300);
    expect(sent).toEqual([ON]);
    voices.end(1, 0);
    expect(sent).toEqual([ON, off(0)]);
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

  it('are chosen anew once it is not known what stands behind the port', () => {
    const inBank = { ...module, bank: { msb: 0, lsb: 1 } };
    voices.prepare(inBank, 0, 0, 0);
    voices.forget();
    told();
    voices.prepare(inBank, 0, 0, 0);
    expect(told().filter(isChoice)).toHaveLength(3);
  });
});
