import {
  BAND_SETTINGS,
  bandSettingSchema,
  type BandSetting,
} from '../model/patch/band-settings.js';
import {
  letterParameterSchema,
  MOST_LETTERS,
  MOST_NTH,
  PARAMETERS,
  type ControlTarget,
  type LetterParameter,
} from '../model/patch/control-target.js';
import { parameterInWords } from '../model/patch/target-words.js';
import { layerLetter, type Patch } from '../model/patch/patch.js';
import { TREATMENT_NAMES, treatmentInWords } from '../model/patch/treatment.js';
import { partsOfPlace, placeInWords, type Place } from '../model/rig/place.js';
import { PRESS_NAMES, pressSchema, type Press } from '../model/show/press.js';
import type { Owner } from './in-force.js';

/** What can be moved, before it is said of what. */
export type What =
  LetterParameter | BandSetting | Press | 'treatment' | 'choose' | 'octave' | 'goTo';

const isParameter = (what: What): what is LetterParameter => what in PARAMETERS;
const isOfBand = (what: What): what is BandSetting => what in BAND_SETTINGS;

/** What can be moved, in the groups in which it is offered. */
export const WHATS: readonly { name: string; whats: readonly What[] }[] = [
  { name: 'of a layer', whats: letterParameterSchema.options },
  { name: 'of the patch', whats: ['treatment', 'choose'] },
  { name: 'of an accompanist', whats: bandSettingSchema.options },
  { name: 'of what is played', whats: ['octave'] },
  { name: 'of the show', whats: ['goTo', ...pressSchema.options] },
];

/** What can be moved, as it is called where it is chosen. */
export function whatInWords(what: What): string {
  if (what in PRESS_NAMES) return PRESS_NAMES[what as Press].toLowerCase();
  if (isOfBand(what)) return BAND_SETTINGS[what].name;
  if (isParameter(what)) return parameterInWords(what);
  if (what === 'treatment') return 'treatment on and off';
  if (what === 'choose') return 'what a chooser picks';
  if (what === 'octave') return 'octave';
  return what === 'goTo' ? 'go to' : what;
}

/** What a target moves. */
export function whatOf(target: ControlTarget): What {
  if ('parameter' in target) return target.parameter;
  if (target.kind === 'show') return target.action;
  if (target.kind === 'accompanist') return target.setting;
  return target.kind === 'nthTreatment' ? 'treatment' : target.kind;
}

/** One thing of which something can be moved. */
export interface TargetChoice {
  words: string;
  target: ControlTarget;
}

/** Where things are found of which something can be moved. */
export interface TargetSources {
  patch:
    | (Pick<Patch, 'layers' | 'treatments' | 'choosers'> & Partial<Pick<Patch, 'accompanists'>>)
    | null;
  /** Keyboards and boxes of the rig. */
  places: readonly Place[];
  /** Steps of the show, with what they are called. */
  steps: readonly { songId: string; cueId: string | null; name: string }[];
}

/**
 * Everything of which a tie of an owner can move something: a patch speaks of its own layers, sounds, treatments and accompanists, a song and
 * a rig of letters and places in whichever patch is played.
 */
export function choicesOf(what: What, owner: Owner, sources: TargetSources): TargetChoice[] {
  const { patch, places, steps } = sources;
  const isOwn = owner === 'patch';
  if (what in PRESS_NAMES)
    return [{ words: 'the show', target: { kind: 'show', action: what as Press } }];
  if (isOfBand(what)) return isOwn ? ofBand(what, patch) : [];
  switch (what as Exclude<What, Press | BandSetting>) {
    case 'treatment':
      return isOwn
        ? (patch?.treatments ?? []).map((one) => ({
            words: `${TREATMENT_NAMES[one.kind]} (${treatmentInWords(one)})`,
            target: { kind: 'treatment', treatmentId: one.id },
          }))
        : numbered(MOST_NTH, 'treatment', (treatment) => ({ kind: 'nthTreatment', treatment }));
    case 'choose':
      return (isOwn ? (patch?.choosers ?? []) : [0, 1, 2, 3]).flatMap((_, chooser) =>
        choicesOfChooser(chooser, patch),
      );
    case 'octave':
      return places
        .filter((place) => ['keys', 'pedalboard', 'pads'].includes(partsOfPlace(place).kind))
        .map((place) => ({ words: placeInWords(place), target: { kind: 'octave', place } }));
    case 'goTo':
      return steps.map(({ songId, cueId, name }) => ({
        words: name,
        target: { kind: 'goTo', songId, cueId },
      }));
    default:
      return isOwn && isParameter(what) && PARAMETERS[what].of !== 'night'
        ? ofLayers(what, patch)
        : byLetter(what as LetterParameter, patch);
  }
}

function ofLayers(parameter: LetterParameter, patch: TargetSources['patch']): TargetChoice[] {
  const layers = patch?.layers ?? [];
  const isOfSounds = PARAMETERS[parameter].of === 'sound';
  const choices = layers.map(({ id, soundId, name }, at): TargetChoice => {
    const target = isOfSounds
      ? { kind: 'sound', patchSoundId: soundId, parameter }
      : { kind: 'layer', layerId: id, parameter };
    return { words: `${layerLetter(at)} ${name}`, target: target as ControlTarget };
  });
  if (!isOfSounds) return choices;
  // Layers that share a sound are one.
  return choices.filter(
    (_, at) => layers.findIndex(({ soundId }) => soundId === layers[at].soundId) === at,
  );
}

function ofBand(setting: BandSetting, patch: TargetSources['patch']): TargetChoice[] {
  return (patch?.accompanists ?? []).map(({ id, name }) => ({
    words: name,
    target: { kind: 'accompanist', accompanistId: id, setting },
  }));
}

function byLetter(parameter: LetterParameter, patch: TargetSources['patch']): TargetChoice[] {
  return Array.from({ length: MOST_LETTERS }, (_, layer) => {
    const here = patch?.layers.at(layer)?.name;
    return {
      words: `layer ${layerLetter(layer)}${here ? `: ${here} here` : ''}`,
      target: { kind: 'letter', layer, parameter },
    };
  });
}

function choicesOfChooser(chooser: number, patch: TargetSources['patch']): TargetChoice[] {
  const own = patch?.choosers.at(chooser);
  const name = own?.name ?? `chooser ${chooser + 1}`;
  const choose = (picks: number | 'next' | 'position', words: string): TargetChoice => ({
    words: `${name}: ${words}`,
    target: { kind: 'choose', chooser, picks },
  });
  const choices = own?.choices ?? Array.from({ length: 4 }, (_, at) => ({ name: String(at + 1) }));
  return [
    choose('next', 'the next'),
    choose('position', 'by its sectors'),
    ...choices.map((choice, at) => choose(at, choice.name)),
  ];
}

function numbered(
  most: number,
  name: string,
  target: (at: number) => ControlTarget,
): TargetChoice[] {
  return Array.from({ length: most }, (_, at) => ({
    words: `${name} ${at + 1}`,
    target: target(at),
  }));
}
