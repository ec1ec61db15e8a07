import { writtenSetting } from '../model/patch/band-moves.js';
import {
  BAND_SETTINGS,
  bandSettingSchema,
  type BandMoves,
  type BandSetting,
} from '../model/patch/band-settings.js';
import { EFFECT_NAMES } from '../model/patch/effects.js';
import type { Patch } from '../model/patch/patch.js';
import { TREATMENT_NAMES } from '../model/patch/treatment.js';
import type { Cue, CueLevel } from '../model/show/cue.js';
import { formatDb } from '../units/decibels.js';
import type { BeatsPerMinute } from '../units/times.js';
import { heardOf, type Heard, type HeardLayer } from './heard.js';

/** One thing that is heard otherwise than a cue has it. */
export interface CueDifference {
  /** The layer it is about, for its letter; null for what is about none. */
  layerId: string | null;
  what: string;
  before: string;
  now: string;
}

/** What a cue recalls, apart from where it stands and what it is called. */
export type CueContent = Pick<
  Cue,
  'patchId' | 'balance' | 'treatments' | 'choices' | 'band' | 'controllers' | 'tempo'
>;

/**
 * What is heard as a cue recalls it: every level and mute, so that it stays as it was taken; lifts, sends, treatments and the
 * tempo as far as they are otherwise than written.
 */
export function taken(heard: Heard, patch: Patch, songTempo: BeatsPerMinute): CueContent {
  const balance: Record<string, CueLevel> = {};
  for (const layer of patch.layers) {
    const now = heard.layers[layer.id] as HeardLayer | undefined;
    if (!now) continue;
    const kept: CueLevel = { level: now.level, muted: now.muted };
    if (now.lift !== layer.lift.on) kept.lift = now.lift;
    const others = EFFECT_NAMES.filter((name) => now.sends[name] !== layer.sends[name]);
    if (others.length > 0)
      kept.sends = Object.fromEntries(others.map((name) => [name, now.sends[name]]));
    balance[layer.id] = kept;
  }
  const treatments: Record<string, boolean> = {};
  for (const { id, on } of patch.treatments)
    if (id in heard.treatments && heard.treatments[id] !== on)
      treatments[id] = heard.treatments[id];
  const choices: Record<string, number> = {};
  for (const { id, chosen } of patch.choosers)
    if (id in heard.choices && heard.choices[id] !== chosen) choices[id] = heard.choices[id];
  const band: Record<string, BandMoves> = {};
  for (const { id } of patch.accompanists)
    if (Object.keys(heard.band[id] ?? {}).length > 0) band[id] = heard.band[id];
  return {
    patchId: patch.id,
    balance,
    treatments,
    choices,
    band,
    controllers: [...heard.controllers],
    tempo: heard.tempo === songTempo ? null : heard.tempo,
  };
}

/** What is heard otherwise than the cue has it, line by line; nothing when another patch is heard than the cue's. */
export function cueDifferences(
  cue: Cue,
  patch: Patch,
  heard: Heard,
  songTempo: BeatsPerMinute,
): CueDifference[] {
  if (heard.patchId !== cue.patchId || patch.id !== cue.patchId) return [];
  const meant = heardOf(patch, cue, songTempo);
  const found: CueDifference[] = [];
  const differ = (layerId: string | null, what: string, before: string, now: string) => {
    if (before !== now) found.push({ layerId, what, before, now });
  };
  for (const { id } of patch.layers) {
    const before = meant.layers[id];
    const now = heard.layers[id] as HeardLayer | undefined;
    if (!now) continue;
    differ(id, 'mute', onOff(before.muted), onOff(now.muted));
    differ(id, 'level', formatDb(before.level), formatDb(now.level));
    differ(id, 'lift', onOff(before.lift), onOff(now.lift));
    for (const name of EFFECT_NAMES)
      differ(id, name, formatDb(before.sends[name]), formatDb(now.sends[name]));
  }
  for (const treatment of patch.treatments) {
    const { id, kind, layerIds } = treatment;
    const now = heard.treatments[id] as boolean | undefined;
    if (now !== undefined)
      differ(layerIds[0], TREATMENT_NAMES[kind], onOff(meant.treatments[id]), onOff(now));
  }
  for (const { id, name, choices } of patch.choosers) {
    const now = heard.choices[id] as number | undefined;
    const called = (at: number) => choices.at(at)?.name ?? '—';
    if (now !== undefined) differ(null, name, called(meant.choices[id]), called(now));
  }
  for (const accompanist of patch.accompanists) {
    const stands = (all: Heard['band'], setting: BandSetting) =>
      (all[accompanist.id] as BandMoves | undefined)?.[setting] ??
      writtenSetting(setting, accompanist, accompanist.patterns.at(0));
    for (const setting of bandSettingSchema.options) {
      const { name, isSwitch } = BAND_SETTINGS[setting];
      const said = (value: number) =>
        isSwitch ? onOff(value === 1) : String(value).replace('-', '−');
      const [before, now] = [meant.band, heard.band].map((all) => said(stands(all, setting)));
      differ(accompanist.layerIds.at(0) ?? null, `${name} of ${accompanist.name}`, before, now);
    }
  }
  const controllers = new Set(
    [...meant.controllers, ...heard.controllers].map(({ controller }) => controller),
  );
  for (const controller of [...controllers].sort((a, b) => a - b)) {
    const valueIn = (all: Cue['controllers']) => {
      const one = all.find((position) => position.controller === controller);
      return one ? String(one.value) : '—';
    };
    differ(null, `CC ${controller}`, valueIn(meant.controllers), valueIn(heard.controllers));
  }
  differ(null, 'tempo', String(meant.tempo), String(heard.tempo));
  return found;
}

function onOff(on: boolean): string {
  return on ? 'on' : 'off';
}
