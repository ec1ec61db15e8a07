import type { ClickSink } from '../clock/metronome.js';
import type { Effects } from '../model/patch/effects.js';
import { LivePath } from '../playing/live-path.js';
import { NO_NOTE_TAP } from '../playing/notes/note-tap.js';
import type { NowPlaying, ShowPlan } from '../playing/show/show-plan.js';
import { RememberedStrips } from '../playing/stage/remembered-strips.js';
import type { PlayedSource } from '../playing/stage/stage.js';
import { COMMAND, CommandWriter } from '../sampler/command-ring.js';
import type { BeatsPerMinute, Frame, Seconds } from '../units/times.js';
import { playsThrough, TakeAgain, type PlaysAgain } from './again.js';
import type { WholeTake } from './whole-take.js';

/** When a run begins, on its own clock: 0 would be taken for now. */
const BEGINS: Seconds = 1;
/** Milliseconds between two looks at what runs on the show’s clock, as in the page. */
const TICK = 4;

/** What a run needs from outside. */
export interface RunParts {
  whole: WholeTake;
  plan: ShowPlan;
  /** Where the show stands before the take says otherwise. */
  place: NowPlaying;
  /** Layers that are to be heard alone, by their ids; all where it is empty. */
  alone: ReadonlySet<string>;
  /** Frames a second. */
  rate: number;
  /** Takes every command, each with the frame at which it is due, counted from the beginning. */
  commands: CommandWriter;
  playedBy: (sourceId: string) => PlayedSource | null;
  /** The shared effects are to be so from a moment on, seconds from the beginning. */
  setEffects: (effects: Effects, tempo: BeatsPerMinute, at: Seconds) => void;
}

/** Passes commands on with the frame of the moment where they are due now; without the beginnings of voices that are not wanted. */
class DatedCommands extends CommandWriter {
  /** Whether the voice that begins next is wanted. */
  isWanted = true;

  constructor(
    private readonly to: CommandWriter,
    private readonly frameNow: () => Frame,
  ) {
    super(to.record);
  }

  send(): boolean {
    if (this.record[0] === COMMAND.start && !this.isWanted) return true;
    if (this.record[1] === 0) this.record[1] = this.frameNow();
    return this.to.send();
  }
}

const NOBODY: ReadonlySet<string> = new Set();
const NO_CLICKS: ClickSink = { click: () => undefined, callOff: () => undefined };

/**
 * A take that is played through a show on a clock of its own, as fast as whoever asks can take it: the same path as live, and
 * the same commands at the same frames. What modules outside would play is not heard.
 *
 *     take ─► host ─► player ─► stage ─► commands, each with its frame
 */
export class TakeRun {
  private readonly path: LivePath;
  private readonly again: TakeAgain;
  private readonly to: PlaysAgain;
  /** On the run’s own clock. */
  private time = BEGINS;
  private readonly deviceCount: number;

  constructor({ whole, plan, place, alone, rate, playedBy, setEffects, ...parts }: RunParts) {
    const frameNow = () => Math.round((this.time - BEGINS) * rate);
    const commands = new DatedCommands(parts.commands, frameNow);
    const port = { name: 'nowhere', send: () => undefined };
    const path: LivePath = new LivePath({
      commands: new RememberedStrips(commands, () => this.time),
      frameAt: (time) => (time === 0 ? 0 : Math.max(0, (time - BEGINS) * rate)),
      now: () => this.time,
      playedBy,
      targetOf: () => null,
      setEffects: (effects) => setEffects(effects, path.player.clock.tempo, this.time - BEGINS),
      outPort: () => port,
      clicks: NO_CLICKS,
    });
    this.path = path;
    this.deviceCount = plan.devices.length;
    this.again = new TakeAgain(whole);
    if (alone.size > 0)
      path.stage.tap = {
        ...NO_NOTE_TAP,
        began: (_voice, layer) => (commands.isWanted = alone.has(layer.id)),
      };
    const lead = { ...place, soloed: NOBODY };
    path.follow(plan, lead);
    this.to = playsThrough(path, plan, lead, whole.take, (port, bytes, cable) =>
      path.host.receive(port, bytes, cable),
    );
    this.again.beginAt(0, this.to);
  }

  /** Plays on until so many seconds after the beginning. */
  playUntil(seconds: Seconds): void {
    const end = BEGINS + seconds;
    for (;;) {
      const tick = (Math.floor((this.time * 1000) / TICK + 1e-6) + 1) * (TICK / 1000);
      const due = BEGINS + this.again.nextAt;
      const next = Math.min(tick, Math.max(due, this.time));
      if (next >= end) break;
      this.time = next;
      if (tick <= next) this.path.advance();
      // The very moment: what is added and taken off again is a little beside it.
      if (due <= next) this.again.playUntil(this.again.nextAt, this.to);
    }
    this.time = end;
  }

  /** Lets everything go that is still held: what rings on dies away. */
  letGo(): void {
    for (let device = 0; device < this.deviceCount; device++) this.path.player.endDevice(device);
    this.path.band.stopNow();
    this.path.advance();
  }
}
