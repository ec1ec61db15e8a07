import { KIND, newTake, Roll, type WholeTake } from '@pentachord/core/logbook';
import type { StepTaken } from '@pentachord/core/model';

/** Songs of the demo’s night with their cues, as they might have been played: lengths in seconds. */
const SONGS: readonly [string, number, number, readonly string[]][] = [
  ['Saltglass', 370, 98, ['tide', 'swell', 'break', 'ebb']],
  ['Copper Weather', 440, 92, ['intro', 'verse', 'second verse', 'chorus', 'out']],
  ['Paper Lighthouse', 310, 124, ['lamp', 'stair', 'gallery', 'fog']],
  ['Ferry to Nowhere', 520, 74, ['quay', 'open water', 'landing']],
  ['Nine Bells', 350, 132, ['intro', 'nine', 'out']],
  ['Low Water Mark', 390, 87, ['verse', 'low', 'turn']],
  ['Lantern Song', 300, 104, ['light', 'carry', 'set down']],
];
/** A Saturday evening. */
const BEGAN = new Date(2027, 7, 14, 20, 16).getTime();

/** The same numbers every time, 0–1. */
function* chances(seed: number): Generator<number, never> {
  for (let now = seed; ;) {
    now = (now * 16_807) % 2_147_483_647;
    yield now / 2_147_483_647;
  }
}

/** A night of the demo as it might have been played: two hands that wander, a pedal, every cue. */
function aNight(): WholeTake {
  const chance = chances(11);
  const next = () => chance.next().value;
  const roll = new Roll(200_000);
  const steps: StepTaken[] = [];
  const tempos: WholeTake['take']['tempos'] = [];
  let keys = 0;
  let begin = 0;
  const metre = { beats: 4, unit: 4 } as const;
  for (const [at, [song, length, tempo, cues]] of SONGS.entries()) {
    tempos.push({ seconds: begin, tempo, metre, beat: 0 });
    cues.forEach((cue, i) => {
      roll.add(begin + (i * length) / cues.length, KIND.step, 0, 0, 0, steps.length, 0);
      steps.push({
        ...{ seconds: begin + (i * length) / cues.length, byHand: false, song, cue, patch: song },
        ...{ entryId: `entry-${at}`, songId: `song-${at}`, cueId: `cue-${at}-${i}` },
        patchId: `patch-${at}`,
      });
    });
    const centres = [68 + 6 * next(), 44 + 4 * next()];
    for (const [hand, status] of [0x90, 0x91].entries()) {
      if (hand === 1 && at % 3 === 0) continue;
      let key = centres[hand];
      for (let now = begin + 2; now < begin + length - 4; now += (hand + 0.6) * (0.2 + next())) {
        key += (next() - 0.5) * 9 + (centres[hand] - key) * 0.12;
        const struck = Math.round(key);
        const velocity = Math.round(35 + 80 * next());
        roll.add(now, KIND.message, status, struck, velocity, hand, 0);
        roll.add(now + 0.2 + next(), KIND.message, status - 0x10, struck, 64, hand, 0);
        keys++;
      }
    }
    for (let now = begin + 3; now < begin + length - 8; now += 5 + 4 * next()) {
      roll.add(now, KIND.message, 0xb0, 64, 127, 0, 0);
      roll.add(now + 3.4, KIND.message, 0xb0, 64, 0, 0, 0);
    }
    begin += length + (at === 2 ? 120 : 4);
  }
  const about = {
    ...{ id: 'a-night', name: 'Night Tide at Pier Nine', where: 'showtime' as const },
    ...{ began: BEGAN, showId: 'demo-show', show: 'Night Tide at Pier Nine' },
  };
  const take = {
    ...newTake(about),
    ...{ seconds: begin, keys, cues: steps.length, steps, tempos },
    songs: SONGS.map(([song]) => song),
    senders: [
      { port: 'stand-in upper keys', place: 'keys1' as const, name: 'Upper keys' },
      { port: 'stand-in lower keys', place: 'keys2' as const, name: 'Lower keys' },
    ],
    stretches: [{ id: 'solo', name: 'the good solo', from: 1380, until: 1650 }],
  };
  return { take, roll: roll.take() };
}

export const A_NIGHT = aNight();
