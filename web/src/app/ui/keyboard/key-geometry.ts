import { isBlackKey } from '@pentachord/core/pitch';

/**
 * Where keys lie, in units of one semitone column from the left edge of a keyboard.
 *
 * On a real keyboard the tails of all twelve keys of an octave are about equally wide at the back, while the fronts of the
 * white keys share the octave by seven. Drawing it so lets a field with equal columns stand on the keyboard exactly.
 */
export interface KeyShape {
  key: number;
  black: boolean;
  /** Left and right edge at the front. */
  left: number;
  right: number;
}

/** Share of a key's depth that black keys reach over. */
export const BLACK_DEPTH = 0.62;

const WHITE_PLACE = [0, 0, 1, 1, 2, 3, 3, 4, 4, 5, 5, 6];

/** Shapes of the keys low…high, white ones first, so that black ones are drawn over them. */
export function keyShapes(low: number, high: number): KeyShape[] {
  const width = high - low + 1;
  const shapes: KeyShape[] = [];
  for (let key = low; key <= high; key++) {
    const octave = Math.floor(key / 12);
    const place = key - octave * 12;
    const black = isBlackKey(key);
    const front = octave * 12 + (WHITE_PLACE[place] * 12) / 7;
    const left = (black ? key : front) - low;
    const right = (black ? key + 1 : front + 12 / 7) - low;
    shapes.push({
      key,
      black,
      left: key === low ? 0 : Math.max(0, left),
      right: key === high ? width : Math.min(width, right),
    });
  }
  return shapes.sort((a, b) => Number(a.black) - Number(b.black) || a.key - b.key);
}

/**
 * The key under a point, or null outside. `x` in semitone columns from the left edge, `y` 0 at the back … 1 at the front.
 */
export function keyAt(low: number, high: number, x: number, y: number): number | null {
  if (x < 0 || x >= high - low + 1 || y < 0 || y > 1) return null;
  if (y < BLACK_DEPTH) {
    const column = low + Math.floor(x);
    if (isBlackKey(column)) return column;
  }
  const white = keyShapes(low, high).find((k) => !k.black && x >= k.left && x < k.right);
  return white?.key ?? null;
}
