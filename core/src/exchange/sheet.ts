import type { Show } from '../model/show/show.js';
import { FOUR_FOUR, type Song } from '../model/show/song.js';
import { controlInWords } from '../model/show/show-control.js';
import { musicalKeyName } from '../pitch/musical-keys.js';
import { compileRig } from '../routing/compile.js';
import { bySong } from '../setlist/in-order.js';
import { timeline, totalSeconds } from '../setlist/running-order.js';
import { tonightInWords } from '../setlist/tonight.js';
import { jobsNow } from '../ties/in-force.js';
import { jobInWords } from '../ties/words.js';
import { clockTime, dayInWords, timeOfDay } from '../units/times.js';
import type { SheetControl, SheetSources } from './sheet-sources.js';
import { sheetRig, type SheetRig } from './sheet-rig.js';
import { sheetSong, type SheetSong } from './sheet-song.js';

/** A night on paper, in words and numbers that only have to be laid out. */
export interface Sheet {
  name: string;
  /** What is known of the night: date, place, doors, start, slot, end. */
  facts: readonly string[];
  order: readonly SheetLine[];
  /** What goes through the show, by what it does: `Next cue`, pressed on `pad 4`. */
  presses: readonly SheetControl[];
  songs: readonly SheetSong[];
  rig: SheetRig;
}

/** A line of the running order. */
export interface SheetLine {
  /** Place among the songs, from 1; null for what is none. */
  number: number | null;
  name: string;
  kind: 'song' | 'encore' | 'gap';
  /** Keys, such as `E → E♭`; empty for what has none. */
  keys: string;
  tempo: string;
  /** Time of day, else seconds from the start of the show, in words. */
  at: string;
  /** Seconds from the start of the show, and how long. */
  start: number;
  lengthSeconds: number;
  /** What is otherwise this night; empty for nothing. */
  otherwise: string;
}

/** The sheet of a night: songs and cues as they are that night. A song that cannot be read keeps its line, and has no page. */
export function sheetOf(sources: SheetSources): Sheet {
  const { show, rig, devices, songs } = sources;
  const entries = timeline(show.order, songs);
  const cues = bySong(sources.cues);
  const compiled = compileRig(devices);
  const order: SheetLine[] = [];
  const pages: SheetSong[] = [];
  let number = 0;
  for (const { entry, song, name, start, lengthSeconds } of entries) {
    const at = show.start ? timeOfDay(show.start, start) : clockTime(start);
    const place = { name, start, lengthSeconds, at };
    if (entry.kind !== 'song') {
      order.push({ ...place, number: null, kind: 'gap', keys: '', tempo: '', otherwise: '' });
      continue;
    }
    const written = songs.get(entry.songId);
    const otherwise = written && entry.tonight ? tonightInWords(written, entry.tonight) : '';
    // Numbers are those by which songs are found while playing: what cannot be read has none.
    if (song) number++;
    order.push({
      ...place,
      number: song && number,
      kind: entry.encore ? 'encore' : 'song',
      keys: song ? keysInWords(song) : '',
      tempo: song ? tempoInWords(song) : '',
      // An encore comes when it is asked for.
      ...(entry.encore && { at: '' }),
      otherwise,
    });
    if (song)
      pages.push(
        sheetSong(number, song, {
          ...{ ...sources, compiled, otherwise },
          cues: (cues.get(song.id) ?? []).filter(({ id }) => !entry.tonight?.leftOut.includes(id)),
        }),
      );
  }
  return {
    name: show.name,
    facts: factsOf(show, totalSeconds(entries)),
    order,
    presses: pressesOf(sources),
    songs: pages,
    rig: sheetRig(rig, devices, show.middleC),
  };
}

/** Beats per minute, and the metre where it is another than most have. */
function tempoInWords({ tempo, metre: { beats, unit } }: Song): string {
  return beats === FOUR_FOUR.beats && unit === FOUR_FOUR.unit
    ? `${tempo}`
    : `${tempo} ${beats}/${unit}`;
}

/** The keys of a song: where the hands are, and what sounds if that is another. */
function keysInWords({ fingered, sounding }: Song): string {
  const [hands, sounds] = [fingered, sounding].map((key) => musicalKeyName(key));
  return hands === sounds ? hands : `${hands} → ${sounds}`;
}

function factsOf({ date, place, doors, start, slotSeconds }: Show, seconds: number): string[] {
  const facts = [dayInWords(date)];
  if (place) facts.push(place);
  if (doors) facts.push(`doors ${doors}`);
  if (start) facts.push(`start ${start}`);
  facts.push(`slot ${clockTime(slotSeconds)}`);
  facts.push(start ? `ends ${timeOfDay(start, seconds)}` : `takes ${clockTime(seconds)}`);
  return facts;
}

const NO_PATCH = { layers: [], treatments: [], accompanists: [] };

/** What the show itself has tied to controls, but for what goes to one place alone: that stands with its cue. */
function pressesOf({ devices, show, rig }: SheetSources): SheetControl[] {
  const pressed = new Map<string, string[]>();
  for (const job of jobsNow({ devices, patch: null, song: null, show, rig })) {
    if (job.task.kind === 'show' && job.task.control.action === 'goTo') continue;
    const does = jobInWords(job, NO_PATCH);
    pressed.set(does, [...(pressed.get(does) ?? []), controlInWords(job, devices)]);
  }
  return [...pressed].map(([does, controls]) => ({ control: controls.join(' or '), does }));
}
