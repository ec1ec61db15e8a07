import type { Layer } from '@pentachord/core/model';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import type { Axis, Range, RangePart } from '@pentachord/core/range';
import { dynamicOf } from '../../ui/field/dynamics';
import {
  boxOf,
  keyBoundaryAt,
  velocityBoundaryAt,
  xOfKey,
  yOfVelocity,
  type Box,
  type FieldScale,
} from '../../ui/field/field-geometry';

export const AXES: readonly Axis[] = ['keys', 'velocities'];
const PARTS: readonly RangePart[] = ['low', 'high', 'fadeIn', 'fadeOut'];

/** A point of the field, in pixels from its upper left corner. */
export interface Point {
  x: number;
  y: number;
}

/** Part of a range on the field. */
export interface AxisPart {
  axis: Axis;
  part: RangePart;
}

/** A line that can be taken hold of. */
export interface Handle extends AxisPart {
  id: string;
  /** Where its hit area lies. */
  hit: Box;
  line: { x1: number; y1: number; x2: number; y2: number };
  fade: boolean;
  value: number;
  min: number;
  max: number;
  label: string;
  text: string;
}

/** Two edges that meet. */
export interface Corner extends Point {
  id: string;
  keyPart: 'low' | 'high';
  velocityPart: 'low' | 'high';
}

/** Pixels of a hit area. */
const HIT = 12;
/** The part of its side over which a fade’s handle reaches. */
const FADE_FROM = 0.36;
const FADE_TO = 0.64;

const PART_WORDS: Record<Axis, Record<RangePart, string>> = {
  keys: {
    low: 'lowest key',
    high: 'highest key',
    fadeIn: 'fade in, keys',
    fadeOut: 'fade out, keys',
  },
  velocities: {
    low: 'lowest velocity',
    high: 'highest velocity',
    fadeIn: 'fade in, velocities',
    fadeOut: 'fade out, velocities',
  },
};

/** The lines of a layer that can be taken hold of; those beyond the field are left out. */
export function handlesOf(scale: FieldScale, layer: Layer, middleC: NoteNaming): Handle[] {
  const box = boxOf(scale, layer);
  if (!box) return [];
  return AXES.flatMap((axis) =>
    PARTS.flatMap((part) => {
      const range = layer[axis];
      const place =
        axis === 'keys'
          ? acrossOf(scale, box, part, edgeOf(range, part))
          : upOf(scale, box, part, edgeOf(range, part));
      if (!place) return [];
      return {
        ...place,
        id: `${axis} ${part}`,
        axis,
        part,
        fade: isFade(part),
        value: range[part],
        min: isFade(part) || axis === 'keys' ? 0 : 1,
        max: 127,
        label: `${layer.name}: ${PART_WORDS[axis][part]}`,
        text: valueInWords({ axis, part }, range[part], middleC),
      };
    }),
  );
}

/** The corners of a layer’s territory. */
export function cornersOf(scale: FieldScale, layer: Layer): Corner[] {
  const box = boxOf(scale, layer);
  if (!box) return [];
  return (['low', 'high'] as const).flatMap((keyPart) =>
    (['low', 'high'] as const).map((velocityPart) => ({
      id: `${keyPart} ${velocityPart}`,
      keyPart,
      velocityPart,
      x: keyPart === 'low' ? box.x : box.x + box.width,
      y: velocityPart === 'high' ? box.y : box.y + box.height,
    })),
  );
}

/** The value that a part of a range has when its line stands at a point: the inverse of where its handle is drawn. */
export function valueUnder(
  scale: FieldScale,
  { x, y }: Point,
  { axis, part }: AxisPart,
  range: Range,
): number {
  const boundary = axis === 'keys' ? keyBoundaryAt(scale, x) : velocityBoundaryAt(scale, y);
  switch (part) {
    case 'low':
      return boundary;
    case 'high':
      return boundary - 1;
    case 'fadeIn':
      return boundary - range.low;
    case 'fadeOut':
      return range.high + 1 - boundary;
  }
}

/** A value for the readout under the hand: `A♭3 (56)`, `80 (f)`, `fades over 6 keys`. */
export function valueInWords({ axis, part }: AxisPart, value: number, middleC: NoteNaming): string {
  if (isFade(part))
    return `fades over ${value} ${axis === 'keys' ? (value === 1 ? 'key' : 'keys') : 'steps'}`;
  return axis === 'keys'
    ? `${noteName(value, middleC)} (${value})`
    : `${value} (${dynamicOf(value)})`;
}

function isFade(part: RangePart): boolean {
  return part === 'fadeIn' || part === 'fadeOut';
}

/** The key or velocity that begins at a part’s line. */
function edgeOf(range: Range, part: RangePart): number {
  switch (part) {
    case 'low':
      return range.low;
    case 'high':
      return range.high + 1;
    case 'fadeIn':
      return range.low + range.fadeIn;
    case 'fadeOut':
      return range.high + 1 - range.fadeOut;
  }
}

// A fade’s handle is short and sits inside, so that edge and fade can be told apart at length 0.
function acrossOf(scale: FieldScale, box: Box, part: RangePart, edge: number) {
  const x = xOfKey(scale, edge);
  if (x < -1 || x > scale.width + 1) return null;
  const fade = isFade(part);
  const top = box.y + box.height * (fade ? FADE_FROM : 0);
  const bottom = box.y + box.height * (fade ? FADE_TO : 1);
  const inward = fade ? (part === 'fadeIn' ? HIT / 2 : -HIT / 2) : 0;
  return {
    line: { x1: x, x2: x, y1: top, y2: bottom },
    hit: { x: x - HIT / 2 + inward, y: top, width: HIT, height: bottom - top },
  };
}

function upOf(scale: FieldScale, box: Box, part: RangePart, edge: number) {
  const y = yOfVelocity(scale, edge);
  const fade = isFade(part);
  const left = box.x + box.width * (fade ? FADE_FROM : 0);
  const right = box.x + box.width * (fade ? FADE_TO : 1);
  const inward = fade ? (part === 'fadeIn' ? -HIT / 2 : HIT / 2) : 0;
  return {
    line: { x1: left, x2: right, y1: y, y2: y },
    hit: { x: left, y: y - HIT / 2 + inward, width: right - left, height: HIT },
  };
}
