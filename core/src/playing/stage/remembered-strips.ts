import { Glide } from '../../clock/glide.js';
import { BUSES, COMMAND, type CommandWriter } from '../../sampler/command-ring.js';
import { STRIPS } from '../../sampler/meters.js';
import { SILENCE_DB } from '../../units/decibels.js';
import type { Frame, Seconds } from '../../units/times.js';

/** What a strip was asked for, as it is on its way there. */
class RememberedStrip {
  readonly level = new Glide(SILENCE_DB);
  readonly modulation = new Glide(0);
  readonly expression = new Glide(1);
  readonly sends = Array.from({ length: BUSES }, () => new Glide(SILENCE_DB));
  /** Whether anything was asked of it. */
  isUsed = false;
  pan = 0;
  bend = 0;
  low = 0;
  high = 0;
  way = 0;
  brightness = 0;
  attack = 0;
  release = 0;
  vibrato = 0;

  reset(now: Seconds): void {
    this.level.to(SILENCE_DB, 0, now);
    this.modulation.to(0, 0, now);
    this.expression.to(1, 0, now);
    for (const send of this.sends) send.to(SILENCE_DB, 0, now);
    this.pan = this.bend = this.low = this.high = this.way = 0;
    this.brightness = this.attack = this.release = this.vibrato = 0;
  }
}

/**
 * Passes commands on, and remembers what was asked of every strip, by whomever: a patch, a cue, a hand. A worklet that begins
 * knowing nothing is told all of it by {@link tellAgain}: levels that glide go on from where they are.
 */
export class RememberedStrips implements CommandWriter {
  private readonly strips = Array.from({ length: STRIPS }, () => new RememberedStrip());

  /** @param now the present time in seconds */
  constructor(
    private readonly to: CommandWriter,
    private readonly now: () => Seconds,
  ) {}

  write(
    command: number,
    frame: Frame,
    a = 0,
    b = 0,
    c = 0,
    d = 0,
    e = 0,
    f = 0,
    g = 0,
    h = 0,
    i = 0,
  ): boolean {
    if (command === COMMAND.bend) this.rememberBend(a, b, c, d, e);
    else if (a >= 0 && a < STRIPS) this.remember(command, a, b, c, d, e);
    return this.to.write(command, frame, a, b, c, d, e, f, g, h, i);
  }

  /** Asks anew for everything that was asked for, as far as it has come. */
  tellAgain(): void {
    const { to } = this;
    const now = this.now();
    for (let s = 0; s < STRIPS; s++) {
      const strip = this.strips[s];
      if (!strip.isUsed) continue;
      to.write(COMMAND.reset, 0, s);
      this.tellGlide(COMMAND.level, s, strip.level, now);
      this.tellGlide(COMMAND.modulation, s, strip.modulation, now);
      this.tellGlide(COMMAND.expression, s, strip.expression, now);
      for (let bus = 0; bus < BUSES; bus++) {
        const send = strip.sends[bus];
        to.write(COMMAND.send, 0, s, bus, send.at(now), 0);
        if (send.remaining(now) > 0)
          to.write(COMMAND.send, 0, s, bus, send.goal, send.remaining(now));
      }
      to.write(COMMAND.pan, 0, s, strip.pan);
      to.write(COMMAND.tone, 0, s, strip.low, strip.high);
      to.write(COMMAND.output, 0, s, strip.way);
      const { brightness, attack, release, vibrato } = strip;
      to.write(COMMAND.timbre, 0, s, brightness, attack, release, vibrato);
      const bit = 1 << (s & 31);
      const masks = [0, 1, 2, 3].map((word) => (s >> 5 === word ? bit >>> 0 : 0));
      if (strip.bend !== 0)
        to.write(COMMAND.bend, 0, strip.bend, masks[0], masks[1], masks[2], masks[3]);
    }
  }

  private tellGlide(command: number, s: number, glide: Glide, now: Seconds): void {
    this.to.write(command, 0, s, glide.at(now), 0);
    if (glide.remaining(now) > 0) this.to.write(command, 0, s, glide.goal, glide.remaining(now));
  }

  private remember(command: number, s: number, b: number, c: number, d: number, e: number): void {
    const strip = this.strips[s];
    switch (command) {
      case COMMAND.level:
        strip.level.to(b, c, this.now());
        break;
      case COMMAND.modulation:
        strip.modulation.to(b, c, this.now());
        break;
      case COMMAND.expression:
        strip.expression.to(b, c, this.now());
        break;
      case COMMAND.send:
        strip.sends[b].to(c, d, this.now());
        break;
      case COMMAND.pan:
        strip.pan = b;
        break;
      case COMMAND.tone:
        strip.low = b;
        strip.high = c;
        break;
      case COMMAND.output:
        strip.way = b;
        break;
      case COMMAND.timbre:
        strip.brightness = b;
        strip.attack = c;
        strip.release = d;
        strip.vibrato = e;
        break;
      case COMMAND.reset:
        strip.reset(this.now());
        break;
      default:
        return;
    }
    strip.isUsed = true;
  }

  private rememberBend(semitones: number, a: number, b: number, c: number, d: number): void {
    for (let s = 0; s < STRIPS; s++) {
      const word = s < 32 ? a : s < 64 ? b : s < 96 ? c : d;
      if ((word >>> (s & 31)) & 1) this.strips[s].bend = semitones;
    }
  }
}
