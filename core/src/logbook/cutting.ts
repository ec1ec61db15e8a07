import type { Take } from '../model/show/take.js';
import { beatsOfSeconds, type Seconds } from '../units/times.js';
import { stepBefore } from './again.js';
import type { WholeTake } from './whole-take.js';
import { chasedTo, messagesIn } from './came-in.js';
import { KIND, NO_END, recordsOf, Roll } from './roll.js';
import { lastBy } from './standing.js';

/** A stretch of a take as a take of its own: it begins where the show and every controller, level and pan stood by then. */
export function stretchOf({ take, roll }: WholeTake, from: Seconds, until: Seconds): WholeTake {
  const end = Math.min(until, take.seconds);
  const moved = <T extends { seconds: Seconds }>(list: readonly T[], first: T | null): T[] => [
    ...(first ? [{ ...first, seconds: 0 }] : []),
    ...list
      .filter(({ seconds }) => seconds > from && seconds < end)
      .map((one) => ({ ...one, seconds: one.seconds - from })),
  ];
  const step = stepBefore(take.steps, from);
  /** Places of the steps of the whole in the stretch. */
  const steps = new Map<number, number>();
  const stepsIn: Take['steps'] = step ? [{ ...step, seconds: 0, byHand: true }] : [];
  take.steps.forEach((one, i) => {
    if (one === step || one.seconds < from || one.seconds >= end) return;
    steps.set(i, stepsIn.push({ ...one, seconds: one.seconds - from }) - 1);
  });
  const tempo = lastBy(take.tempos, from);
  const cut: Take = {
    ...take,
    seconds: Math.max(0, end - from),
    steps: stepsIn,
    tempos: moved(
      take.tempos,
      tempo && {
        ...tempo,
        beat: tempo.beat + beatsOfSeconds(from - tempo.seconds, tempo.tempo),
      },
    ),
    nights: moved(take.nights, lastBy(take.nights, from)),
    long: moved(take.long, null),
    stretches: [],
  };
  cut.cues = cut.steps.filter(({ cueId }) => cueId !== null).length;
  cut.songs = [...new Set(cut.steps.map(({ song }) => song).filter((song) => song !== ''))];
  const written = new Roll(roll.length / 16 + 65_536);
  for (const { sender, status, data1, data2 } of chasedTo(messagesIn(roll), from))
    written.add(0, KIND.message, status, data1, data2, sender, 0);
  if (step) written.add(0, KIND.step, 0, 0, 0, 0, 0);
  cut.keys = 0;
  for (const { kind, who, more } of standingSettings(roll, from))
    written.add(0, kind, 0, 0, 0, who, more);
  for (const { seconds, kind, a, b, c, who, more } of recordsOf(roll)) {
    if (kind === KIND.step && !steps.has(who)) continue;
    const isEnd = kind !== KIND.message && kind !== KIND.began;
    const isIn = seconds >= from && (seconds < end || isEnd);
    if (!isIn && !(kind === KIND.endsThen && seconds === NO_END)) continue;
    if (kind === KIND.message && (a & 0xf0) === 0x90 && c > 0) cut.keys++;
    const then = seconds === NO_END ? NO_END : seconds - from;
    const whose = kind === KIND.step ? (steps.get(who) ?? 0) : who;
    written.add(then, kind, a, b, c, whose, more);
  }
  return { take: cut, roll: written.take() };
}

/** Where levels and pans stood just before a moment. */
function standingSettings(roll: Uint8Array, at: Seconds) {
  const latest = new Map<number, { kind: number; who: number; more: number }>();
  for (const { seconds, kind, who, more } of recordsOf(roll))
    if ((kind === KIND.level || kind === KIND.pan) && seconds < at)
      latest.set(who * 16 + kind, { kind, who, more });
  return latest.values();
}
