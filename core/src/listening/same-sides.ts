/** Whether both sides of a stereo recording are the same: it is a mono one that takes twice the room. */
export function areSame(left: Float32Array, right: Float32Array): boolean {
  for (let i = 0; i < left.length; i++) if (left[i] !== right[i]) return false;
  return true;
}
