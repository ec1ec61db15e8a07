import {
  CHANNEL_AFTERTOUCH,
  PROGRAM_CHANGE,
  SONG_POSITION,
  SONG_SELECT,
  SYSTEM_EXCLUSIVE,
} from '../midi/messages.js';
import type { StepTaken, Take } from '../model/show/take.js';
import type { LivePath } from '../playing/live-path.js';
import type { NowPlaying, ShowPlan } from '../playing/show/show-plan.js';
import type { Seconds } from '../units/times.js';
import { KIND, recordsOf } from './roll.js';
import type { WholeTake } from './whole-take.js';
import { chasedTo, messagesIn, type MessageTaken } from './came-in.js';
import { lastBy } from './standing.js';

/** What comes next when a take is played again: a message, the show at another place, or what holds for the night. */
export type TakenEvent =
  | { kind: 'message'; seconds: Seconds; message: MessageTaken }
  | { kind: 'step'; seconds: Seconds; step: StepTaken }
  | { kind: 'night'; seconds: Seconds; night: Take['nights'][number]['night'] };

/** Time code, of which nothing here makes use. */
const QUARTER_FRAME = 0xf1;

/** All that happened in a take, in order; at one moment as it was written down. */
export function eventsOf({ take: { steps, nights }, roll }: WholeTake): TakenEvent[] {
  const events: TakenEvent[] = nights.map(({ seconds, night }) => ({
    ...{ kind: 'night', seconds, night },
  }));
  for (const { seconds, kind, a: status, b: data1, c: data2, who } of recordsOf(roll))
    if (kind === KIND.message) {
      const message = { seconds, sender: who, status, data1, data2 };
      events.push({ kind: 'message', seconds, message });
    } else if (kind === KIND.step) events.push({ kind: 'step', seconds, step: steps[who] });
  return events.sort((a, b) => a.seconds - b.seconds);
}

/** The show's place before what came at a moment; where nothing was before, the first. */
export function stepBefore(steps: readonly StepTaken[], at: Seconds): StepTaken | null {
  return steps.findLast(({ seconds }) => seconds < at) ?? steps.at(0) ?? null;
}

/** Who is played to when a take is heard again. */
export interface PlaysAgain {
  message(message: MessageTaken): void;
  /** Goes to a place of the show, unless it is there. */
  step(step: StepTaken): void;
  night(night: Take['nights'][number]['night']): void;
}

/** A take that is played again: it hands over what is due whenever it is asked. */
export class TakeAgain {
  private readonly events: readonly TakenEvent[];
  private next = 0;

  constructor(private readonly whole: WholeTake) {
    this.events = eventsOf(whole);
  }

  /** Seconds of the take. */
  get length(): Seconds {
    return this.whole.take.seconds;
  }

  /** Has everything stand as it stood at a moment: the night, the show's place, every controller and pedal. */
  beginAt(at: Seconds, to: PlaysAgain): void {
    const { take, roll } = this.whole;
    const step = stepBefore(take.steps, at);
    const night = lastBy(take.nights, at)?.night;
    if (night) to.night(night);
    if (step) to.step(step);
    for (const message of chasedTo(messagesIn(roll), at)) to.message(message);
    this.next = this.events.findIndex(({ seconds }) => seconds >= at);
    if (this.next < 0) this.next = this.events.length;
  }

  /** When the next thing is due, seconds of the take; infinite when nothing is left. */
  get nextAt(): Seconds {
    return this.events.at(this.next)?.seconds ?? Infinity;
  }

  /** Hands over all that is due up to a moment. */
  playUntil(until: Seconds, to: PlaysAgain): void {
    for (let event = this.events.at(this.next); event && event.seconds <= until;) {
      this.next++;
      if (event.kind === 'message') to.message(event.message);
      else if (event.kind === 'step') to.step(event.step);
      else to.night(event.night);
      event = this.events.at(this.next);
    }
  }
}

/**
 * Plays a take through a path: messages by cables of their own beside those of ports, places where the show still has them.
 * What the plan has no more is passed over: what was there before goes on.
 */
export function playsThrough(
  path: LivePath,
  plan: ShowPlan,
  place: NowPlaying,
  { senders, where }: Take,
  receive: (port: string, bytes: readonly number[], cable: string) => void,
): PlaysAgain {
  const entries = new Set(plan.show.order.map(({ id }) => id));
  return {
    message: (message) => {
      const { port } = senders[message.sender];
      receive(port, bytesOfMessage(message), `take ${port}`);
    },
    step: (step) => {
      if (path.runner.isAt(step)) return;
      const { entryId, songId, cueId, patchId } = step;
      const isThere =
        (entryId === null || entries.has(entryId)) &&
        (patchId === null || patchId in plan.patches) &&
        (cueId === null || cueId in plan.cues);
      if (!isThere) return;
      const at = { entryId, songId, cueId, patchId, asCue: cueId !== null };
      path.follow(plan, { ...place, ...at, showtime: where === 'showtime' });
    },
    night: (night) => path.runner.takeNight(night),
  };
}

/** The bytes of a message as they stood on the cable. */
export function bytesOfMessage({ status, data1, data2 }: MessageTaken): number[] {
  if (status === SONG_POSITION) return [status, data1, data2];
  if (status === QUARTER_FRAME || status === SONG_SELECT) return [status, data1];
  if (status >= SYSTEM_EXCLUSIVE) return [status];
  const kind = status & 0xf0;
  const isShort = kind === PROGRAM_CHANGE || kind === CHANNEL_AFTERTOUCH;
  return isShort ? [status, data1] : [status, data1, data2];
}
