import { triggersOfKey } from '../patterns/compiled-band.js';
import { triggerInWords } from '../patterns/words.js';
import { TREATMENT_NAMES, type Treatment } from '../model/patch/treatment.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { dbFromGain, formatDb } from '../units/decibels.js';
import { contains } from '../range/range.js';
import type { CompiledLayer, CompiledPatch } from './compile.js';
import { judge, rangeGainOf, VERDICT, type Verdict } from './judge.js';

/** A note as a device sent it. */
export interface PlayedNote {
  /** Index of the device in the rig. */
  device: number;
  /** 1–16. */
  channel: number;
  /** 0–127, before the keyboard's own octave shift. */
  key: number;
  /** 1–127, before the keyboard's own touch. */
  velocity: number;
  /** Semitones by which a control had it heard higher or lower; none if left out. */
  shift?: number;
}

/** What one layer did with a played note. */
export interface LayerTrace {
  layer: CompiledLayer;
  verdict: Verdict;
  /** Sounding note 0–127, when it sounds. */
  note: number | null;
  /** Velocity 1–127 that the sound gets, when it sounds. */
  velocity: number | null;
  /** What its fades and its level make of it, dB, when it sounds. */
  gainDb: number | null;
  /** What has moved its level since, in words; empty while it is as the patch or cue has it. */
  movedBy: string;
  /** What is done to the note before it sounds, in order; empty when it does not sound. */
  treatments: readonly Treatment[];
  /** The sieve that holds the note back, though the layer answers it; null when none does. */
  heldBackBy: Sieve | null;
}

/** Where the level of a layer stands, when that is otherwise than its patch or cue has it. */
export interface LevelNow {
  /** dB, as it really sounds. */
  level: number;
  /** What moved it, in words: `by knob 2`. */
  by: string;
}

type Sieve = Extract<Treatment, { kind: 'sieve' }>;

/** True when a layer made the note sound, or has it treated so that something sounds. */
export function isHeard({ verdict, heldBackBy }: LayerTrace): boolean {
  return verdict === VERDICT.sounds && heldBackBy === null;
}

/** What became of a played note, layer by layer. */
export interface Trace {
  played: PlayedNote;
  /** Key and velocity as the layers heard them, after the keyboard's own octave shift and touch. */
  heardKey: number;
  heardVelocity: number;
  /** What the key starts instead of being played, in words; none for most. */
  starts: string[];
  /** The accompanists that it starts something of, by id. */
  startsOf: string[];
  layers: LayerTrace[];
}

/**
 * Follows one played note through a patch. `switched` says whether a control has switched a treatment on or off; null where
 * it is as the patch has it; `levels` where layers stand that something has moved since.
 */
export function trace(
  patch: CompiledPatch,
  played: PlayedNote,
  switched: (treatmentId: string) => boolean | null = () => null,
  levels: Readonly<Record<string, LevelNow | undefined>> = {},
): Trace {
  const heardKey = played.key + patch.rig.keyShift[played.device] + (played.shift ?? 0);
  const heardVelocity = patch.rig.touch[played.device * 128 + played.velocity];
  const layers = patch.layers.map((layer): LayerTrace => {
    const verdict = judge(layer, played.device, played.channel, heardKey, heardVelocity);
    if (verdict !== VERDICT.sounds)
      return {
        layer,
        verdict,
        note: null,
        velocity: null,
        gainDb: null,
        movedBy: '',
        treatments: [],
        heldBackBy: null,
      };
    const treatments = layer.treatments.filter(({ id, on }) => switched(id) ?? on);
    return {
      treatments,
      heldBackBy: holdingBack(treatments, heardKey, heardVelocity),
      layer,
      verdict,
      note: heardKey + layer.shift,
      velocity: layer.touch[heardVelocity],
      gainDb:
        dbFromGain(rangeGainOf(layer, heardKey, heardVelocity)) +
        (levels[layer.id]?.level ?? layer.source.level),
      movedBy: levels[layer.id]?.by ?? '',
    };
  });
  const triggers = triggersOfKey(patch.band, played.device, heardKey);
  const starts = triggers.map((one) => triggerInWords(one, patch.band));
  const startsOf = triggers.flatMap((one) =>
    one.kind === 'band'
      ? patch.band.accompanists.map(({ id }) => id)
      : [patch.band.accompanists[one.accompanist].id],
  );
  return { played, heardKey, heardVelocity, starts, startsOf, layers };
}

/** The first sieve that a note meets before anything has made other notes of it, if it does not let it through. */
function holdingBack(
  treatments: readonly Treatment[],
  key: number,
  velocity: number,
): Sieve | null {
  for (const treatment of treatments) {
    if (treatment.kind !== 'sieve') return null;
    if (!contains(treatment.keys, key) || !contains(treatment.velocities, velocity))
      return treatment;
  }
  return null;
}

/** The verdict in a musician's words: what sounded, or the one reason why it did not. */
export function traceInWords(
  entry: LayerTrace,
  followed: Trace,
  patch: CompiledPatch,
  middleC: NoteNaming,
): string {
  const { layer } = entry;
  const name = (note: number) => noteName(note, middleC);
  switch (entry.verdict) {
    case VERDICT.otherKeyboard:
      return `listens to ${listening(layer, patch)}`;
    case VERDICT.otherChannel:
      return `listens on channel ${layer.channel}; this came on ${followed.played.channel}`;
    case VERDICT.belowKeys:
      return `below its keys, which begin at ${name(layer.keyLow)}`;
    case VERDICT.aboveKeys:
      return `above its keys, which end at ${name(layer.keyHigh)}`;
    case VERDICT.softer:
      return `softer than it answers, which is from ${layer.velocityLow}`;
    case VERDICT.harder:
      return `harder than it answers, which is up to ${layer.velocityHigh}`;
    case VERDICT.muted:
      return 'muted';
    case VERDICT.notSoloed:
      return 'another layer is soloed';
    case VERDICT.notChosen:
      return 'another choice is picked';
    case VERDICT.touchSilences:
      return followed.heardVelocity === 0
        ? 'the keyboard’s own touch silences it'
        : `its touch silences everything under ${layer.source.touch.inLow}`;
    case VERDICT.outsideMidi:
      return `would sound outside the MIDI notes 0–127`;
    case VERDICT.sounds: {
      const { heldBackBy: sieve, treatments } = entry;
      if (sieve) {
        const { keys, velocities } = sieve;
        return contains(keys, followed.heardKey)
          ? `its sieve lets through velocities ${velocities.low}–${velocities.high}`
          : `its sieve lets through keys ${name(keys.low)}–${name(keys.high)}`;
      }
      const through = treatments.map(({ kind }) => TREATMENT_NAMES[kind]);
      const moved = entry.movedBy ? `, ${entry.movedBy}` : '';
      const words = `sounds ${name(entry.note ?? 0)} at ${entry.velocity}, ${formatDb(entry.gainDb ?? 0)}${moved}`;
      return through.length > 0 ? `${words}, through ${through.join(', ')}` : words;
    }
  }
}

function listening(layer: CompiledLayer, patch: CompiledPatch): string {
  const names = patch.rig.names.filter((_, index) => layer.hearsDevice[index] === 1);
  return names.length > 0 ? names.join(' and ') : 'a keyboard that is not in the rig';
}
