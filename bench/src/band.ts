import { readMidiFile, writeMidiFile } from '@pentachord/core/exchange';
import {
  newAccompanist,
  newLayer,
  newPatch,
  newPatchSound,
  placedPattern,
  type Pattern,
} from '@pentachord/core/model';
import { Band, Player, type PlayerOutput } from '@pentachord/core/playing';
import { compilePatch, compileRig } from '@pentachord/core/routing';
import { seededRandom } from '@pentachord/core/synthesis';
import { keyboard } from './core.js';
import type { Result } from './table.js';

const ACCOMPANISTS = 16;
const NOTES_A_BAR = 64;
const TEMPO = 240;
/** Seconds between two looks at the clock, as the page has them. */
const TICK = 0.01;
const HOURS = 4;

/** What the band costs, whether it keeps its time, and how long a MIDI file is read. */
export function measureBand(): Result[] {
  return [...scheduling(), hanging(), reading()];
}

/** Nobody hears: starts and ends are counted, and when a note is due that begins a bar. */
class Counted implements PlayerOutput {
  readonly sounding = new Set<number>();
  starts = 0;
  ends = 0;
  lastAt = 0;
  /** When those of the first bar are due, seconds. */
  readonly first: number[] = [];

  start(
    voice: number,
    _patch: unknown,
    _layer: unknown,
    _note: number,
    _velocity: number,
    onset: { at: number },
  ): void {
    this.sounding.add(voice);
    this.starts++;
    this.lastAt = onset.at;
    if (this.starts < ACCOMPANISTS * NOTES_A_BAR) this.first.push(onset.at);
  }

  end(voice: number): void {
    this.sounding.delete(voice);
    this.ends++;
  }

  takeBack(voice: number): void {
    this.sounding.delete(voice);
  }

  ringsOn = () => false;
  retime = () => undefined;
  control = () => undefined;
  bend = () => undefined;
  pressure = () => undefined;
  voicePressure = () => undefined;
  moveDevices = () => undefined;
  deviceGone = () => undefined;
  silence = () => undefined;
}

function busy(id: string, length: number): Pattern {
  return {
    ...{ id, name: id, category: 'basses', tags: [], favourite: false, length, tempo: TEMPO },
    ...{ metre: { beats: 4, unit: 4 }, key: null, quantise: null },
    notes: Array.from({ length: (NOTES_A_BAR * length) / 4 }, (_, i) => ({
      ...{ beat: (i * 4) / NOTES_A_BAR, length: 0.05, key: 40 + (i % 30), velocity: 90 },
    })),
  };
}

function playing(seconds: { now: number }) {
  const output = new Counted();
  const player = new Player(output, () => seconds.now);
  const band = new Band(player.clock, player);
  player.accompanying = band;
  player.clock.tempo = TEMPO;
  const accompanists = Array.from({ length: ACCOMPANISTS }, (_, i) => ({
    ...newAccompanist(`a${i}`, `Part ${i}`, keyboard.place),
    layerIds: ['layer'],
    follows: i % 2 === 0 ? ('chord' as const) : ('stays' as const),
    patterns: [placedPattern(`p${i}`, `busy${i % 3}`, 30 + i)],
  }));
  const patch = {
    ...newPatch('patch', 'song', 0, 'Band'),
    sounds: [newPatchSound('sound', 'house-felt-piano')],
    layers: [newLayer('layer', 'Layer', 'sound')],
    accompanists,
  };
  const patterns = new Map([4, 4, 8].map((length, i) => [`busy${i}`, busy(`busy${i}`, length)]));
  player.take(compilePatch(patch, { rig: compileRig([keyboard]), songShift: 0, patterns }));
  return { output, player };
}

function scheduling(): Result[] {
  const seconds = { now: 1 };
  const { output, player } = playing(seconds);
  for (let i = 0; i < ACCOMPANISTS; i++) {
    player.noteOn(0, 1, 30 + i, 90);
    player.noteOff(0, 1, 30 + i);
  }
  const first = player.clock.timeAt(player.clock.firstBeat);
  const warm = () => {
    seconds.now += TICK;
    player.advance();
  };
  for (let i = 0; i < 3000; i++) warm();
  const begun = performance.now();
  const ticks = 6000;
  for (let i = 0; i < ticks; i++) warm();
  const share = (performance.now() - begun) / 1000 / (ticks * TICK);
  // From here on only time goes by, and what is due is looked at again at its end.
  const step = 60 / TEMPO / (NOTES_A_BAR / 4);
  while (seconds.now < first + HOURS * 3600) {
    seconds.now += 0.045;
    player.advance();
  }
  const steps = (output.lastAt - first) / step;
  const earliest = Math.min(...output.first);
  const together = output.first.filter((at) => at === earliest).length;
  return [
    {
      what: `${ACCOMPANISTS} accompanists, ${NOTES_A_BAR} notes a bar each, at ${TEMPO}: share of a core`,
      ...{ value: share * 100, goal: 1, unit: '%' },
    },
    {
      what: `of ${ACCOMPANISTS} patterns begun together: not on the same frame`,
      ...{ value: ACCOMPANISTS - together, goal: 0.5, unit: '' },
    },
    {
      what: `the last note of ${HOURS} hours: away from its place`,
      ...{ value: Math.abs(steps - Math.round(steps)) * step * 1000, goal: 0.01, unit: 'ms' },
    },
  ];
}

/** Random keys, pauses and tempos with patterns running: what sounds when everything has been let go. */
function hanging(): Result {
  const random = seededRandom(64);
  const seconds = { now: 1 };
  const { output, player } = playing(seconds);
  const down = new Set<number>();
  for (let i = 0; i < 1_000_000; i++) {
    const key = 28 + Math.floor(random() * 40);
    const what = random();
    if (what < 0.3) {
      player.noteOn(0, 1, key, 1 + Math.floor(random() * 127));
      down.add(key);
    } else if (what < 0.6) {
      player.noteOff(0, 1, key);
      down.delete(key);
    } else if (what < 0.602) player.clock.tempo = 40 + Math.floor(random() * 300);
    else {
      seconds.now += random() * 0.03;
      player.advance();
    }
  }
  for (const key of down) player.noteOff(0, 1, key);
  player.allNotesOff();
  seconds.now += 10;
  player.advance();
  return {
    what: 'a million events with patterns running: notes that hang',
    ...{ value: output.sounding.size, goal: 0.5, unit: '' },
  };
}

function reading(): Result {
  const notes = Array.from({ length: 100_000 }, (_, i) => ({
    ...{ beat: i / 16, length: 1 / 16, key: 30 + (i % 60), velocity: 1 + (i % 127) },
  }));
  const bytes = writeMidiFile({ tracks: [{ name: 'Long', channel: 1, notes, programs: [] }] });
  const begun = performance.now();
  const read = readMidiFile(bytes);
  const value = (performance.now() - begun) / 1000;
  if (read.tracks[0].notes.length !== notes.length) throw new Error('notes were lost');
  return { what: 'a MIDI file of 200,000 events: read', ...{ value, goal: 1, unit: 's' } };
}
