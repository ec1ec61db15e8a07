import { beforeEach, describe, expect, it } from 'vitest';
import { isChosen, type Chooser, type ChooserControl } from '../model/patch/chooser.js';
import { newLayer } from '../model/patch/layer.js';
import { patchSchema } from '../model/patch/patch.js';
import { silenceInWords } from '../routing/silence.js';
import { COMMAND } from '../sampler/command-ring.js';
import { taken } from '../setlist/cue-differences.js';
import { cueOf, patchOf, plan, SmallShow } from '../testing/small-show.js';

const pad = (number: number, picks: ChooserControl['picks']): ChooserControl => ({
  ...{ place: 'pads1', message: { kind: 'pad', pad: number }, picks },
});
const chooser: Chooser = {
  id: 'right',
  name: 'Right hand',
  choices: [
    { name: 'one', layerIds: ['layer'] },
    { name: 'two', layerIds: ['second', 'third'] },
    { name: 'nobody', layerIds: [] },
  ],
  chosen: 0,
  controls: [],
};
const always = newLayer('always', 'Always', 'sound');
const first = patchOf('first', 'house');
const layers = [
  ...first.layers,
  ...['second', 'third'].map((id) => ({ ...newLayer(id, id, 'sound') })),
  always,
];

/** A show whose pads do nothing else, with choosers in its first patch. */
function showWith(choosers: Chooser[], cues = plan.cues) {
  const small = new SmallShow(plan.devices, []);
  const patch = { ...first, layers, choosers };
  expect(patchSchema.safeParse(patch).error).toBeUndefined();
  small.runner.follow(
    {
      ...plan,
      cues,
      show: { ...plan.show, controls: [] },
      patches: { ...plan.patches, first: patch },
    },
    {
      ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
      ...{ soloed: new Set<string>(), asCue: true, showtime: false },
    },
  );
  return small;
}

describe('choosers', () => {
  let small: SmallShow;
  /** How many layers sound for a struck key. */
  const struck = (key: number) => {
    small.host.receive('upper port', [0x90, key, 100]);
    return small.ofKind(COMMAND.start).length;
  };
  const tap = (note: number) => small.host.receive('pad port', [0x99, note, 100, note, 0]);
  beforeEach(() => {
    small = showWith([{ ...chooser, controls: [pad(0, 1), pad(1, 2)] }]);
  });

  it('use the pad up, and say why a layer waits', () => {
    tap(39);
    expect(small.player.noteCount).toBe(0);
    const only = showWith([
      {
        ...chooser,
        choices: [{ name: 'all', layerIds: layers.map(({ id }) => id) }, chooser.choices[2]],
        chosen: 1,
      },
    ]);
    only.host.receive('upper port', [0x90, 60, 100]);
    expect(only.player.silentNoteCount).toBe(1);
    expect(silenceInWords(only.runner.current, only.player.lastNote, 4)).toBe(
      'Upper C4 sounds nothing: A waits: another choice is picked',
    );
  });

  it('are kept by cues: what a hand picked is taken, and a recalled cue brings its own', () => {
    const cues = { ...plan.cues, two: cueOf('two', 1, 'first', { choices: { right: 2 } }) };
    small = showWith([{ ...chooser, controls: [pad(0, 1)] }], cues);
    tap(36);
    const heard = small.runner.heard();
    const written = { ...first, layers, choosers: [chooser] };
    expect(heard && taken(heard, written, 100).choices).toEqual({ right: 1 });
    small.runner.move(1);
    expect(struck(60)).toBe(1);
    tap(36);
    expect(struck(62)).toBe(3);
  });

  it('have to agree where several name one layer', () => {
    const other = { ...chooser, id: 'other', chosen: 1 };
    expect(isChosen('layer', [chooser])).toBe(true);
    expect(isChosen('layer', [chooser, other])).toBe(false);
    expect(isChosen('always', [chooser, other])).toBe(true);
  });

  it('keep a pedal or button that is held from picking again when the patch is edited meanwhile', () => {
    const button = { place: 'keys1', message: { kind: 'controller', controller: 20 } } as const;
    const own = { ...chooser, controls: [{ ...button, picks: 'next' as const }] };
    small = showWith([own]);
    small.host.receive('upper port', [0xb0, 20, 127]);
    expect(small.player.pickedBy('right')).toBe(1);
    small.runner.follow(
      {
        ...{ ...plan, show: { ...plan.show, controls: [] } },
        patches: {
          ...plan.patches,
          first: { ...first, name: 'Renamed', layers, choosers: [{ ...own }] },
        },
      },
      {
        ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
        ...{ soloed: new Set<string>(), asCue: true, showtime: false },
      },
    );
    small.host.receive('upper port', [0xb0, 20, 126]);
    expect(small.player.pickedBy('right')).toBe(1);
    small.host.receive('upper port', [0xb0, 20, 0, 20, 127]);
    expect(small.player.pickedBy('right')).toBe(2);
  });
});
