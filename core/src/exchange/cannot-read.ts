/** A file that cannot be read, and why, in words that can stand behind “…: ”. Nothing of it is taken. */
export class CannotRead extends Error {
  override readonly name = 'CannotRead';
}
