import type { Sound } from '../model/library/sound.js';
import type { Accompanist } from '../model/patch/accompanist.js';
import { placeInWords } from '../model/rig/place.js';
import { isKeyboard, type Device } from '../model/rig/rig.js';
import { noteName, type MidiNote, type NoteNaming } from '../pitch/note-names.js';
import { KIT_PIECES } from '../patterns/kit-pieces.js';
import type { ReadyPattern } from '../patterns/ready-pattern.js';
import { triggerInWords } from '../patterns/words.js';
import type { CompiledPatch } from '../routing/compile.js';
import { groundOf } from './coverage.js';
import type { Found } from './remark.js';

interface BandRemarkSettings {
  devices: readonly Device[];
  middleC: NoteNaming;
  sounds: ReadonlyMap<string, Sound>;
}

/** What is worth noticing about the accompanists of a patch. */
export function bandRemarks(
  patch: CompiledPatch,
  { devices, middleC, sounds }: BandRemarkSettings,
): Found[] {
  const { accompanists, triggers, triggerAt, controllerAt } = patch.band;
  const found: Found[] = [];
  const about = (
    kind: Found['kind'],
    id: string,
    text: string,
    accompanistId?: string,
    more: Partial<Found> = {},
  ) =>
    found.push({
      ...{ kind, id: `${kind} ${id}`, weight: 'alarm', text, keyboardId: null, where: null },
      ...{ layerIds: [], ...(accompanistId === undefined ? {} : { accompanistId }), ...more },
    });
  triggers.forEach((all, at) => {
    if (all.length < 2) return;
    const struck = triggerAt.indexOf(at + 1);
    const index = struck >= 0 ? struck : controllerAt.indexOf(at + 1);
    const key = struck >= 0 ? noteName(index % 128, middleC) : `button CC ${index % 128}`;
    const where = devices.find(({ id }) => id === patch.rig.ids[index >> 7]);
    const starts = all.map((trigger) => triggerInWords(trigger, patch.band)).join(' and ');
    const last = all.findLast((trigger) => trigger.kind === 'pattern');
    about(
      'twoStarts',
      struck >= 0 ? String(index) : `CC ${index}`,
      `${key} of ${where?.name ?? 'the rig'} does two things: ${starts}`,
      last && accompanists[last.accompanist].id,
    );
  });
  for (const { id, source, patterns, layerIds } of accompanists) {
    if (layerIds.size === 0 && patterns.length > 0)
      about(
        'silentBand',
        id,
        `${source.name} plays no layer: its keys start nothing that is heard`,
        id,
        { layerIds: layersLike(patch, patterns, sounds) },
      );
    const pieces = piecesMissing(patch, source, patterns, layerIds);
    for (const { ready, keys, kit } of pieces)
      about(
        'missingPieces',
        `${id} ${ready.id}`,
        `“${ready.name}” of ${source.name} asks for ${inWords(keys, middleC)}, which ${kit} does not have`,
        id,
        { layerIds: [...layerIds], pieces: { [ready.id]: keys } },
      );
    const keyboard = devices
      .filter(isKeyboard)
      .find(({ place, alsoAt }) => place === source.place || alsoAt.includes(source.place));
    if (!keyboard || source.starters === 'controllers') continue;
    const { keys } = groundOf(keyboard);
    const out = patterns.filter(({ key }) => key < keys.low || key > keys.high);
    if (out.length > 0)
      about(
        'beyondRun',
        id,
        `${out.length === 1 ? 'a pattern' : `${out.length} patterns`} of ${source.name} lie beyond the ${placeInWords(source.place)}: ${out.map(({ name }) => name).join(', ')}`,
        id,
      );
  }
  return found;
}

/** Below this, on the average, patterns are a bass’s. */
const BASS_BELOW: MidiNote = 50;

/** The first layer of the kind that patterns are written for; none where there is no such. */
function layersLike(
  { layers }: CompiledPatch,
  patterns: readonly ReadyPattern[],
  sounds: ReadonlyMap<string, Sound>,
): string[] {
  const isKit = patterns.some(({ tonic }) => tonic < 0);
  const keys = patterns.flatMap((ready) => [...ready.keys]);
  const mean = keys.reduce((sum, key) => sum + key, 0) / Math.max(1, keys.length);
  const kind = isKit ? 'drums and percussion' : mean < BASS_BELOW ? 'basses' : null;
  const found = layers.find(({ librarySoundId }) => {
    const category = sounds.get(librarySoundId)?.category;
    if (kind) return category === kind;
    return category !== undefined && category !== 'drums and percussion' && category !== 'basses';
  });
  return found ? [found.id] : [];
}

/** Notes of drum patterns, by the keys that they are written on, for which no layer of the accompanist has a piece. */
function piecesMissing(
  { layers }: CompiledPatch,
  { transpose, patterns: placed }: Accompanist,
  patterns: readonly ReadyPattern[],
  layerIds: ReadonlySet<string>,
): { ready: ReadyPattern; keys: MidiNote[]; kit: string }[] {
  const mine = layers.filter(({ id }) => layerIds.has(id));
  if (mine.length === 0 || mine.some(({ kit }) => !kit)) return [];
  return patterns
    .filter(({ tonic }) => tonic < 0)
    .map((ready) => {
      const by = (placed.find(({ id }) => id === ready.id)?.shape.transpose ?? 0) + transpose;
      const out = [...new Set(ready.keys)].filter((key) =>
        mine.every(({ kit }) => (kit?.[key] ?? -1) < 0),
      );
      return { ready, keys: out.map((key) => key - by), kit: mine[0].name };
    })
    .filter(({ keys }) => keys.length > 0);
}

function inWords(keys: readonly MidiNote[], middleC: NoteNaming): string {
  const names = keys.map((key) => KIT_PIECES.get(key) ?? noteName(key, middleC));
  const last = names.pop() ?? '';
  return names.length > 0 ? `${names.join(', ')} and ${last}` : last;
}
