import { messagesIn, strokesOf, type Stroke, type WholeTake } from '@pentachord/core/logbook';
import { partsOfPlace, placeInWords, type Take } from '@pentachord/core/model';

/** Strengths that are told apart by their ink, softest first: velocities up to these. */
const INKS = [48, 80, 104, 127];
/** Share of the whole that the shortest stroke is drawn long. */
const SHORTEST = 0.0008;
/** Keys that a lane shows at least. */
const LEAST_KEYS = 24;

/** A keyboard's part of the roll. */
export interface Lane {
  sender: number;
  name: string;
  /** The keys that it shows. */
  low: number;
  high: number;
  /** Strokes of each ink, softest first, in seconds from left to right and keys from below. */
  inks: string[];
  keys: number;
}

/** A song, talk or what else was played, from where to where, seconds. */
export interface Leg {
  from: number;
  until: number;
  name: string;
}

/** What is drawn of a take. */
export interface RollLanes {
  strokes: Stroke[];
  lanes: Lane[];
  pedals: string;
  legs: Leg[];
  cues: { at: number; name: string }[];
}

/** A take as it is drawn: a lane for every place whose keys were struck, pedals, songs and cues. */
export function lanesOf({ take, roll }: WholeTake): RollLanes {
  const { keys: strokes, pedals } = strokesOf(messagesIn(roll), take.seconds);
  const bySender = new Map<number, Stroke[]>();
  for (const stroke of strokes) {
    const own = bySender.get(stroke.sender);
    if (own) own.push(stroke);
    else bySender.set(stroke.sender, [stroke]);
  }
  const shortest = take.seconds * SHORTEST;
  const lanes = [...bySender.entries()]
    .sort(([one], [other]) => one - other)
    .map(([sender, own]): Lane => {
      const { place, name } = take.senders[sender];
      const lowest = own.reduce((low, { key }) => Math.min(low, key), 127);
      const highest = own.reduce((high, { key }) => Math.max(high, key), 0);
      const spare = Math.max(0, LEAST_KEYS - (highest - lowest)) / 2;
      const inks = INKS.map(() => '');
      for (const { from, until, key, velocity } of own) {
        const ink = INKS.findIndex((most) => velocity <= most);
        const length = Math.max(shortest, until - from);
        inks[ink] += `M${from.toFixed(3)} ${-key}h${length.toFixed(3)}`;
      }
      return {
        sender,
        name: place ? placeInWords(place) : name,
        ...{ low: lowest - spare - 1, high: highest + spare + 1, inks, keys: own.length },
      };
    });
  return {
    ...{ strokes, lanes, legs: legsOf(take) },
    pedals: pedals.map(({ from, until }) => `M${from.toFixed(3)} 0H${until.toFixed(3)}`).join(''),
    cues: take.steps
      .filter(({ cueId }) => cueId !== null)
      .map(({ seconds, cue }) => ({ at: seconds, name: cue })),
  };
}

/** Whether a place is one of keys, which has more room than pads. */
export function hasKeys(take: Take, sender: number): boolean {
  const { place } = take.senders[sender];
  return place === null || partsOfPlace(place).kind !== 'pads';
}

function legsOf({ steps, seconds: end }: Take): Leg[] {
  const legs: (Leg & { of: string })[] = [];
  for (const { seconds, entryId, songId, song, patch } of steps) {
    const of = `${entryId} ${songId}`;
    const last = legs.at(-1);
    if (last?.of === of) continue;
    if (last) last.until = seconds;
    legs.push({ of, from: seconds, until: end, name: song || patch });
  }
  return legs.filter(({ from, until }) => until > from);
}
