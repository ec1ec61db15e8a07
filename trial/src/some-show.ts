import {
  actsSchema,
  beginsSchema,
  newChooser,
  newCue,
  newLayer,
  newPatch,
  newPatchSound,
  newShow,
  newSong,
  newTreatment,
  readsSchema,
  songEntry,
  travelCurveSchema,
  TREATMENT_KINDS,
  type Chooser,
  type ControlTarget,
  type Cue,
  type Device,
  type Layer,
  type Patch,
  type Tie,
  type Show,
  type Song,
  type Sound,
  type Treatment,
  houseSourceId,
} from '@pentachord/core/model';
import type { PlayedSource, ShowPlan } from '@pentachord/core/playing';
import { compileRig } from '@pentachord/core/routing';
import { steps } from '@pentachord/core/setlist';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import type { Chance } from './chance.js';

const SHOW = 'show';
const key = { tonic: 4, spelling: 'usual', mode: 'minor' } as const;

/** Two keyboards, one shifted by an octave, pads, a pedal and a module. */
export const devices: Device[] = [
  {
    ...{ kind: 'keyboard', id: 'upper', rigId: SHOW, position: 0, name: 'Upper keys' },
    ...{
      place: 'keys1',
      port: 'upper port',
      at: null,
      alsoAt: [],
      heardAs: null,
      settings: { known: null, wanted: {} },
      lowestKey: 28,
      highestKey: 103,
      channel: 1,
      octaveShift: 0,
    },
    touch: EVEN_TOUCH,
  },
  {
    ...{ kind: 'keyboard', id: 'lower', rigId: SHOW, position: 1, name: 'Lower keys' },
    ...{
      place: 'keys2',
      port: 'lower port',
      at: null,
      alsoAt: [],
      heardAs: null,
      settings: { known: null, wanted: {} },
      lowestKey: 36,
      highestKey: 96,
      channel: 2,
      octaveShift: 1,
    },
    touch: { ...EVEN_TOUCH, bend: 0.3 },
  },
  {
    ...{ kind: 'controlBox', id: 'pads', rigId: SHOW, position: 2, name: 'Pads' },
    ...{
      place: 'pads1',
      port: 'pad port',
      at: null,
      alsoAt: [],
      heardAs: null,
      settings: { known: null, wanted: {} },
      channel: 10,
      padNotes: [36, 37, 38, 39],
      knobControllers: [20, 21],
    },
  },
  {
    ...{ kind: 'module', id: 'module', rigId: SHOW, position: 3, name: 'Module' },
    ...{ place: 'module1', port: 'module port', at: null, alsoAt: [], channels: [3, 4] },
  },
];

/** How the sounds that are no module's are played: what is struck dies away by itself. */
export function playedBy(sourceId: string): PlayedSource {
  const isStruck = sourceId === houseSourceId('felt-piano');
  return { slot: isStruck ? 0 : 1, ringsOn: isStruck };
}

/** Sounds: struck, held, and two programs of the module. */
export const SOUNDS = ['struck', 'held', 'outside 3', 'outside 4'] as const;
const sounds = new Map(
  SOUNDS.map((id): [string, Sound] => [
    id,
    {
      ...{ id, name: id, category: 'pianos', tags: [], favourite: false },
      ...{ lowestNote: 0, highestNote: 127 },
      origin: id.startsWith('outside')
        ? {
            kind: 'outside',
            place: 'module1',
            channel: Number(id.slice(-1)),
            bank: null,
            program: 7,
          }
        : { kind: 'house', recipe: id === 'struck' ? 'felt-piano' : 'warm-pad' },
    },
  ]),
);

/** A layer of any sort. */
export function anyLayer(chance: Chance, id: string, soundIds: readonly string[]): Layer {
  const [a, b] = [chance.whole(0, 127), chance.whole(0, 127)];
  const [soft, hard] = [chance.whole(1, 127), chance.whole(1, 127)];
  const keys = chance.percent(30) ? [0, 127] : [Math.min(a, b), Math.max(a, b)];
  const strengths = chance.percent(50) ? [1, 127] : [Math.min(soft, hard), Math.max(soft, hard)];
  const fades = ([low, high]: number[]) => {
    const fadeIn = chance.percent(30) ? chance.whole(0, Math.min(127, high - low + 1)) : 0;
    const fadeOut = chance.percent(30) ? chance.whole(0, high - low + 1 - fadeIn) : 0;
    return { low, high, fadeIn, fadeOut: Math.min(127, fadeOut), law: 'equalPower' as const };
  };
  return {
    ...newLayer(id, id, chance.of(soundIds)),
    keyboards: chance.of<Layer['keyboards']>([
      'any',
      'any',
      ['keys1'],
      ['keys2'],
      ['keys1', 'keys2'],
    ]),
    channel: chance.of<Layer['channel']>(['any', 'any', 'any', 1, 2]),
    keys: fades(keys),
    velocities: fades(strengths),
    touch: chance.percent(20) ? { ...EVEN_TOUCH, inLow: 60, below: 'silent' } : EVEN_TOUCH,
    transpose: chance.of([0, 0, 0, 12, -12, 24, -36, 60]),
    level: chance.whole(-30, 6),
    muted: chance.percent(10),
    obeys: chance.percent(80) ? newLayer('', '', '').obeys : [],
  };
}

function anyTreatment(chance: Chance, id: string, layerIds: string[]): Treatment {
  const made = newTreatment(chance.of(TREATMENT_KINDS), id, layerIds);
  const on = chance.percent(80);
  if (made.kind === 'arpeggio')
    return {
      ...{ ...made, on, hold: chance.percent(40), octaves: chance.whole(1, 3) },
      ...{ order: chance.of(['up', 'down', 'both', 'as played', 'chord'] as const) },
      ...{ rate: chance.of(['1/8', '1/16T', '1/32'] as const), gate: chance.of([0.05, 0.5, 1]) },
    };
  if (made.kind === 'sieve') return { ...made, on, everyNth: chance.whole(1, 3) };
  return { ...made, on };
}

/** A patch of any sort; without treatments if that is asked for. */
export function anyPatch(
  chance: Chance,
  id: string,
  {
    treated = true,
    soundIds = SOUNDS,
    most = 6,
  }: { treated?: boolean; soundIds?: readonly string[]; most?: number } = {},
): Patch {
  const polyphony = () => chance.of([1, 3, 'many', 'many'] as const);
  const own = soundIds.map((sound) => ({
    ...newPatchSound(sound, sound),
    polyphony: polyphony(),
    glideSeconds: chance.of([0, 0.1]),
  }));
  const layers = Array.from({ length: chance.whole(1, most) }, (_, i) =>
    anyLayer(chance, `layer-${i}`, soundIds),
  );
  const ids = layers.map((layer) => layer.id);
  const treatments = treated
    ? Array.from({ length: chance.whole(0, 3) }, (_, i) =>
        anyTreatment(
          chance,
          `treatment-${i}`,
          ids.filter(() => chance.percent(60)),
        ),
      ).filter(({ layerIds }) => layerIds.length > 0)
    : [];
  const targets: ControlTarget[] = [
    ...ids.map((layerId) => ({ kind: 'layer' as const, layerId, parameter: 'level' as const })),
    ...ids.map((layerId) => ({ kind: 'layer' as const, layerId, parameter: 'lift' as const })),
    ...ids.map((layerId) => ({ kind: 'layer' as const, layerId, parameter: 'mute' as const })),
    { kind: 'octave', place: 'keys1' },
    { kind: 'letter', layer: 1, parameter: 'solo' },
    ...treatments.map((t) => ({ kind: 'treatment' as const, treatmentId: t.id })),
  ];
  const controls = Array.from({ length: chance.whole(0, 4) }, (_, i): Tie => {
    const target = chance.of(targets);
    const note = target.kind === 'treatment' || chance.percent(20);
    return {
      ...{
        id: `control-${i}`,
        place: note ? 'pads1' : chance.of(['keys1', 'pads1'] as const),
        target,
      },
      message: note
        ? { kind: 'note', note: chance.whole(36, 37) }
        : { kind: 'controller', controller: chance.of([1, 20, 21]) },
      ...{ from: -24, to: 0, curve: chance.of(travelCurveSchema.options) },
      ...{ acts: chance.of(actsSchema.options), reads: chance.of(readsSchema.options) },
      pickUp: chance.percent(50),
      begins: chance.of(beginsSchema.options),
    };
  });
  const choosers: Chooser[] =
    chance.percent(40) && layers.length > 1
      ? [
          {
            ...newChooser(`${id}-chooser`, 'Chooser', layers),
            controls: [
              { place: 'pads1', message: { kind: 'pad', pad: 2 }, picks: 'next' },
              {
                ...{ place: 'keys1', message: { kind: 'controller', controller: 21 } },
                picks: 'position',
              },
            ],
          },
        ]
      : [];
  return { ...newPatch(id, 'song', 0, id), sounds: own, layers, treatments, controls, choosers };
}

/** A show of a song with some patches and cues; the last cue plays a patch without treatments. */
export function anyShow(chance: Chance): ShowPlan {
  const all = [0, 1, 2].map((n) => anyPatch(chance, `patch-${n}`));
  const last = anyPatch(chance, 'last', { treated: false });
  const patches = Object.fromEntries([...all, last].map((patch) => [patch.id, patch]));
  const cue = (id: string, position: number, patchId: string): Cue => ({
    ...newCue(id, 'song', position, id, patchId),
    balance: Object.fromEntries(
      patches[patchId].layers
        .filter(() => chance.percent(50))
        .map(({ id: layer }) => [
          layer,
          { level: chance.whole(-40, 0), muted: chance.percent(15) },
        ]),
    ),
    controllers: chance.percent(40)
      ? [{ controller: chance.of([1, 11, 20, 74]), value: chance.whole(0, 127) }]
      : [],
    treatments: chance.percent(40)
      ? Object.fromEntries(patches[patchId].treatments.map((t) => [t.id, chance.percent(50)]))
      : {},
    tempo: chance.of([null, null, 90]),
    fadeSeconds: chance.of([null, 0, 0.5, 4]),
  });
  const cues = [
    ...Array.from({ length: 8 }, (_, i) => cue(`cue-${i}`, i, chance.of(all).id)),
    cue('last', 8, 'last'),
  ];
  const song: Song = {
    ...newSong('song', 'Song'),
    fingered: key,
    sounding: { ...key, tonic: chance.whole(0, 11) },
  };
  const show: Show = {
    ...newShow(SHOW, 'Show', '2027-01-01', SHOW),
    defaultFadeSeconds: 0.5,
    heldNotes: chance.of(['finish', 'cut'] as const),
    order: [songEntry('entry', 'song')],
    controls: [{ action: 'nextCue', place: 'pads1', message: { kind: 'note', note: 39 } }],
    going: {
      ...{ guardSeconds: 0.01, atEnd: chance.of(['stop', 'wrap'] as const) },
      clock: {
        leader: chance.of([null, 'clock port']),
        followers: chance.of([[], ['followers']]),
        countInBars: chance.whole(0, 1),
        click: { on: chance.percent(30), output: 'both', level: -12 },
      },
    },
  };
  const songs = new Map([[song.id, song]]);
  return {
    ...{ show, devices, rig: compileRig(devices), songs, sounds, patches },
    cues: Object.fromEntries(cues.map((c) => [c.id, c])),
    steps: steps(show.order, songs, cues),
    ties: [],
    patterns: new Map(),
  };
}
