import type { Remark } from '@pentachord/core/coverage';
import type { Layer } from '@pentachord/core/model';
import { boxOf, type Box, type FieldScale } from '../../ui/field/field-geometry';
import type { DrawnGround } from './grounds';
import { placed, type Wish } from './placing';
import { tagOf } from './tags';

/** Pixels that a letter of a label, of a tag, of a ground takes, and what is around them. */
const LABEL = { letter: 7.8, around: 40, height: 24, least: 26 };
const TAG = { letter: 6.6, around: 14, height: 20 };
const LETTERS = { letter: 8.2, around: 8, height: 18 };
/** The least ground around what a tag is about, in which it is looked for a place. */
const TAG_GROUND = { width: 160, height: 64 };

/** What words on the field are made of. */
export interface Worded {
  scale: FieldScale;
  layers: readonly Layer[];
  /** Where each layer lies; null for those that are not drawn. */
  boxes: readonly (Box | null)[];
  remarks: readonly Remark[];
  grounds: readonly DrawnGround[];
}

/** Everything with words on the field, placed so that none covers another: labels choose first, then tags, then letters. */
export function wordsOnField({ scale, layers, boxes, remarks, grounds }: Worded) {
  const drawn = layers.flatMap((layer, index) => {
    const box = boxes[index];
    return box ? [{ layer, index, box }] : [];
  });
  const tagged = remarks.flatMap((remark) => {
    const where = remark.where && boxOf(scale, remark.where);
    const words = tagOf(remark);
    return where && words ? [{ remark, where, words }] : [];
  });
  const lettered = grounds.filter(({ letters }) => letters !== '');
  const spots = placed(
    [
      ...drawn.map(({ layer, box }) => labelWish(layer, box, scale)),
      ...tagged.map(({ where, words }): Wish => {
        const width = Math.ceil(TAG.around + words.length * TAG.letter);
        return { within: grownTo(where, scale), width, height: TAG.height, best: 'middle' };
      }),
      ...lettered.map(({ box, letters }): Wish => {
        const width = Math.ceil(LETTERS.around + letters.length * LETTERS.letter);
        return { within: box, width, height: LETTERS.height, best: 'middle' };
      }),
    ],
    drawn.map(({ box }) => box),
  );
  /** Those that have found a place, which stand behind so many others. */
  const found = <T, U>(all: readonly T[], behind: number, show: (one: T, spot: Box) => U): U[] =>
    all.flatMap((one, i) => {
      const spot = spots[behind + i];
      return spot ? [show(one, spot)] : [];
    });
  return {
    labels: found(drawn, 0, ({ layer, index }, spot) => ({ layer, index, spot })),
    tags: found(tagged, drawn.length, (tag, spot) => ({ ...tag, spot })),
    named: found(lettered, drawn.length + tagged.length, ({ id, letters }, spot) => ({
      ...{ id, letters, spot },
    })),
  };
}

/** Of a layer that is too small for it, the name lies beside, but always on the field. */
function labelWish(layer: Layer, box: Box, scale: FieldScale): Wish {
  const words = layer.name.length + (layer.muted ? 8 : 0);
  const { around, letter, height, least } = LABEL;
  return {
    within: box,
    otherwise: grownTo(box, scale),
    width: Math.ceil(around + words * letter),
    ...{ height, least, best: 'corner' },
  };
}

/** The ground around a place in which its tag may lie, within the field. */
function grownTo(where: Box, { width, height }: FieldScale): Box {
  const grown = {
    width: Math.min(width, Math.max(where.width, TAG_GROUND.width)),
    height: Math.min(height, Math.max(where.height, TAG_GROUND.height)),
  };
  const from = (middle: number, length: number, all: number) =>
    Math.min(all - length, Math.max(0, middle - length / 2));
  return {
    ...grown,
    x: from(where.x + where.width / 2, grown.width, width),
    y: from(where.y + where.height / 2, grown.height, height),
  };
}
