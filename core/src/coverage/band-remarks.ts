import { placeInWords } from '../model/rig/place.js';
import { isKeyboard, type Device } from '../model/rig/rig.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { triggerInWords } from '../patterns/words.js';
import type { CompiledPatch } from '../routing/compile.js';
import { groundOf } from './coverage.js';
import type { Found } from './remark.js';

/** What is worth noticing about the accompanists of a patch. */
export function bandRemarks(
  patch: CompiledPatch,
  { devices, middleC }: { devices: readonly Device[]; middleC: NoteNaming },
): Found[] {
  const { accompanists, triggers, triggerAt, controllerAt } = patch.band;
  const found: Found[] = [];
  const about = (kind: Found['kind'], id: string, text: string, accompanistId?: string) =>
    found.push({
      ...{ kind, id: `${kind} ${id}`, weight: 'alarm', text, keyboardId: null, where: null },
      ...{ layerIds: [], ...(accompanistId === undefined ? {} : { accompanistId }) },
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
