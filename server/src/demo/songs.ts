import {
  newCue,
  newLayer,
  newPatch,
  newPatchSound,
  newSong,
  usualManner,
  type Cue,
  type Layer,
  type Patch,
  type Place,
  type Sends,
  type Song,
} from '@pentachord/core/model';
import type { MusicalKey } from '@pentachord/core/pitch';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { lowWaterBand } from './band.js';

/** A song with its patches and cues. */
export interface DemoSong {
  song: Song;
  patches: Patch[];
  cues: Cue[];
}

const UPPER: Place[] = ['keys1'];
const LOWER: Place[] = ['keys2'];
const PITCH_CLASS = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9 };

function key(name: keyof typeof PITCH_CLASS, mode: 'major' | 'minor' = 'major'): MusicalKey {
  return { tonic: PITCH_CLASS[name], spelling: 'usual', mode };
}

function keys(low: number, high: number, fadeIn = 0, fadeOut = 0): Layer['keys'] {
  return { low, high, fadeIn, fadeOut, law: 'equalPower' };
}
const strengths = keys;

type DemoLayer = Partial<Omit<Layer, 'id' | 'soundId' | 'sends'>> & {
  sound: string;
  sends?: Partial<Sends>;
};

/** A patch whose layers name library sounds; layers that name the same one share it. */
function patch(
  id: string,
  songId: string,
  position: number,
  name: string,
  layers: Record<string, DemoLayer>,
  more: Partial<
    Pick<Patch, 'treatments' | 'controls' | 'choosers' | 'effects' | 'accompanists' | 'bandKeys'>
  > = {},
): Patch {
  const used = [...new Set(Object.values(layers).map((layer) => layer.sound))];
  return {
    ...newPatch(id, songId, position, name),
    sounds: used.map((sound) => newPatchSound(`${id}-${sound}`, sound)),
    layers: Object.entries(layers).map(([layerName, { sound, sends, ...changes }], index) => {
      const plain = newLayer(`${id}-${index + 1}`, layerName, `${id}-${sound}`);
      return { ...plain, ...changes, sends: { ...plain.sends, ...sends } };
    }),
    ...more,
  };
}

type CueChanges = Partial<Omit<Cue, 'id' | 'songId' | 'position' | 'name' | 'patchId'>>;

function cue(
  songId: string,
  position: number,
  name: string,
  patchId: string,
  changes: CueChanges = {},
): Cue {
  return {
    ...newCue(`${songId}-cue-${position + 1}`, songId, position, name, patchId),
    ...changes,
  };
}

function song(id: string, name: string, rest: Partial<Song>): Song {
  return { ...newSong(id, name), ...rest };
}

function saltglass(): DemoSong {
  const id = 'demo-saltglass';
  const tide = `${id}-tide`;
  return {
    song: song(id, 'Saltglass', {
      fingered: key('D'),
      sounding: key('D'),
      tempo: 98,
      metre: { beats: 4, unit: 4 },
      lengthSeconds: 370,
    }),
    patches: [
      patch(tide, id, 0, 'Piano over the tide', {
        'Deep pad': {
          sound: 'house-warm-pad',
          keyboards: UPPER,
          keys: keys(28, 59),
          level: -9,
          pan: -0.2,
        },
        'Felt piano': {
          sound: 'house-felt-piano',
          keyboards: UPPER,
          keys: keys(60, 103),
          level: -3,
        },
        'Swelling strings': {
          sound: 'house-slow-tide-strings',
          keyboards: UPPER,
          keys: keys(60, 103, 12),
          level: -13,
          pan: 0.25,
          sends: { reverb: -10 },
        },
      }),
    ],
    cues: [
      cue(id, 0, 'intro', tide, {
        balance: { [`${tide}-3`]: { muted: true } },
        note: 'Alone with the pad. Count yourself in.',
      }),
      cue(id, 1, 'verse', tide, { balance: { [`${tide}-3`]: { level: -20 } } }),
      cue(id, 2, 'lift', tide, { balance: { [`${tide}-3`]: { level: -9 } }, fadeSeconds: 4 }),
      cue(id, 3, 'out', tide, {
        balance: { [`${tide}-2`]: { level: -14 }, [`${tide}-3`]: { level: -16 } },
        fadeSeconds: 8,
      }),
    ],
  };
}

function copperWeather(): DemoSong {
  const id = 'demo-copper-weather';
  const under = `${id}-under`;
  const over = `${id}-over`;
  const [bass, piano, bells, pad] = [1, 2, 3, 4].map((n) => `${under}-${n}`);
  const leftHand: DemoLayer = {
    sound: 'house-round-upright-bass',
    keyboards: UPPER,
    channel: 1,
    keys: keys(28, 54),
    level: -4,
    sends: { reverb: -30 },
  };
  return {
    song: song(id, 'Copper Weather', {
      fingered: key('E'),
      sounding: { tonic: 3, spelling: 'flats', mode: 'major' },
      tempo: 92,
      metre: { beats: 4, unit: 4 },
      lengthSeconds: 440,
    }),
    patches: [
      patch(under, id, 0, 'Bass under bells', {
        'Left-hand bass': leftHand,
        'Felt piano': {
          sound: 'house-felt-piano',
          keyboards: UPPER,
          channel: 1,
          keys: keys(57, 103),
          velocities: strengths(1, 92, 0, 24),
          level: -2.5,
          pan: -0.1,
        },
        'Glass bells': {
          sound: 'house-glass-bells',
          keyboards: UPPER,
          channel: 1,
          keys: keys(57, 103),
          velocities: strengths(69, 127, 24),
          level: -8,
          pan: 0.2,
          touch: { ...EVEN_TOUCH, outLow: 36 },
        },
        'Tide pad': {
          sound: 'house-slow-tide-strings',
          keyboards: UPPER,
          channel: 1,
          keys: keys(69, 103, 7),
          level: -14,
          sends: { reverb: -10 },
        },
      }),
      patch(over, id, 1, 'Bells over bass, all in', {
        'Left-hand bass': { ...leftHand, keys: keys(28, 54) },
        'Felt piano': {
          sound: 'house-felt-piano',
          keyboards: UPPER,
          channel: 1,
          keys: keys(55, 103),
          level: -5,
        },
        'Glass bells': {
          sound: 'house-glass-bells',
          keyboards: UPPER,
          channel: 1,
          keys: keys(55, 103),
          level: -9,
          pan: 0.25,
        },
        'Tide pad': {
          sound: 'house-slow-tide-strings',
          keyboards: UPPER,
          channel: 1,
          keys: keys(55, 103),
          level: -11,
          sends: { reverb: -10 },
        },
      }),
    ],
    cues: [
      cue(id, 0, 'intro', under, {
        balance: { [bass]: { muted: true }, [pad]: { level: -22 } },
        note: 'Right hand only, leave room.',
      }),
      cue(id, 1, 'verse', under, { balance: { [pad]: { level: -20 } }, fadeSeconds: 2 }),
      cue(id, 2, 'second verse', under, {
        balance: { [bells]: { level: -6 }, [piano]: { level: -4 } },
        note: '“…and the kettle hums the harbour home” — stay low, bells only when you dig in',
      }),
      cue(id, 3, 'lift', over, { note: 'All in. Both hands wide.', fadeSeconds: 1 }),
      cue(id, 4, 'quiet', under, {
        balance: { [bells]: { muted: true }, [bass]: { level: -10 }, [pad]: { level: -12 } },
        fadeSeconds: 5,
      }),
    ],
  };
}

function paperLighthouse(): DemoSong {
  const id = 'demo-paper-lighthouse';
  const beam = `${id}-beam`;
  return {
    song: song(id, 'Paper Lighthouse', {
      fingered: key('A', 'minor'),
      sounding: key('A', 'minor'),
      tempo: 124,
      metre: { beats: 4, unit: 4 },
      lengthSeconds: 310,
    }),
    patches: [
      patch(
        beam,
        id,
        0,
        'One harp, two hands',
        {
          'Right-hand harp': {
            sound: 'house-wire-harp',
            keyboards: UPPER,
            keys: keys(60, 103),
            level: -4,
            obeys: ['sustain', 'expression', 'pitchBend'],
            sends: { chorus: -20 },
          },
          'Left-hand harp, dug in': {
            sound: 'house-wire-harp',
            keyboards: UPPER,
            keys: keys(28, 59),
            touch: { ...EVEN_TOUCH, inLow: 77, below: 'silent' },
            level: -7,
            obeys: ['sustain', 'expression', 'pitchBend'],
          },
          'Chapel organ': {
            sound: 'house-chapel-pipes',
            keyboards: UPPER,
            keys: keys(28, 59),
            level: -10,
            obeys: ['sustain', 'expression'],
            sends: { reverb: -12 },
          },
        },
        {
          // The wheel moves the left harp's level and nothing else, though both harps are one sound.
          controls: [
            {
              id: `${beam}-wheel`,
              place: 'keys1',
              message: { kind: 'controller', controller: 1 },
              target: { kind: 'layer', layerId: `${beam}-2`, parameter: 'level' },
              from: -7,
              to: 0,
              ...usualManner({ kind: 'controller', controller: 1 }),
            },
          ],
        },
      ),
    ],
    cues: [
      cue(id, 0, 'intro', beam, { note: 'Organ first; dig in for the answer.' }),
      cue(id, 1, 'verse', beam, { balance: { [`${beam}-3`]: { level: -14 } } }),
      cue(id, 2, 'chorus', beam, { balance: { [`${beam}-2`]: { level: -4 } } }),
      cue(id, 3, 'out', beam, { balance: { [`${beam}-1`]: { level: -10 } }, fadeSeconds: 6 }),
    ],
  };
}

function ferryToNowhere(): DemoSong {
  const id = 'demo-ferry-to-nowhere';
  const crossing = `${id}-crossing`;
  return {
    song: song(id, 'Ferry to Nowhere', {
      fingered: key('G'),
      sounding: key('G'),
      tempo: 74,
      metre: { beats: 3, unit: 4 },
      lengthSeconds: 520,
    }),
    patches: [
      patch(crossing, id, 0, 'Three ways across', {
        'Engine-room bass': {
          sound: 'house-round-upright-bass',
          keyboards: LOWER,
          keys: keys(36, 55),
        },
        'Saloon reeds': {
          sound: HARBOUR_REEDS_ID,
          keyboards: LOWER,
          keys: keys(56, 96),
          transpose: -12,
          level: -8,
        },
        'Deck strings': {
          sound: 'house-slow-tide-strings',
          keyboards: UPPER,
          keys: keys(28, 76),
          transpose: 12,
          level: -10,
          sends: { reverb: -9 },
        },
        'Gull bells': {
          sound: 'house-glass-bells',
          keyboards: UPPER,
          keys: keys(77, 103),
          level: -9,
        },
      }),
    ],
    cues: [
      cue(id, 0, 'boarding', crossing, { balance: { [`${crossing}-4`]: { muted: true } } }),
      cue(id, 1, 'open water', crossing, { fadeSeconds: 4 }),
      cue(id, 2, 'out', crossing, {
        balance: { [`${crossing}-1`]: { level: -18 } },
        fadeSeconds: 8,
      }),
    ],
  };
}

const HARBOUR_REEDS_ID = 'outside-harbour-reeds';

function nineBells(): DemoSong {
  const id = 'demo-nine-bells';
  const watch = `${id}-watch`;
  return {
    song: song(id, 'Nine Bells', {
      fingered: key('E', 'minor'),
      sounding: { tonic: 6, spelling: 'sharps', mode: 'minor' },
      tempo: 132,
      metre: { beats: 6, unit: 8 },
      lengthSeconds: 350,
    }),
    patches: [
      patch(
        watch,
        id,
        0,
        'Bells by strength',
        {
          'Gentle bells': {
            sound: 'demo-night-bells',
            keyboards: UPPER,
            keys: keys(48, 103),
            velocities: strengths(1, 79),
            level: -6,
          },
          'Struck bells': {
            sound: 'demo-night-bells',
            keyboards: UPPER,
            keys: keys(48, 103),
            velocities: strengths(80, 127),
            level: -9,
            pan: 0.2,
          },
          'Low pad': {
            sound: 'house-warm-pad',
            keyboards: UPPER,
            keys: keys(28, 59, 0, 12),
            level: -10,
          },
          'Music box': {
            sound: 'house-tin-music-box',
            keyboards: UPPER,
            keys: keys(60, 103),
            level: -7,
          },
          Harp: { sound: 'house-wire-harp', keyboards: UPPER, keys: keys(48, 103), level: -7 },
        },
        {
          // Pads pick what the right hand plays.
          choosers: [
            {
              id: `${watch}-right`,
              name: 'Right hand',
              chosen: 0,
              choices: [
                { name: 'bells', layerIds: [`${watch}-1`, `${watch}-2`] },
                { name: 'music box', layerIds: [`${watch}-4`] },
                { name: 'harp', layerIds: [`${watch}-5`] },
              ],
              controls: [4, 5, 6].map((pad, picks) => ({
                place: 'pads1' as const,
                message: { kind: 'pad' as const, pad },
                picks,
              })),
            },
          ],
        },
      ),
    ],
    cues: [
      cue(id, 0, 'intro', watch),
      cue(id, 1, 'nine', watch, { balance: { [`${watch}-2`]: { level: -4 } } }),
      cue(id, 2, 'out', watch, { balance: { [`${watch}-3`]: { level: -18 } }, fadeSeconds: 5 }),
    ],
  };
}

function lowWaterMark(): DemoSong {
  const id = 'demo-low-water-mark';
  const ebb = `${id}-ebb`;
  return {
    song: song(id, 'Low Water Mark', {
      fingered: key('F'),
      sounding: key('F'),
      tempo: 87,
      metre: { beats: 4, unit: 4 },
      lengthSeconds: 390,
    }),
    patches: [
      patch(
        ebb,
        id,
        0,
        'Bass and tine',
        {
          'Ebb bass': { sound: 'house-round-upright-bass', keyboards: UPPER, keys: keys(28, 52) },
          'Slack tine': {
            sound: 'house-tine-piano',
            keyboards: UPPER,
            keys: keys(53, 103),
            level: -5,
          },
          'Mud pad': { sound: 'house-warm-pad', keyboards: LOWER, keys: keys(59, 96), level: -12 },
          // What only the band plays answers the keys that start it, which no hand plays.
          'Quay drums': { sound: 'house-dockside-kit', keyboards: LOWER, keys: keys(36, 40) },
          Mist: {
            sound: 'house-slow-tide-strings',
            keyboards: LOWER,
            keys: keys(49, 50),
            level: -16,
          },
          'Reed line': {
            sound: 'house-wire-harp',
            keyboards: LOWER,
            keys: keys(51, 54),
            level: -11,
            pan: 0.35,
          },
        },
        {
          ...lowWaterBand(ebb, {
            ...{ drums: `${ebb}-4`, bass: `${ebb}-1`, mud: `${ebb}-3` },
            ...{ mist: `${ebb}-5`, reeds: `${ebb}-6` },
          }),
          treatments: [
            {
              kind: 'arpeggio',
              id: `${ebb}-ripples`,
              on: false,
              layerIds: [`${ebb}-2`],
              order: 'up',
              rate: '1/16',
              gate: 0.6,
              octaves: 2,
              hold: false,
            },
          ],
          controls: [
            {
              id: `${ebb}-pad`,
              place: 'pads1',
              message: { kind: 'pad', pad: 4 },
              target: { kind: 'treatment', treatmentId: `${ebb}-ripples` },
              from: 0,
              to: 1,
              ...usualManner({ kind: 'pad', pad: 4 }),
            },
            {
              id: `${ebb}-echo`,
              place: 'keys2',
              message: { kind: 'note', note: 59 },
              target: { kind: 'treatment', treatmentId: `${ebb}-ripples` },
              from: 0,
              to: 1,
              ...usualManner({ kind: 'note', note: 59 }),
            },
            {
              id: `${ebb}-weight`,
              place: 'pads1',
              message: { kind: 'knob', knob: 1 },
              target: { kind: 'accompanist', accompanistId: `${ebb}-bass`, setting: 'weight' },
              from: -1,
              to: 1,
              ...usualManner({ kind: 'knob', knob: 1 }),
            },
            {
              id: `${ebb}-turn`,
              place: 'keys2',
              message: { kind: 'note', note: 60 },
              target: { kind: 'accompanist', accompanistId: `${ebb}-bass`, setting: 'turned' },
              from: 0,
              to: 1,
              ...usualManner({ kind: 'note', note: 60 }),
              begins: 'bar',
            },
          ],
        },
      ),
    ],
    cues: [
      cue(id, 0, 'intro', ebb, { balance: { [`${ebb}-3`]: { muted: true } } }),
      cue(id, 1, 'verse', ebb),
      cue(id, 2, 'out', ebb, {
        balance: { [`${ebb}-2`]: { level: -12 } },
        band: { [`${ebb}-drums`]: { weight: -0.6, thin: 3 } },
        fadeSeconds: 6,
      }),
    ],
  };
}

function lanternSong(): DemoSong {
  const id = 'demo-lantern-song';
  const lantern = `${id}-lantern`;
  return {
    song: song(id, 'Lantern Song', {
      fingered: key('C'),
      sounding: key('C'),
      tempo: 104,
      metre: { beats: 4, unit: 4 },
      lengthSeconds: 300,
    }),
    patches: [
      patch(lantern, id, 0, 'Piano and strings', {
        'Felt piano': {
          sound: 'house-felt-piano',
          keyboards: UPPER,
          keys: keys(28, 103),
          level: -3,
        },
        'Tide strings': {
          sound: 'house-slow-tide-strings',
          keyboards: UPPER,
          keys: keys(48, 103, 12),
          level: -13,
        },
      }),
    ],
    cues: [
      cue(id, 0, 'light', lantern, {
        balance: { [`${lantern}-2`]: { muted: true } },
        fadeSeconds: 0.3,
      }),
      cue(id, 1, 'carry', lantern, { fadeSeconds: 0.3 }),
      cue(id, 2, 'set down', lantern, {
        balance: { [`${lantern}-1`]: { level: -9 }, [`${lantern}-2`]: { level: -20 } },
        fadeSeconds: 0.3,
      }),
    ],
  };
}

/** The seven songs, in playing order. */
export function demoSongs(): DemoSong[] {
  return [
    saltglass(),
    copperWeather(),
    paperLighthouse(),
    ferryToNowhere(),
    nineBells(),
    lowWaterMark(),
    lanternSong(),
  ].map(spreadOut);
}

/** The song with its cues evenly over its time. */
function spreadOut({ song, patches, cues }: DemoSong): DemoSong {
  const apart = song.lengthSeconds / cues.length;
  return {
    song,
    patches,
    cues: cues.map((one, at) => ({ ...one, atSeconds: Math.round(apart * at) })),
  };
}
