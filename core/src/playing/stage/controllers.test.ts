import { describe, expect, it } from 'vitest';
import { Controllers, expressionGain } from './controllers.js';

describe('where wheels and pedals stand', () => {
  it('is remembered for the layers that hear them', () => {
    const controllers = new Controllers();
    const hearsDevice = new Uint8Array(32);
    hearsDevice[1] = 1;
    const layer = { hearsDevice, channel: 2 } as Parameters<Controllers['bendFor']>[0];
    expect([
      controllers.modulationFor(layer),
      controllers.expressionFor(layer),
      controllers.bendFor(layer),
    ]).toEqual([0, 127, 0]);
    controllers.move(0, 2, 1, 127);
    controllers.move(1, 3, 1, 127);
    expect(controllers.modulationFor(layer)).toBe(0);
    controllers.move(1, 2, 1, 127);
    controllers.move(1, 2, 11, 40);
    controllers.moveBend(1, 2, -4096);
    expect(controllers.modulationFor(layer)).toBe(127);
    expect(controllers.expressionFor(layer)).toBe(40);
    expect(controllers.bendFor(layer)).toBe(-4096);
    expect(controllers.move(1, 2, 7, 100)).toBe(false);
  });

  it('is that of the one moved last, of two that a layer hears', () => {
    const controllers = new Controllers();
    const layer = { hearsDevice: new Uint8Array(32).fill(1), channel: 0 } as Parameters<
      Controllers['bendFor']
    >[0];
    controllers.move(0, 1, 11, 0);
    controllers.move(1, 2, 11, 110);
    expect(controllers.expressionFor(layer)).toBe(110);
    controllers.move(0, 1, 11, 50);
    expect(controllers.expressionFor(layer)).toBe(50);
  });

  it('goes with a device that changes its place, and is forgotten with one that leaves', () => {
    const controllers = new Controllers();
    const hearing = (device: number) => {
      const hearsDevice = new Uint8Array(32);
      hearsDevice[device] = 1;
      return { hearsDevice, channel: 0 } as Parameters<Controllers['bendFor']>[0];
    };
    controllers.move(0, 1, 11, 20);
    controllers.move(1, 2, 11, 90);
    controllers.moveDevices([1]);
    expect([0, 1].map((device) => controllers.expressionFor(hearing(device)))).toEqual([90, 127]);
  });

  it('holds for wheels, pedals and aftertouch alike', () => {
    const controllers = new Controllers();
    const hearing = (device: number) => {
      const hearsDevice = new Uint8Array(32);
      hearsDevice[device] = 1;
      return { hearsDevice, channel: 0 } as Parameters<Controllers['bendFor']>[0];
    };
    const all = (device: number) => [
      ...[controllers.modulationFor(hearing(device)), controllers.expressionFor(hearing(device))],
      ...[controllers.bendFor(hearing(device)), controllers.pressureFor(hearing(device))],
    ];
    expect(all(1)).toEqual([0, 127, 0, 0]);
    expect(controllers.move(1, 16, 1, 10)).toBe(true);
    expect(controllers.move(1, 16, 11, 20)).toBe(true);
    controllers.moveBend(1, 16, 5000);
    controllers.movePressure(1, 16, 40);
    expect([all(0), all(1), all(2)]).toEqual([
      [0, 127, 0, 0],
      [10, 20, 5000, 40],
      [0, 127, 0, 0],
    ]);
    // Of those that moved away, what is moved next counts; a new device begins at rest.
    controllers.moveDevices([-1, 0, 1]);
    expect([all(1), all(2)]).toEqual([
      [0, 127, 0, 0],
      [10, 20, 5000, 40],
    ]);
    controllers.move(2, 1, 1, 99);
    expect(all(2)[0]).toBe(99);
    controllers.move(2, 16, 1, 98);
    expect(all(2)[0]).toBe(98);
    controllers.move(0, 1, 11, 50);
    controllers.moveDevices([-1, 0]);
    expect([all(0), all(1)].map(([, expression]) => expression)).toEqual([127, 50]);
  });

  it('follows expression as the square of its way', () => {
    expect([0, 127].map(expressionGain)).toEqual([0, 1]);
    expect(20 * Math.log10(expressionGain(64))).toBeCloseTo(40 * Math.log10(64 / 127), 9);
  });
});
