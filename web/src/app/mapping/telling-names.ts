import type { Recordings } from '@pentachord/core/mapping';
import { shortName, type SampleZone } from '@pentachord/core/model';

/** Names of recordings without what all of them begin with, by id: where there is little room, what tells them apart is what counts. */
export function tellingNames(
  zones: readonly SampleZone[],
  recordings: Recordings,
): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  for (const { recordingId } of zones) {
    const recording = recordings[recordingId];
    if (recording) names.set(recordingId, shortName(recording));
  }
  const all = [...names.values()];
  let common = all.at(0) ?? '';
  for (const name of all) while (!name.startsWith(common)) common = common.slice(0, -1);
  // Words stay whole.
  const cut = all.length > 1 ? common.replace(/[^\s_.-]*$/, '').length : 0;
  return new Map([...names].map(([id, name]) => [id, name.slice(cut) || name]));
}
