import {
  CHANNEL_AFTERTOUCH,
  PROGRAM_CHANGE,
  SONG_POSITION,
  SONG_SELECT,
  SYSTEM_EXCLUSIVE,
} from '../midi/messages.js';
import type { StepTaken, Take } from '../model/show/take.js';
import type { Seconds } from '../units/times.js';
import type { WholeTake } from './bytes.js';
import { chasedTo, messagesIn, type MessageTaken } from './came-in.js';
import { lastBy } from './standing.js';

/** What comes next when a take is played again: a message, the show at another place, or what holds for the night. */
export type TakenEvent =
  | { kind: 'message'; seconds: Seconds; message: MessageTaken }
  | { kind: 'step'; seconds: Seconds; step: StepTaken }
  | { kind: 'night'; seconds: Seconds; night: Take['nights'][number]['night'] };

/** Time code, of which nothing here makes use. */
const QUARTER_FRAME = 0xf1;

/** What comes first at one moment: the night, the place to which a hand went, messages, and the place to which they led. */
function turnOf(event: TakenEvent): number {
  if (event.kind === 'night') return 0;
  return event.kind === 'message' ? 2 : event.step.byHand ? 1 : 3;
}

/**
 * All that happened in a take, in order. A place to which a message has led is there once more behind it: a show that was
 * changed since may lead elsewhere.
 */
export function eventsOf(
  { steps, nights }: Pick<Take, 'steps' | 'nights'>,
  messages: readonly MessageTaken[],
): TakenEvent[] {
  // Of several to which messages of one moment have led the last one counts.
  const reached = steps.filter(
    (step, i) => step.byHand || steps.at(i + 1)?.seconds !== step.seconds,
  );
  const events: TakenEvent[] = [
    ...nights.map(({ seconds, night }) => ({ kind: 'night' as const, seconds, night })),
    ...reached.map((step) => ({ kind: 'step' as const, seconds: step.seconds, step })),
    ...messages.map((message) => ({ kind: 'message' as const, seconds: message.seconds, message })),
  ];
  return events.sort((a, b) => a.seconds - b.seconds || turnOf(a) - turnOf(b));
}

/** The show's place, and what held for the night, just before what came in at a moment. */
export function placeBefore({ steps, nights }: Pick<Take, 'steps' | 'nights'>, at: Seconds) {
  const step = steps.findLast(({ seconds, byHand }) => seconds < at || (byHand && seconds === at));
  return { step: step ?? null, night: lastBy(nights, at)?.night ?? null };
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
    this.events = eventsOf(whole.take, messagesIn(whole.roll));
  }

  /** Seconds of the take. */
  get length(): Seconds {
    return this.whole.take.seconds;
  }

  /** Has everything stand as it stood at a moment: the night, the show's place, every controller and pedal. */
  beginAt(at: Seconds, to: PlaysAgain): void {
    const { take, roll } = this.whole;
    const { step, night } = placeBefore(take, at);
    if (night) to.night(night);
    if (step) to.step(step);
    for (const message of chasedTo(messagesIn(roll), at)) to.message(message);
    this.next = this.events.findIndex(({ seconds }) => seconds >= at);
    if (this.next < 0) this.next = this.events.length;
    // The place it stands at is taken already.
    for (let event = this.events.at(this.next); event?.seconds === at && turnOf(event) < 2;) {
      this.next++;
      event = this.events.at(this.next);
    }
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

/** The bytes of a message as they stood on the cable. */
export function bytesOfMessage({ status, data1, data2 }: MessageTaken): number[] {
  if (status === SONG_POSITION) return [status, data1, data2];
  if (status === QUARTER_FRAME || status === SONG_SELECT) return [status, data1];
  if (status >= SYSTEM_EXCLUSIVE) return [status];
  const kind = status & 0xf0;
  const isShort = kind === PROGRAM_CHANGE || kind === CHANNEL_AFTERTOUCH;
  return isShort ? [status, data1] : [status, data1, data2];
}
