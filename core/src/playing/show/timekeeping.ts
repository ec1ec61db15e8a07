import { barBeats } from '../../clock/bar.js';
import { Leading } from '../../clock/leading.js';
import { Metronome, type ClickSink } from '../../clock/metronome.js';
import { OutgoingClock, type ClockPort } from '../../clock/outgoing-clock.js';
import type { ShowClock } from '../../clock/show-clock.js';
import { TapTempo } from '../../clock/tap-tempo.js';
import type { ShowClockSettings } from '../../model/show/going.js';
import { FASTEST_TEMPO, SLOWEST_TEMPO, type Metre } from '../../model/show/song.js';
import type { BeatsPerMinute, Seconds } from '../../units/times.js';

/**
 * Who keeps time: the show's own clock, or another device that it follows; and who is told: the click, other devices.
 */
export class Timekeeping {
  readonly leading: Leading;
  readonly metronome: Metronome;
  readonly outgoing: OutgoingClock;
  private readonly taps = new TapTempo();
  private isCountedIn = false;
  private settings: ShowClockSettings | null = null;
  /** Told when the show’s own clock is stopped by hand. */
  onStop: () => void = () => undefined;

  constructor(
    private readonly clock: ShowClock,
    clicks: ClickSink,
    private readonly portOf: (name: string) => ClockPort,
  ) {
    this.leading = new Leading(clock);
    this.metronome = new Metronome(clock, clicks);
    this.outgoing = new OutgoingClock(clock);
  }

  /** True while something here has to be asked to {@link advance}. */
  get needsClock(): boolean {
    return (
      this.metronome.needsClock || this.outgoing.needsClock || this.leading.now === 'following'
    );
  }

  /** True while it counts in. */
  get countsIn(): boolean {
    return this.isCountedIn && this.clock.beatsInBars < 0;
  }

  /** Takes how a show keeps time. The click goes on or off with it. */
  set(settings: ShowClockSettings): void {
    const before = this.settings;
    if (settings === before) return;
    this.settings = settings;
    this.leading.follow(settings.leader);
    if (before?.followers.join('\n') !== settings.followers.join('\n')) this.tellFollowers();
    if (before?.click.on !== settings.click.on) this.metronome.isOn = settings.click.on;
    this.keep();
  }

  /** Other ports may stand behind the names of those that are told. */
  tellFollowers(): void {
    this.outgoing.followers = this.settings?.followers.map((name) => this.portOf(name)) ?? [];
  }

  /** Goes on in the tempo and metre of what is played, unless another device leads. */
  take(tempo: BeatsPerMinute, metre: Metre): void {
    this.clock.metre = metre;
    if (this.leading.isFree) this.clock.tempo = tempo;
  }

  /** A clock message from a port, and when it came. */
  message(port: string, status: number, data1: number, data2: number, time: Seconds): void {
    this.leading.take(port, status, data1, data2, time);
    this.keep();
  }

  /** Hears a tap; gives the tempo tapped so far, or null while there is none. */
  tap(time: Seconds): BeatsPerMinute | null {
    const tapped = this.taps.tap(time);
    if (tapped === null) return null;
    return Math.round(Math.max(SLOWEST_TEMPO, Math.min(FASTEST_TEMPO, tapped)) * 10) / 10;
  }

  /** Counts in, and has the others start with the first beat. A device that leads counts by itself. */
  countIn(): void {
    if (!this.leading.isFree) return;
    const bars = this.settings?.countInBars ?? 1;
    const beats = bars * barBeats(this.clock.metre);
    this.isCountedIn = true;
    this.clock.countIn(beats);
    this.outgoing.startAt(this.clock.firstBeat);
    this.metronome.clickUntil(this.clock.firstBeat);
  }

  /** Has the others stop; a count-in is called off. */
  stop(): void {
    this.onStop();
    this.outgoing.stop();
    this.metronome.stop();
    // Bars begin with a whole beat, as for those who follow.
    if (this.countsIn) this.clock.countFrom(Math.floor(this.clock.beats));
    this.isCountedIn = false;
  }

  /** Turns the click on or off. */
  switchClick(): void {
    this.metronome.isOn = !this.metronome.isOn;
    this.keep();
  }

  /** Hands over what becomes due within the next moments, and notices a leader that has fallen silent. */
  advance(): void {
    this.leading.look();
    this.keep();
    this.metronome.advance();
    this.outgoing.advance();
  }

  /** Whoever keeps to the clock must not have it leap. */
  private keep(): void {
    this.clock.isKept =
      this.metronome.isOn || this.outgoing.needsClock || this.leading.now === 'following';
  }
}
