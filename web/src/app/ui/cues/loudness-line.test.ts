import { describe, expect, it } from 'vitest';
import { gridOf, loudnessLine, scaleOf, ticksOf } from './loudness-line';

const read = (points: string) => points.split(' ').map((point) => point.split(',').map(Number));

describe('the line of loudness', () => {
  const scale = { top: -12, bottom: -36 };

  it('glides as long as the cue fades, and stays', () => {
    const cues = [
      { at: 0, loudness: -36, fade: 5 },
      { at: 40, loudness: -12, fade: 20 },
    ];
    expect(read(loudnessLine(cues, 100, scale))).toEqual([
      [0, 100],
      [0, 100],
      [0, 100],
      [400, 100],
      [600, 0],
      [1000, 0],
    ]);
  });

  it('goes on from where an interrupted glide has come to', () => {
    const cues = [
      { at: 0, loudness: -36, fade: 0 },
      { at: 10, loudness: -12, fade: 20 },
      { at: 20, loudness: -36, fade: 0 },
    ];
    const points = read(loudnessLine(cues, 100, scale));
    // Half-way up when the next one comes.
    expect(points[4]).toEqual([200, 50]);
    expect(points.at(-1)).toEqual([1000, 100]);
  });

  it('has a scale that holds every cue, silence at its bottom, and bears its numbers', () => {
    const found = scaleOf([-20.4, -14.9, -Infinity]);
    expect(found).toEqual({ top: -12, bottom: -30 });
    expect(gridOf(found).map(({ level }) => level)).toEqual([-18, -24]);
    expect(loudnessLine([{ at: 0, loudness: -Infinity, fade: 0 }], 10, found)).toContain(',100.00');
    expect(loudnessLine([], 10, found)).toBe('');
  });

  it('has few enough numbers on its time to be read', () => {
    for (const span of [1, 45, 440, 3600, 7200]) {
      const ticks = ticksOf(span);
      expect(ticks.length).toBeGreaterThan(0);
      expect(ticks.length).toBeLessThanOrEqual(13);
    }
  });
});
