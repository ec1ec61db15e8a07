import type { Ground } from '@pentachord/core/coverage';
import type { Range } from '@pentachord/core/range';

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
    const gain = 10 ** (level / 20);
    // Invert the law: t for which fadeLaw(t) = gain, then t = (i + 1) / (length + 1).
    const t = range.law === 'linear' ? gain : (2 / Math.PI) * Math.asin(gain);
    return t * (length + 1) - 0.5;
  };
  for (const level of CONTOUR_DB) {
    if (range.fadeIn > 0) found.push(range.low + place(level, range.fadeIn));
    if (range.fadeOut > 0) found.push(range.high + 1 - place(level, range.fadeOut));
  }
  return found;
}

/** A label to be placed within a territory. */
export interface LabelSpot {
  x: number;
  y: number;
}

/**
 * Places one label in each territory, where as few others as possible lie and no other label stands. Territories come in
 * order of importance.
 */
export function placeLabels(
  territories: readonly (Box | null)[],
  size: { width: (index: number) => number; height: number },
): (LabelSpot | null)[] {
  const taken: Box[] = [];
  const margin = 8;
  return territories.map((box, index) => {
    if (!box) return null;
    const width = Math.min(size.width(index), box.width);
    let best: { spot: LabelSpot; cost: number } | null = null;
    for (let column = 0; column <= 6; column++) {
      for (let row = 0; row <= 8; row++) {
        const x = box.x + margin + ((box.width - width - 2 * margin) * column) / 6;
        const y = box.y + margin + ((box.height - size.height - 2 * margin) * row) / 8;
        const label = { x, y, width, height: size.height };
        const others = territories.filter(
          (t, i) => i !== index && t && overlap(t, label) > 0,
        ).length;
        const covered = taken.reduce((sum, other) => sum + overlap(other, grown(label, 6)), 0);
        const middle = Math.abs(row - 4) * 0.1 + column * 0.15;
        const cost = others * 3 + covered + middle;
        if (!best || cost < best.cost) best = { spot: { x, y }, cost };
      }
    }
    if (best) taken.push({ ...best.spot, width, height: size.height });
    return best?.spot ?? null;
  });
}

function grown(box: Box, by: number): Box {
  return { x: box.x - by, y: box.y - by, width: box.width + 2 * by, height: box.height + 2 * by };
}

function overlap(a: Box, b: Box): number {
  const width = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const height = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  return width > 0 && height > 0 ? width * height : 0;
}
