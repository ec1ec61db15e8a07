import { describe, expect, it } from 'vitest';
import { DYNAMICS, dynamicOf } from './dynamics';

describe('dynamics beside velocities', () => {
  it('names each mark by itself and everything else by the nearest', () => {
    for (const { name, velocity } of DYNAMICS) expect(dynamicOf(velocity)).toBe(name);
    expect([1, 40, 57, 104, 127].map(dynamicOf)).toEqual(['pp', 'p', 'mf', 'ff', 'fff']);
  });

  it('never grows softer as velocity rises', () => {
    const order: string[] = DYNAMICS.map((d) => d.name);
    let before = 0;
    for (let velocity = 1; velocity <= 127; velocity++) {
      const now = order.indexOf(dynamicOf(velocity));
      expect(now).toBeGreaterThanOrEqual(before);
      before = now;
    }
  });
});
