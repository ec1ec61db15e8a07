import { beforeEach, describe, expect, it } from 'vitest';
import { NOW, ShowClock } from '../../clock/show-clock.js';
import { compiled, layer } from '../../testing/fixtures.js';
import { EVEN_TOUCH } from '../../touch/touch.js';
import type { Onset, PlayerOutput } from './player-output.js';
import { TimedVoices } from './timed-voices.js';

describe('the end of a chain', () => {
  let seconds: number;
  let told: string[];
  let clock: ShowClock;
  let first: number;
  const voicesOf = (changes = {}) => {
    const patch = compiled([layer('a', changes)]);
    const output = {
      start: (id: number, _p: unknown, _l: unknown, note: number, v: number, { at }: Onset) =>
        told.push(`start ${id}: ${note} v${v} at ${at.toFixed(2)}`),
      end: (id: number, at: number) => told.push(`end ${id} at ${at.toFixed(2)}`),
      takeBack: (id: number) => told.push(`back ${id}`),
      retime: (id: number, from: number, until: number) =>
        told.push(`${id} at ${from.toFixed(2)}, end at ${until.toFixed(2)}`),
      voicePressure: (id: number, value: number) => told.push(`lean ${id} ${value}`),
    };
    const voices = new TimedVoices(
      { patch, layer: patch.layers[0] },
      output as unknown as PlayerOutput,
      clock,
    );
    return {
      voices,
      press: (id: number, beat: number, key = 60, velocity = 90) =>
        voices.press(id, key, velocity, 1, first + beat),
      release: (id: number, beat: number) => voices.release(id, first + beat),
    };
  };
  const heard = () => told.splice(0);
  beforeEach(() => {
    [seconds, told] = [0, []];
    clock = new ShowClock(() => seconds);
    clock.join();
    first = clock.beats;
  });

  it('hands notes over with their times, or for at once', () => {
    const { press, release, voices } = voicesOf({ transpose: 12 });
    press(1, NOW);
    press(2, 1);
    release(2, 1.5);
    expect(heard()).toEqual([
      ...['start 1: 72 v90 at 0.00', 'start 2: 72 v90 at 0.50', 'end 2 at 0.75'],
    ]);
    seconds = 0.75;
    expect(voices.rest).toBe(false);
    release(1, NOW);
    expect(heard()).toEqual(['back 1', 'end 1 at 0.00']);
    expect(voices.rest).toBe(true);
  });

  it('calls off what would end before it begins, and what is let go before', () => {
    const { press, release, voices } = voicesOf();
    press(1, 1);
    release(1, 1);
    press(2, 1);
    release(2, NOW);
    press(3, 1);
    release(3, 0.4);
    expect(heard().filter((one) => !one.startsWith('start'))).toEqual(
      [1, 2, 3].flatMap((id) => [`back ${id}`, `end ${id} at 0.00`]),
    );
    expect(voices.rest).toBe(true);
    // It has ended already: nobody has to be told once more.
    press(4, 0.5);
    release(4, 0.6);
    seconds = 0.3;
    heard();
    release(4, NOW);
    release(4, NOW);
    release(99, NOW);
    expect(heard()).toEqual([]);
  });

  it('has what is to come at another time when the tempo changes, and leaves the rest', () => {
    const { press, release, voices } = voicesOf();
    press(1, 0.2);
    release(1, 0.4);
    press(2, 0.5);
    press(3, 2);
    release(3, 3);
    heard();
    seconds = 0.5;
    clock.tempo = 60;
    voices.retime();
    expect(heard().sort()).toEqual(['2 at 0.00, end at Infinity', '3 at 1.50, end at 2.50']);
  });

  it('sounds what lies within MIDI and is not silenced, and leans on what it sounds', () => {
    const { press, voices } = voicesOf();
    for (const key of [-1, 0, 127, 128]) press(key + 10, 0.1, key);
    expect(heard().map((one) => one.slice(0, 12))).toEqual(['start 10: 0 ', 'start 137: 1']);
    voices.lean(10, 33);
    voices.lean(138, 33);
    expect(heard()).toEqual(['lean 10 33']);
    const silent = voicesOf({ touch: { ...EVEN_TOUCH, inLow: 100, below: 'silent' } });
    silent.press(1, 0.1);
    expect(heard()).toEqual([]);
  });

  it('ends a note at once that is let go at this very beat', () => {
    const { press, release } = voicesOf();
    press(1, 0);
    seconds = 0.5;
    heard();
    release(1, 1);
    expect(heard()).toEqual(['back 1', 'end 1 at 0.00']);
  });

  it('forgets what has ended, at the latest when 64 are known', () => {
    const { press, release, voices } = voicesOf();
    for (let id = 1; id <= 64; id++) {
      press(id, 1);
      release(id, 2);
    }
    seconds = 2;
    heard();
    voices.lean(1, 5);
    expect(heard()).toEqual(['lean 1 5']);
    // Let go once more, one of them is forgotten by itself.
    release(2, NOW);
    voices.lean(2, 5);
    expect(heard()).toEqual([]);
    press(65, NOW);
    heard();
    voices.lean(1, 5);
    expect(heard()).toEqual(['lean 1 5']);
    press(66, NOW);
    heard();
    voices.lean(1, 5);
    expect(heard()).toEqual([]);
    voices.lean(65, 5);
    expect(heard()).toEqual(['lean 65 5']);
  });

  it('gives nothing another time that ends as the tempo changes', () => {
    const { press, release, voices } = voicesOf();
    press(1, 1);
    release(1, 2);
    seconds = 1;
    heard();
    voices.retime();
    expect(heard()).toEqual([]);
  });
});
