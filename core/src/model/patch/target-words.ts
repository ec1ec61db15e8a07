import { placeInWords } from '../rig/place.js';
import { PRESS_NAMES } from '../show/press.js';
import type { Accompanist } from './accompanist.js';
import { BAND_SETTINGS } from './band-settings.js';
import { EFFECT_NAMES } from './effects.js';
import { PARAMETERS, type ControlTarget, type LetterParameter } from './control-target.js';
import type { Layer } from './layer.js';
import { TREATMENT_NAMES, treatmentInWords, type Treatment } from './treatment.js';

/** What words are made of: the things of a patch, and names of songs and cues. */
export interface TargetWords {
  layers: readonly Layer[];
  treatments: readonly Treatment[];
  accompanists: readonly Pick<Accompanist, 'id' | 'name'>[];
  /** Where a control goes to, in words. */
  called?: (songId: string, cueId: string | null) => string;
}

/** What every kind of target is called. */
const WORDS: {
  [K in ControlTarget['kind']]: (
    target: Extract<ControlTarget, { kind: K }>,
    words: TargetWords,
  ) => string;
} = {
  layer: ({ layerId, parameter }, { layers }) =>
    ofLayer(parameter, layers.find(({ id }) => id === layerId)?.name ?? 'a layer that is gone'),
  sound: ({ patchSoundId, parameter }, { layers }) => {
    const players = layers.filter((layer) => layer.soundId === patchSoundId);
    return `${parameter} of ${players.map(({ name }) => name).join(' and ')}`;
  },
  treatment: ({ treatmentId }, { treatments }) =>
    treatmentWords(treatments.find(({ id }) => id === treatmentId)),
  accompanist: ({ accompanistId, setting }, { accompanists }) => {
    const { name, isSwitch } = BAND_SETTINGS[setting];
    const whose = accompanists.find(({ id }) => id === accompanistId)?.name ?? 'one that is gone';
    return `${name} of ${whose}${isSwitch ? ', on and off' : ''}`;
  },
  letter: ({ layer, parameter }) => ofLayer(parameter, `layer ${String.fromCharCode(65 + layer)}`),
  nthTreatment: ({ treatment }) => `treatment ${treatment + 1} on and off`,
  choose: ({ chooser, picks }) => {
    const own = `chooser ${chooser + 1}`;
    if (picks === 'next') return `${own}: the next`;
    return picks === 'position' ? `${own}, by sector` : `${own}: ${picks + 1}`;
  },
  octave: ({ place }) => `octave of ${placeInWords(place)}`,
  show: ({ action }) => PRESS_NAMES[action].toLowerCase(),
  goTo: ({ songId, cueId }, { called = () => 'a cue' }) => `go to ${called(songId, cueId)}`,
};

/** A target in words: `level of Pad`, `brightness of Tine`, `up, 1/16`. */
export function targetInWords<T extends ControlTarget>(target: T, words: TargetWords): string {
  const inWords = WORDS[target.kind] as unknown as (target: T, words: TargetWords) => string;
  return inWords(target, words);
}

/** What can be moved of a layer or its sound, as it is called where it is chosen. */
export function parameterInWords(parameter: LetterParameter): string {
  return (EFFECT_NAMES as readonly string[]).includes(parameter) ? `${parameter} send` : parameter;
}

function treatmentWords(treatment: Treatment | undefined): string {
  if (!treatment) return 'nothing';
  return `${TREATMENT_NAMES[treatment.kind]} (${treatmentInWords(treatment)}) on and off`;
}

function ofLayer(parameter: LetterParameter, name: string): string {
  const { isSwitch } = PARAMETERS[parameter];
  return `${parameterInWords(parameter)} of ${name}${isSwitch ? ' on and off' : ''}`;
}
