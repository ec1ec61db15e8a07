import type { Recordings, ZoneRemark } from '@pentachord/core/mapping';
import { shortName } from '@pentachord/core/model';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import type { SoundedNote } from './what-sounded';

const MENDS = { stretch: 'stretch over it', smooth: 'smooth the steps' };

/** A remark on zones as it is told, and what mends it; empty where nothing is offered. */
export function remarkInWords(
  remark: ZoneRemark,
  middleC: NoteNaming,
): { words: string; mend: string } {
  return { words: wordsOf(remark, middleC), mend: remark.mend ? MENDS[remark.mend.words] : '' };
}

function wordsOf(remark: ZoneRemark, middleC: NoteNaming): string {
  switch (remark.kind) {
    case 'silent': {
      const { keys, velocities } = remark.ground;
      const [low, high] = [noteName(keys.low, middleC), noteName(keys.high, middleC)];
      return `silent${velocitiesInWords(velocities)}: ${low === high ? low : `${low}–${high}`}`;
    }
    case 'step': {
      const step = `${remark.step > 0 ? '+' : '−'}${Math.abs(remark.step).toFixed(1)}`;
      return `a step of ${step} dB at velocity ${remark.velocity}`;
    }
    case 'turned down':
      return 'a soft recording is only the hard one, turned down';
    case 'wanting':
      return 'a recording is missing: drop its file';
  }
}

function velocitiesInWords({ low, high }: { low: number; high: number }): string {
  if (high < 127) return ` at ${low}–${high}`;
  return low === 1 ? '' : ` above ${low - 1}`;
}

/** A note with the recordings that it began, how far each was moved, and what its fades take off. */
export function soundedInWords(
  { key, velocity, zones }: SoundedNote,
  recordings: Recordings,
  middleC: NoteNaming,
): { note: string; what: string; isSilent: boolean } {
  const what = zones.map(({ zone, cents, fade }) => {
    const recording = recordings[zone.recordingId];
    const moved = Math.round(cents / 100);
    const shift = moved === 0 ? '' : ` ${moved > 0 ? '+' : '−'}${Math.abs(moved)} st`;
    const level = fade > -0.05 ? '' : ` ${fade.toFixed(1).replace('-', '−')} dB`;
    return (recording ? shortName(recording) : 'missing') + shift + level;
  });
  return {
    note: `${noteName(key, middleC)} v${velocity}`,
    what: what.join(', ') || 'nothing: no zone is there',
    isSilent: zones.length === 0,
  };
}
