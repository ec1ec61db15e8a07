import { describe, expect, it } from 'vitest';
import { Controllers } from './controllers.js';

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
    controllers.moveBend(1, 2, -0.5);
    expect(controllers.modulationFor(layer)).toBe(127);
    expect(controllers.expressionFor(layer)).toBe(40);
    expect(controllers.bendFor(layer)).toBe(-0.5);
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
});
