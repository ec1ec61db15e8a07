import { layerLetter } from '../model/patch/patch.js';
import { placeInWords } from '../model/rig/place.js';
import { deviceAtPlace, isKeyboard, type Device, type Keyboard } from '../model/rig/rig.js';
import type { Sound } from '../model/library/sound.js';
import type { NoteNaming } from '../pitch/note-names.js';
import type { Responses } from '../loudness/plumb-line.js';
import { intersection, widthOf, type Span } from '../range/range.js';
import { withPicks, type CompiledLayer, type CompiledPatch } from '../routing/compile.js';
import { layersHearing } from '../routing/hearing.js';
import { bandRemarks } from './band-remarks.js';
import { loudnessRemarks } from './loudness-remarks.js';
import { keysInWords } from './keys-in-words.js';
import { groundHeardBy, neverHeard } from './never-heard.js';
import type { Found, Remark, RemarkKind } from './remark.js';
import { coverage, groundOf, isFullHeight, type Coverage, type Ground } from './coverage.js';

/** What remarks are computed from. */
export interface RemarkSettings {
  devices: readonly Device[];
  /** The library's sounds, for their natural ranges. */
  sounds: ReadonlyMap<string, Sound>;
  middleC: NoteNaming;
  /** Measured loudness by library sound; without it nothing is said of loudness. */
  responses?: Responses;
}

/**
 * Everything worth noticing about a patch, on every keyboard that any of its layers was made for. What its choosers can pick is
 * judged as patches of their own, and told with the choice where it is so with that one alone.
 */
export function remarks(patch: CompiledPatch, settings: RemarkSettings): Remark[] {
  const found = remarksAsPicked(patch, settings);
  const known = new Set(found.map(({ id }) => id));
  for (const chooser of patch.choosers)
    chooser.choices.forEach((choice, at) => {
      const other = withPicks(patch, (one) => (one.id === chooser.id ? at : one.chosen));
      if (other === patch) return;
      for (const remark of remarksAsPicked(other, settings)) {
        if (known.has(remark.id)) continue;
        known.add(remark.id);
        found.push({ ...remark, text: `${remark.text}, with “${choice.name}” picked` });
      }
    });
  const weighed = found.sort((a, b) => Number(b.weight === 'alarm') - Number(a.weight === 'alarm'));
  return weighed.map((one) => ({ patchId: patch.id, ...one }));
}

function remarksAsPicked(patch: CompiledPatch, settings: RemarkSettings): Found[] {
  const found: Found[] = [];
  for (const keyboard of settings.devices.filter(isKeyboard)) {
    const here = layersHearing(patch, keyboard);
    if (here.length === 0) continue;
    const covered = coverage(patch, keyboard);
    found.push(
      ...silentRemarks(covered, keyboard, settings),
      ...twiceRemarks(covered, patch, keyboard, settings),
      ...loudnessRemarks(covered, patch, keyboard, settings),
    );
    for (const layer of here) found.push(...layerRemarks(layer, patch, keyboard, settings));
  }
  const playedByBand = new Set(
    patch.band.accompanists.flatMap(({ patterns, layerIds }) =>
      patterns.length > 0 ? [...layerIds] : [],
    ),
  );
  for (const layer of patch.layers) {
    const reason = neverHeard(layer, patch, settings.devices);
    // What patterns play need not answer any hand.
    const isPlayed =
      playedByBand.has(layer.id) && reason?.cause !== 'muted' && reason?.cause !== 'level';
    if (reason && !isPlayed)
      found.push({
        kind: 'neverHeard',
        id: `never ${layer.id}`,
        weight: reason.cause === 'muted' ? 'note' : 'alarm',
        text: `${layerLetter(layer.index)} is never heard: ${reason.words}`,
        keyboardId: null,
        where: null,
        layerIds: [layer.id],
      });
  }
  found.push(...programRemarks(patch, settings), ...bandRemarks(patch, settings));
  return found;
}

/** Layers that ask a channel of a module for another program than one before them: it can play one at a time. */
function programRemarks(patch: CompiledPatch, { sounds, devices }: RemarkSettings): Found[] {
  const firstOn = new Map<string, { layer: CompiledLayer; program: number }>();
  const found: Found[] = [];
  for (const layer of patch.layers) {
    const origin = sounds.get(layer.librarySoundId)?.origin;
    if (origin?.kind !== 'outside' || origin.place === null || layer.muted) continue;
    const { place, channel, program } = origin;
    const first = firstOn.get(`${place} ${channel}`);
    if (!first) firstOn.set(`${place} ${channel}`, { layer, program });
    if (!first || first.program === program) continue;
    const module = deviceAtPlace(devices, place)?.name ?? placeInWords(place);
    found.push({
      kind: 'twoPrograms',
      id: `programs ${first.layer.id} ${layer.id}`,
      weight: 'alarm',
      text: `${layerLetter(first.layer.index)} and ${layerLetter(layer.index)} want two programs on channel ${channel} of ${module}: it plays one`,
      keyboardId: null,
      where: null,
      layerIds: [layer.id, first.layer.id],
    });
  }
  return found;
}

function silentRemarks(
  covered: Coverage,
  keyboard: Keyboard,
  { middleC }: RemarkSettings,
): Found[] {
  return covered.silent.map((where) => {
    const names = keysInWords(where.keys, middleC);
    const count = widthOf(where.keys);
    const { low, high } = where.velocities;
    const full = isFullHeight(where, covered.ground);
    const velocities = low === high ? `velocity ${low}` : `velocities ${low}–${high}`;
    return {
      kind: full ? 'silentKeys' : 'silentStrengths',
      id: `silent ${keyboard.id} ${where.keys.low} ${where.keys.high} ${low} ${high}`,
      weight: 'alarm',
      text: full
        ? `${count} silent ${count === 1 ? 'key' : 'keys'}: ${names}`
        : `silent ${velocities} on ${names}`,
      keyboardId: keyboard.id,
      where,
      layerIds: [],
    };
  });
}

function twiceRemarks(
  covered: Coverage,
  patch: CompiledPatch,
  keyboard: Keyboard,
  { middleC }: RemarkSettings,
): Found[] {
  /** By sound and octave: the layers that double each other somewhere, and the ground over which they do. */
  const doubled = new Map<string, { layers: Set<number>; where: Ground }>();
  for (const cell of covered.cells) {
    const alike = new Map<string, number[]>();
    for (const index of cell.layers) {
      const { librarySoundId, shift } = patch.layers[index];
      const matter = `${librarySoundId} ${shift}`;
      alike.set(matter, [...(alike.get(matter) ?? []), index]);
    }
    for (const [matter, layers] of alike) {
      if (layers.length < 2) continue;
      const known = doubled.get(matter);
      if (!known) doubled.set(matter, { layers: new Set(layers), where: cell });
      else {
        for (const index of layers) known.layers.add(index);
        known.where = around(known.where, cell);
      }
    }
  }
  return [...doubled].map(([matter, { layers, where }]): Found => {
    const letters = [...layers].sort((a, b) => a - b).map(layerLetter);
    return {
      kind: 'sameSoundTwice',
      id: `twice ${keyboard.id} ${matter}`,
      weight: 'note',
      text: `${letters.slice(0, -1).join(', ')} and ${letters.at(-1)} play the same sound on ${keysInWords(where.keys, middleC)}`,
      keyboardId: keyboard.id,
      where,
      layerIds: [...layers].map((index) => patch.layers[index].id),
    };
  });
}

/** The smallest ground that holds two. */
function around(a: Ground, b: Ground): Ground {
  const span = (x: Span, y: Span) => ({
    low: Math.min(x.low, y.low),
    high: Math.max(x.high, y.high),
  });
  return { keys: span(a.keys, b.keys), velocities: span(a.velocities, b.velocities) };
}

/** A layer on one keyboard that hears it, as remarks of it need it. */
interface LayerHere {
  layer: CompiledLayer;
  keyboard: Keyboard;
  letter: string;
  /** The keys of the keyboard that it answers; null for none of them. */
  played: Span | null;
}

function layerRemarks(
  layer: CompiledLayer,
  patch: CompiledPatch,
  keyboard: Keyboard,
  settings: RemarkSettings,
): Found[] {
  const played = intersection(limited(layer, groundOf(keyboard).keys), groundOf(keyboard).keys);
  const here = { layer, keyboard, letter: layerLetter(layer.index), played };
  const found = [beyond(here, patch, settings), outsideMidi(here), unnatural(here, settings)];
  return found.filter((one) => one !== null);
}

/** A limit at the very end of MIDI means “no limit”, not a key that the keyboard ought to have. */
function limited({ keyLow, keyHigh }: CompiledLayer, within: Span): Span {
  return {
    low: keyLow === 0 ? within.low : keyLow,
    high: keyHigh === 127 ? within.high : keyHigh,
  };
}

/** Of several keyboards a layer reaches beyond those that are told, if it reaches beyond all of them. */
function beyond(
  here: LayerHere,
  patch: CompiledPatch,
  { devices, middleC }: RemarkSettings,
): Found | null {
  const { layer, keyboard, letter } = here;
  const all = groundHeardBy(layer.source, devices);
  const ofAll = all && limited(layer, all);
  const heard = devices.filter(isKeyboard).filter((k) => layersHearing(patch, k).includes(layer));
  if (!ofAll || (ofAll.low >= all.low && ofAll.high <= all.high) || heard[0] !== keyboard)
    return null;
  const keys = keysInWords({ low: layer.keyLow, high: layer.keyHigh }, middleC);
  const whose = heard.length > 1 ? 'its keyboards' : keyboard.name;
  const text = `${letter} reaches beyond ${whose}: ${keys}`;
  return ofLayer(here, 'beyondKeyboard', 'note', text, ofAll);
}

function outsideMidi(here: LayerHere): Found | null {
  const { layer, letter, played } = here;
  if (!played) return null;
  const sounding = { low: played.low + layer.shift, high: played.high + layer.shift };
  const inMidi = intersection(sounding, MIDI);
  if (inMidi && widthOf(inMidi) === widthOf(sounding)) return null;
  const text = `${letter} would sound outside the MIDI notes on some of its keys`;
  const found = ofLayer(here, 'outsideMidi', 'alarm', text, played);
  return withWaysOut(found, { sounding, into: MIDI, played, shift: layer.shift });
}

/** Notes beyond those that its sound was made for. */
function unnatural(here: LayerHere, { sounds, middleC }: RemarkSettings): Found | null {
  const { layer, letter, played } = here;
  const sound = sounds.get(layer.librarySoundId);
  if (!sound || !played) return null;
  const sounding = { low: played.low + layer.shift, high: played.high + layer.shift };
  const inMidi = intersection(sounding, MIDI);
  const natural = { low: sound.lowestNote, high: sound.highestNote };
  if (!inMidi || (inMidi.low >= natural.low && inMidi.high <= natural.high)) return null;
  const [now, made] = [keysInWords(inMidi, middleC), keysInWords(natural, middleC)];
  const text = `${letter} sounds ${now}; ${sound.name} was made for ${made}`;
  const found = ofLayer(here, 'outsideNaturalRange', 'note', text, played);
  return withWaysOut(found, { sounding, into: natural, played, shift: layer.shift });
}

const MIDI: Span = { low: 0, high: 127 };

/** What a mend of notes beyond a span can do: octaves by which all of it would lie within, or the keys that do as they are. */
function withWaysOut(
  found: Found,
  { sounding, into, played, shift }: { sounding: Span; into: Span; played: Span; shift: number },
): Found {
  const octaves = octavesInto(sounding, into);
  const keys = intersection(played, { low: into.low - shift, high: into.high - shift });
  return {
    ...found,
    ...(octaves === null ? {} : { octaves }),
    ...(keys === null ? {} : { keys }),
  };
}

function ofLayer(
  { layer, keyboard }: LayerHere,
  kind: RemarkKind,
  weight: Found['weight'],
  text: string,
  keys: Span,
): Found {
  const velocities = { low: layer.velocityLow, high: layer.velocityHigh };
  return {
    ...{ kind, id: `${kind} ${keyboard.id} ${layer.id}`, weight, text },
    ...{ keyboardId: keyboard.id, where: { keys, velocities }, layerIds: [layer.id] },
  };
}

/** The fewest semitones, in whole octaves, that move a span into another; null when none do. */
function octavesInto(span: Span, into: Span): number | null {
  const up = Math.ceil(Math.max(0, into.low - span.low) / 12) * 12;
  const down = Math.ceil(Math.max(0, span.high - into.high) / 12) * 12;
  const by = up > 0 ? up : -down;
  const fits = span.low + by >= into.low && span.high + by <= into.high;
  return by !== 0 && fits ? by : null;
}
