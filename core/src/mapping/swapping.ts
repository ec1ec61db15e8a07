import type { Recording } from '../model/library/recording.js';
import type { SampleZone } from '../model/library/sample-zone.js';
import { playedOf } from './layouts.js';
import type { Recordings } from './loudness-steps.js';
import { rootOf, type NamedMiddleC } from './note-claims.js';
import type { ZoneChanges } from './zone-remarks.js';

/** What exchanging a set of recordings comes to. */
export interface Swapped {
  changes: ZoneChanges;
  /** Zones for which nothing was found, by id, and recordings for which there is no zone. */
  unmatched: string[];
  unused: Recording[];
}

/**
 * Gives zones other recordings: each takes the one whose name differs from its own the least, else that of its root and of its place among
 * the strengths there. What is played of a recording and its loop are the new one’s; everything else of the zone stays.
 */
export function swapRecordings(
  zones: readonly SampleZone[],
  known: Recordings,
  set: readonly Recording[],
  middleC: NamedMiddleC,
): Swapped {
  const left = new Set(set);
  const changes: Record<string, Partial<Omit<SampleZone, 'id'>>> = {};
  const byRecording = new Map<string, Recording | null>();
  const sorted = [...new Set(zones.map(({ recordingId }) => recordingId))];
  const take = (id: string, found: Recording | undefined) => {
    byRecording.set(id, found ?? null);
    if (found) left.delete(found);
  };
  // Names first: they say what belongs together before loudness does.
  for (const id of sorted) {
    const before = known[id];
    const told = before ? whatIsTold(before) : null;
    const same = [...left].filter((one) => told !== null && whatIsTold(one) === told);
    if (same.length === 1) take(id, same[0]);
  }
  for (const id of sorted) {
    if (byRecording.has(id)) continue;
    const zone = zones.find(({ recordingId }) => recordingId === id);
    take(id, zone && byPitch(zone, known[id], [...left], middleC));
  }
  for (const zone of zones) {
    const found = byRecording.get(zone.recordingId);
    if (found) changes[zone.id] = newOf(zone, found, middleC);
  }
  return {
    changes,
    unmatched: zones.filter(({ id }) => !(id in changes)).map(({ id }) => id),
    unused: [...left],
  };
}

/** Note, strength and turn that a name tells; null where it tells no note. */
function whatIsTold({ claims }: Recording): string | null {
  const { note, number, strength, turn } = claims;
  if (!note && number === null) return null;
  return JSON.stringify([note ? [note.step, note.octave] : number, strength, turn]);
}

/** Of those with the zone’s root the one that is nearest in loudness. */
function byPitch(
  { root }: SampleZone,
  before: Recording | undefined,
  set: readonly Recording[],
  middleC: NamedMiddleC,
): Recording | undefined {
  const loudness = before?.heard.attackLufs ?? 0;
  return set
    .filter((one) => rootOf(one, middleC).key === root)
    .sort(
      (a, b) => Math.abs(a.heard.attackLufs - loudness) - Math.abs(b.heard.attackLufs - loudness),
    )
    .at(0);
}

/** What of a zone goes with its recording: one that is to be looped is, where the new one has a loop. */
export function newOf(
  zone: SampleZone,
  recording: Recording,
  middleC: NamedMiddleC,
): Partial<Omit<SampleZone, 'id'>> {
  const played = playedOf(recording, middleC);
  return {
    ...played,
    loop: zone.loop ? played.loop : null,
    piece: played.piece ?? zone.piece,
  };
}
