import type { Cue } from '../model/show/cue.js';
import type { Seconds } from '../units/times.js';

/** Where a cue stands: its number in the song and its place on the song's time. */
export type CuePlace = Pick<Cue, 'position' | 'atSeconds'>;

/** Places of cues by id: those that change. */
export type CuePlaces = Record<string, CuePlace>;

/** A cue is put at a time of its song; it changes places with those that it passes. `cues` are in order. */
export function placedAt(
  cues: readonly Cue[],
  cueId: string,
  atSeconds: Seconds,
  lengthSeconds: Seconds,
): CuePlaces {
  const at = Math.round(Math.min(Math.max(0, atSeconds), lengthSeconds));
  const from = cues.findIndex(({ id }) => id === cueId);
  if (from < 0) return {};
  const others = cues.filter(({ id }) => id !== cueId);
  // Among those of its own time it stays where it was.
  const to = others.filter((cue, i) => cue.atSeconds < at || (cue.atSeconds === at && i < from));
  const order = [...others.slice(0, to.length), cues[from], ...others.slice(to.length)];
  return changed(
    cues,
    order.map((cue) => (cue.id === cueId ? at : cue.atSeconds)),
    order,
  );
}

/** A cue becomes the nth of its song, from 0: the times stay where they are, the cues change among them. */
export function movedTo(cues: readonly Cue[], cueId: string, to: number): CuePlaces {
  const cue = cues.find(({ id }) => id === cueId);
  if (!cue) return {};
  const order = cues.filter(({ id }) => id !== cueId);
  order.splice(Math.min(Math.max(0, to), order.length), 0, cue);
  const times = cues.map(({ atSeconds }) => atSeconds);
  return changed(cues, times, order);
}

/** Where a new cue stands behind another (null: behind the last): half-way to the next, or to the end of the song. */
export function placeBehind(
  cues: readonly Cue[],
  cueId: string | null,
  lengthSeconds: Seconds,
): CuePlace {
  const at = cues.findIndex(({ id }) => id === cueId);
  if (cues.length === 0) return { position: 0, atSeconds: 0 };
  const last = cues[at < 0 ? cues.length - 1 : at];
  const next = cues.at(cues.indexOf(last) + 1);
  const until = next ? next.atSeconds : Math.max(last.atSeconds, lengthSeconds);
  return {
    position: cues.indexOf(last) + 1,
    atSeconds: Math.round((last.atSeconds + until) / 2),
  };
}

function changed(
  before: readonly Cue[],
  times: readonly Seconds[],
  order: readonly Cue[],
): CuePlaces {
  const places: CuePlaces = {};
  order.forEach(({ id }, position) => {
    const known = before.find((cue) => cue.id === id);
    const atSeconds = times[position];
    if (known?.position !== position || known.atSeconds !== atSeconds)
      places[id] = { position, atSeconds };
  });
  return places;
}
