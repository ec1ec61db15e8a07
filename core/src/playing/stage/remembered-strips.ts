import { BUSES, COMMAND, CommandWriter } from '../../sampler/command-ring.js';
import { Glides } from '../../sampler/glides.js';
import { STRIPS } from '../../sampler/meters.js';
import { SILENCE_DB } from '../../units/decibels.js';
import type { Seconds } from '../../units/times.js';
import { TOUCH_UP } from './layer-levels.js';

/** Commands of a strip that are remembered as they are, up to four numbers each. */
const PLAIN: readonly number[] = [COMMAND.pan, COMMAND.tone, COMMAND.output, COMMAND.timbre];
const NUMBERS = 4;

/**
 * Passes commands on, and remembers what was asked of every strip, by whomever: a patch, a cue, a hand. A worklet that begins
 * knowing nothing is told all of it by {@link tellAgain}: levels that glide go on from where they are.
 */
export class RememberedStrips extends CommandWriter {
  private readonly moment = new Float64Array(1);
  private readonly levels = new Glides(STRIPS, SILENCE_DB, this.moment);
  private readonly modulations = new Glides(STRIPS, 0, this.moment);
  private readonly expressions = new Glides(STRIPS, 1, this.moment);
  private readonly sends = new Glides(STRIPS * BUSES, SILENCE_DB, this.moment);
  private readonly plain = PLAIN.map(() => new Float64Array(STRIPS * NUMBERS));
  private readonly bends = new Float64Array(STRIPS);
  /** 1 for strips of which anything was asked. */
  private readonly isUsed = new Uint8Array(STRIPS);

  /** @param now the present time in seconds */
  constructor(
    private readonly to: CommandWriter,
    private readonly now: () => Seconds,
  ) {
    super(to.record);
  }

  send(): boolean {
    const { record } = this;
    const command = record[0];
    const strip = record[2];
    if (command === COMMAND.bend) this.rememberBend();
    else if (strip >= 0 && strip < STRIPS && this.remember(command, strip)) this.isUsed[strip] = 1;
    return this.to.send();
  }

  /** Asks anew for everything that was asked for, as far as it has come. */
  tellAgain(): void {
    const { to } = this;
    this.moment[0] = this.now();
    for (let s = 0; s < STRIPS; s++) {
      if (!this.isUsed[s]) continue;
      to.write(COMMAND.reset, 0, s);
      this.tellGlide(this.levels, s, (db, over) => to.write(COMMAND.level, 0, s, db, over));
      this.tellGlide(this.modulations, s, (depth, over) =>
        to.write(COMMAND.modulation, 0, s, depth, over),
      );
      this.tellGlide(this.expressions, s, (gain, over) =>
        to.write(COMMAND.expression, 0, s, gain, over),
      );
      for (let bus = 0; bus < BUSES; bus++)
        this.tellGlide(this.sends, s * BUSES + bus, (db, over) =>
          to.write(COMMAND.send, 0, s, bus, db, over),
        );
      PLAIN.forEach((command, i) =>
        to.write(command, 0, s, ...this.plain[i].subarray(s * NUMBERS, (s + 1) * NUMBERS)),
      );
      const masks = [0, 1, 2, 3].map((word) => (s >> 5 === word ? (1 << (s & 31)) >>> 0 : 0));
      if (this.bends[s] !== 0) to.write(COMMAND.bend, 0, this.bends[s], ...masks);
    }
  }

  /** Tells where a glide has come to, and if it is not there yet, where it goes and in how many seconds. */
  private tellGlide(
    glides: Glides,
    i: number,
    tell: (value: number, seconds: Seconds) => void,
  ): void {
    const isThere = glides.look(i);
    tell(glides.value[i], 0);
    if (!isThere) tell(glides.target[i], glides.left(i));
  }

  /** False for what is not of a strip. */
  private remember(command: number, strip: number): boolean {
    const { record } = this;
    if (command === COMMAND.level) this.setOff(this.levels, strip, 3);
    else if (command === COMMAND.modulation) this.setOff(this.modulations, strip, 3);
    else if (command === COMMAND.expression) this.setOff(this.expressions, strip, 3);
    else if (command === COMMAND.send) this.setOff(this.sends, strip * BUSES + record[3], 4);
    else if (command === COMMAND.reset) this.rest(strip);
    else {
      const plain = PLAIN.indexOf(command);
      if (plain < 0) return false;
      for (let i = 0; i < NUMBERS; i++) this.plain[plain][strip * NUMBERS + i] = record[3 + i];
    }
    return true;
  }

  /** @param from where in the record it stands where to, and after it in how many seconds */
  private setOff(glides: Glides, i: number, from: number): void {
    const { record } = this;
    const isSlow = record[from + 1] > TOUCH_UP;
    // What is there in a moment is taken for there, and nobody need ask what time it is.
    if (isSlow) {
      this.moment[0] = this.now();
      glides.setOff(i);
    }
    glides.target[i] = record[from];
    glides.seconds[i] = isSlow ? record[from + 1] : 0;
  }

  private rest(strip: number): void {
    this.levels.rest(strip, SILENCE_DB);
    this.modulations.rest(strip, 0);
    this.expressions.rest(strip, 1);
    for (let bus = 0; bus < BUSES; bus++) this.sends.rest(strip * BUSES + bus, SILENCE_DB);
    for (const plain of this.plain) plain.fill(0, strip * NUMBERS, (strip + 1) * NUMBERS);
    this.bends[strip] = 0;
  }

  private rememberBend(): void {
    const { record } = this;
    for (let s = 0; s < STRIPS; s++)
      if ((record[3 + (s >> 5)] >>> (s & 31)) & 1) this.bends[s] = record[2];
  }
}
