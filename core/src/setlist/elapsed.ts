import type { Cue } from '../model/show/cue.js';
import type { Seconds } from '../units/times.js';
import type { Step, TimedEntry } from './running-order.js';

/** When a step is planned to be played, seconds from the beginning of the show. */
export interface PlannedStep {
  from: Seconds;
  /** When the next one is, or the show is over. */
  until: Seconds;
}

/** When every step of the show is planned, in their order. Cues count by their own times in the song. */
export function plannedSteps(
  steps: readonly Step[],
  entries: readonly TimedEntry[],
  cues: Readonly<Record<string, Cue>>,
): PlannedStep[] {
  const byId = new Map(entries.map((timed) => [timed.entry.id, timed]));
  const begin = steps.map(({ entryId, cueId }, i) => {
    const entry = byId.get(entryId);
    if (!entry) return 0;
    // The first cue is the song's beginning, wherever it was put.
    const first = i === 0 || steps[i - 1].entryId !== entryId;
    const at = first || cueId === null ? 0 : (cues[cueId]?.atSeconds ?? 0);
    return entry.start + Math.min(at, entry.lengthSeconds);
  });
  return steps.map(({ entryId }, i) => {
    const entry = byId.get(entryId);
    const end = entry ? entry.start + entry.lengthSeconds : begin[i];
    const until = i + 1 < steps.length && steps[i + 1].entryId === entryId ? begin[i + 1] : end;
    return { from: begin[i], until: Math.max(begin[i], until) };
  });
}

/**
 * Seconds by which the show is behind its plan; below 0 it is ahead. Within the time that is planned for a step it is
 * neither: nobody knows better until the next one.
 */
export function behindPlan({ from, until }: PlannedStep, elapsed: Seconds): Seconds {
  if (elapsed < from) return elapsed - from;
  return elapsed > until ? elapsed - until : 0;
}
