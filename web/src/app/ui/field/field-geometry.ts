import type { Ground } from '@pentachord/core/coverage';
import { fadeLawAt, type Range } from '@pentachord/core/range';
import { gainFromDb } from '@pentachord/core/units';

/** The drawn field: keys across, velocities up, in pixels. */
export interface FieldScale {
  ground: Ground;
  width: number;
  height: number;
}

/** A rectangle in pixels. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

const VELOCITIES = 127;

/** Left edge of a key, in pixels; keys left and right of the ground lie outside the field. */
export function xOfKey({ ground, width }: FieldScale, key: number): number {
  const { low, high } = ground.keys;
  return ((key - low) / (high - low + 1)) * width;
}

/** Bottom edge of a velocity, in pixels from the top. */
export function yOfVelocity({ height }: FieldScale, velocity: number): number {
  return height - ((velocity - 1) / VELOCITIES) * height;
}

/** The key boundary nearest an x, named by the key that begins there; 0–128. */
export function keyBoundaryAt({ ground, width }: FieldScale, x: number): number {
  const { low, high } = ground.keys;
  return Math.min(128, Math.max(0, low + Math.round((x / width) * (high - low + 1))));
}

/** The key whose column an x lies in, held within the field. */
export function keyUnder({ ground, width }: FieldScale, x: number): number {
  const { low, high } = ground.keys;
  return Math.min(high, Math.max(low, low + Math.floor((x / width) * (high - low + 1))));
}

/** The velocity boundary nearest a y, named by the velocity that begins there; 1–128. */
export function velocityBoundaryAt({ height }: FieldScale, y: number): number {
  return Math.min(128, Math.max(1, 1 + Math.round(((height - y) / height) * VELOCITIES)));
}

/** A territory in pixels, cut at the edges of the field; null when none of it is on the field. */
export function boxOf(scale: FieldScale, { keys, velocities }: Ground): Box | null {
  const left = Math.max(0, xOfKey(scale, keys.low));
  const right = Math.min(scale.width, xOfKey(scale, keys.high + 1));
  const top = Math.max(0, yOfVelocity(scale, velocities.high + 1));
  const bottom = Math.min(scale.height, yOfVelocity(scale, velocities.low));
  return right > left && bottom > top
    ? { x: left, y: top, width: right - left, height: bottom - top }
    : null;
}

const CONTOUR_DB = [-9, -6, -3];

/** Where a range's fades cross −9, −6 and −3 dB, in keys or velocities from 0; halfway steps count. */
export function contours(range: Range): number[] {
  const found: number[] = [];
  const place = (level: number, length: number) => {
    // At step i of a fade t = (i + 1) / (length + 1).
    const t = fadeLawAt(gainFromDb(level), range.law);
    return t * (length + 1) - 0.5;
  };
  for (const level of CONTOUR_DB) {
    if (range.fadeIn > 0) found.push(range.low + place(level, range.fadeIn));
    if (range.fadeOut > 0) found.push(range.high + 1 - place(level, range.fadeOut));
  }
  return found;
}
