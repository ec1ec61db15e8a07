import { newLayer, newPatchSound } from '@pentachord/core/model';
import type { Remark } from '@pentachord/core/coverage';
import { expect, it } from 'vitest';
import { wordsOnField } from './wording';

const whole = { keys: { low: 28, high: 103 }, velocities: { low: 1, high: 127 } };
const scale = { ground: whole, width: 900, height: 290 };
const sound = newPatchSound('sound', 'library');
const layer = (id: string, name: string) => newLayer(id, name, sound.id);
const remark = (id: string, kind: Remark['kind'], where: Remark['where'] = whole): Remark => ({
  ...{ patchId: 'patch', kind, id, weight: 'note', text: id, keyboardId: 'upper', where },
  layerIds: [],
});

it('each word on the field is found again with what it is about, whatever is left out before it', () => {
  const box = { x: 0, y: 0, width: 400, height: 290 };
  const { labels, tags, named } = wordsOnField({
    scale,
    layers: [layer('away', 'Away'), layer('here', 'Here'), layer('also', 'Also')],
    boxes: [null, box, { ...box, x: 420 }],
    // Silent ground is drawn in any case, and what has no place has no tag.
    remarks: [remark('drawn', 'silentKeys'), remark('nowhere', 'dip', null), remark('dip', 'dip')],
    grounds: [
      { id: 'plain', box, hatched: [1], letters: '' },
      { id: 'shared', box, hatched: [], letters: 'A B C' },
    ],
  });
  expect(labels.map((one) => [one.layer.id, one.index])).toEqual([
    ['here', 1],
    ['also', 2],
  ]);
  expect(tags.map((one) => [one.remark.id, one.words])).toEqual([['dip', 'dip']]);
  expect(named.map((one) => one.id)).toEqual(['shared']);
});

it('a label of a layer that is too small lies beside it, on the field', () => {
  const small = { x: 890, y: 280, width: 8, height: 8 };
  const [label] = wordsOnField({
    ...{ scale, layers: [layer('small', 'Small one')], boxes: [small], remarks: [], grounds: [] },
  }).labels;
  expect(label.spot.x + label.spot.width).toBeLessThanOrEqual(scale.width);
  expect(label.spot.y + label.spot.height).toBeLessThanOrEqual(scale.height);
  expect(label.spot.width).toBeGreaterThan(40);
});
