/**
 * Leaves out a status byte that repeats the one before, as instruments on a cable do.
 * One of these belongs to one outgoing cable.
 */
export class RunningStatus {
  private last = 0;

  /** The message as it goes down the cable. */
  compress(message: readonly number[]): number[] {
    if (message[0] === this.last) return message.slice(1);
    this.last = message[0] < 0xf0 ? message[0] : 0;
    return [...message];
  }
}
