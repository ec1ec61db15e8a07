import type { Voicing, Zone } from '../synthesis/zone.js';
import { gainFromDb, SILENCE_DB } from '../units/decibels.js';
import { START } from './command-ring.js';
import type { Strips } from './strips.js';
import { attackSeconds, releaseSeconds } from './timbre.js';
import type { VoiceStart } from './voice-start.js';

/**
 * Puts into `start` how a voice goes that the record of a start strikes on a zone: its strength, envelope and low-pass.
 * @param strips whose timbre changes the envelope
 */
export function strike(
  start: VoiceStart,
  record: Float64Array,
  voicing: Voicing,
  zone: Zone,
  strips: Pick<Strips, 'attack' | 'release'>,
  sampleRate: number,
): void {
  const s = record[START.strip];
  const softer = record[START.velocity] / 127 - 1;
  start.id = record[START.voice];
  start.strip = s;
  start.slot = record[START.slot];
  start.instance = record[START.instance];
  start.velocity = record[START.velocity];
  start.zone = zone;
  putStep(start, record, zone, sampleRate);
  start.gain = record[START.gain] * gainFromDb(Math.max(SILENCE_DB + 1, softer * voicing.dynamics));
  start.attackFrames = attackSeconds(voicing, strips.attack[s]) * sampleRate;
  const sustain = voicing.sustain ?? 0;
  start.holdFrames = Math.round((voicing.hold ?? 0) * sampleRate) + 0.5;
  start.sustain = sustain <= SILENCE_DB ? 0 : 10 ** (sustain / 20);
  // A straight line in dB; what falls to silence goes on falling.
  const falling = Math.max(1, (voicing.decay ?? 0) * sampleRate);
  start.decayFall = sustain >= 0 ? 1 : 10 ** (Math.max(SILENCE_DB, sustain) / 20 / falling);
  start.releaseFrames = releaseSeconds(voicing, strips.release[s]) * sampleRate;
  start.loopFall = 10 ** (-zone.loopDecay / 20 / sampleRate);
  start.cutoff = voicing.brightness * 2 ** (softer * voicing.darkening);
}

/**
 * Puts into `start` the places of a zone's recording by which the note of a record goes on with every frame. Put there and not
 * given back: a fraction that one function hands to another would be an object.
 */
export function putStep(
  start: VoiceStart,
  record: Float64Array,
  zone: Zone,
  sampleRate: number,
): void {
  const rate = zone.sampleRate / sampleRate;
  const keys = record[START.note] - zone.rootKey;
  start.step =
    zone.tracking === undefined
      ? rate * 2 ** (keys / 12)
      : rate * 2 ** ((keys * zone.tracking + (zone.tuning ?? 0)) / 1200);
}
