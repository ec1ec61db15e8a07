import {
  MOST_LAYERS_TAKEN,
  MOST_LONG_MESSAGES,
  MOST_NIGHTS_TAKEN,
  MOST_SENDERS,
  MOST_STEPS_TAKEN,
  MOST_TEMPOS_TAKEN,
  type StepTaken,
  type Take,
} from '../model/show/take.js';
import type { Seconds } from '../units/times.js';
import type { WholeTake } from './whole-take.js';
import { KIND, NO_END, RECORD_BYTES, recordsOf, Roll } from './roll.js';

/**
 * What was played goes on with what was played later, so many seconds after the first began: the heading of both, and the roll of
 * the later one as it follows that of the first.
 */
export function goneOnWith(first: Take, { take, roll }: WholeTake, after: Seconds): WholeTake {
  const senders = [...first.senders];
  const senderOf = take.senders.map((sender) => {
    const { port, place } = sender;
    return placed(senders, MOST_SENDERS, sender, (one) => one.port === port && one.place === place);
  });
  const layers = [...first.layers];
  const layerOf = take.layers.map((layer) => {
    const { layerId, patchId } = layer;
    return placed(
      layers,
      MOST_LAYERS_TAKEN,
      layer,
      (one) => one.layerId === layerId && one.patchId === patchId,
    );
  });
  const later = <T extends { seconds: Seconds }>(before: T[], now: T[], most: number): T[] =>
    [...before, ...now.map((one) => ({ ...one, seconds: one.seconds + after }))].slice(0, most);
  // Where it was it is still: that is no other place.
  const [again] = take.steps;
  const last = first.steps.at(-1);
  const isThere = again !== undefined && last !== undefined && isSamePlace(again, last);
  const dropped = isThere ? 1 : 0;
  const written = new Roll(roll.length / RECORD_BYTES + 1);
  for (const { seconds, kind, a, b, c, who, more } of recordsOf(roll)) {
    const then = seconds === NO_END ? NO_END : seconds + after;
    const isOfLayer = kind === KIND.began || kind === KIND.level || kind === KIND.pan;
    const place = kind === KIND.step ? who - dropped + first.steps.length : who;
    if (kind === KIND.step && (who < dropped || place >= MOST_STEPS_TAKEN)) continue;
    const whose = kind === KIND.message ? senderOf[who] : isOfLayer ? layerOf[who] : place;
    written.add(then, kind, a, b, c, whose, more);
  }
  const long = take.long.map((one) => ({ ...one, sender: senderOf[one.sender] }));
  return {
    take: {
      ...first,
      ...{ senders, layers, seconds: after + take.seconds },
      steps: later(first.steps, take.steps.slice(dropped), MOST_STEPS_TAKEN),
      tempos: later(first.tempos, take.tempos, MOST_TEMPOS_TAKEN),
      nights: later(first.nights, take.nights, MOST_NIGHTS_TAKEN),
      long: later(first.long, long, MOST_LONG_MESSAGES),
      songs: [...new Set([...first.songs, ...take.songs])].slice(0, 500),
      keys: first.keys + take.keys,
      cues: first.cues + take.cues - (isThere && again.cueId !== null ? 1 : 0),
      lost: first.lost + take.lost,
    },
    roll: written.take(),
  };
}

function isSamePlace(a: StepTaken, b: StepTaken): boolean {
  return (
    a.entryId === b.entryId &&
    a.songId === b.songId &&
    a.cueId === b.cueId &&
    a.patchId === b.patchId
  );
}

/** Where something stands in a list, to which it is added where it is not there. */
function placed<T>(list: T[], most: number, thing: T, isSame: (one: T) => boolean): number {
  const at = list.findIndex(isSame);
  if (at >= 0) return at;
  return list.length < most ? list.push(thing) - 1 : 0;
}
