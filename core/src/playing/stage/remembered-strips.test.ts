import fc from 'fast-check';
import { expect, it } from 'vitest';
import { BLOCK, blockOutput } from '../../sampler/block.js';
import { COMMAND, CommandWriter } from '../../sampler/command-ring.js';
import { METERS } from '../../sampler/meters.js';
import { Strips } from '../../sampler/strips.js';
import { TOUCH_UP } from './layer-levels.js';
import { RememberedStrips } from './remembered-strips.js';

/** The strips of a worklet, which obeys at once. */
class Obeying extends CommandWriter {
  time = 0;
  private readonly block = {
    ...{ both: new Float32Array(BLOCK), left: new Float32Array(BLOCK) },
    right: new Float32Array(BLOCK),
  };
  private readonly strips = new Strips(48_000, new Float32Array(METERS), this.block);

  send(): boolean {
    this.strips.moment[0] = this.time;
    this.strips.obey(this.record);
    return true;
  }

  /** All that a voice on a strip would be and sound like at a time. */
  heard(s: number, time: number): number[] {
    const { strips, block } = this;
    const output = blockOutput();
    strips.moment[0] = time;
    strips.turn(s);
    strips.wake(s);
    strips.begin(0, BLOCK);
    block.left.forEach((_, i) => (block.left[i] = Math.sin(i * i)));
    block.right.fill(0.5);
    strips.finish(s, 0, BLOCK, output);
    const ends = [output.mix, ...output.buses, ...output.pairs].flatMap(({ left, right }) => [
      ...[left[9], left[BLOCK - 1], right[BLOCK - 1]],
    ]);
    const { bendNow, vibratoNow, openedNow, attack, release } = strips;
    return [...[bendNow, vibratoNow, openedNow, attack, release].map((all) => all[s]), ...ends];
  }
}

/** A way to one worklet, later to another. */
class Way extends CommandWriter {
  commands = 0;

  constructor(public to?: CommandWriter) {
    super();
  }

  send(): boolean {
    this.commands++;
    this.to?.record.set(this.record);
    return this.to?.send() ?? true;
  }
}

/** Strips on either side of the numbers in which a bend says whom it means. */
const STRIPS = [0, 31, 32, 63, 64, 95, 96, 127];
const strip = fc.constantFrom(...STRIPS);
const from = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const level = from(-60, 12);
// What is there in a moment is taken for there.
const seconds = fc.oneof(fc.constant(0), from(TOUCH_UP + 0.001, 4));
const words = fc.array(fc.constantFrom(0, 1, 0x80000000, 0x80000001), {
  ...{ minLength: 4, maxLength: 4 },
});
const order = fc.oneof(
  fc.tuple(fc.constant(COMMAND.level), strip, level, seconds),
  fc.tuple(fc.constantFrom(COMMAND.modulation, COMMAND.expression), strip, from(0, 1), seconds),
  fc.tuple(fc.constant(COMMAND.send), strip, fc.nat(2), level, seconds),
  fc.tuple(fc.constant(COMMAND.pan), strip, from(-1, 1)),
  fc.tuple(fc.constant(COMMAND.tone), strip, from(-12, 12), from(-12, 12)),
  fc.tuple(fc.constant(COMMAND.output), strip, fc.nat(3)),
  fc.tuple(fc.constant(COMMAND.timbre), strip, from(-1, 1), from(-1, 1), from(-1, 1), from(0, 1)),
  fc.tuple(from(-12, 12), words).map(([bend, all]) => [COMMAND.bend, bend, ...all]),
  fc.tuple(fc.constant(COMMAND.reset), strip),
);

it('tell a worklet that knows nothing all that the one before was told, glides from where they are', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(order, from(0, 1)), { maxLength: 40 }),
      from(0, 4),
      (told, later) => {
        const [before, after] = [new Obeying(), new Obeying()];
        const way = new Way(before);
        const remembered = new RememberedStrips(way, () => before.time);
        for (const s of STRIPS) {
          remembered.write(COMMAND.reset, 0, s);
          remembered.write(COMMAND.level, 0, s, 0, 0);
        }
        for (const [[command, ...values], wait] of told) {
          const [a, b, c, d, e] = values;
          remembered.write(command, 0, a, b, c, d, e);
          before.time += wait;
        }
        way.to = after;
        after.time = before.time;
        remembered.tellAgain();
        const at = before.time + later;
        for (const s of STRIPS) {
          const again = after.heard(s, at);
          before
            .heard(s, at)
            .forEach((one, i) => expect(again[i], `strip ${s}`).toBeCloseTo(one, 6));
        }
      },
    ),
  );
});

it('tell nothing of strips of which nothing was asked', () => {
  const way = new Way();
  const remembered = new RememberedStrips(way, () => 0);
  remembered.write(COMMAND.end, 0, 3);
  remembered.write(COMMAND.level, 0, 200, -6, 0);
  remembered.tellAgain();
  expect(way.commands).toBe(2);
});
