import {
  CONTINUE_CLOCK,
  SONG_POSITION,
  START_CLOCK,
  STOP_CLOCK,
  TIMING_CLOCK,
} from '../midi/messages.js';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '../model/show/song.js';
import type { Beats, BeatsPerMinute, Seconds } from '../units/times.js';
import { FollowedClock } from './followed-clock.js';
import { IncomingClock, TICKS_PER_BEAT } from './incoming-clock.js';
import type { ShowClock } from './show-clock.js';

/** Ticks between two looks at how far the show's clock is from the one that leads. */
const BETWEEN_LOOKS = 6;

/** Tempos that are followed: somewhat beyond those that a song can have. */
const SLOWEST_LED: BeatsPerMinute = SLOWEST_TEMPO * 0.9;
const FASTEST_LED: BeatsPerMinute = FASTEST_TEMPO * 1.1;

const A_TICK: Beats = 1 / TICKS_PER_BEAT;

/** Whether a tempo is one that music has; a clock that runs at another is broken, or none. */
function isTempo(tempo: BeatsPerMinute): boolean {
  return tempo >= SLOWEST_LED && tempo <= FASTEST_LED;
}

/** How it stands with the clock that is to be followed. */
export type LeadingState =
  | 'nobody leads'
  /** A leader is chosen, and nothing was heard of it yet. */
  | 'waiting'
  | 'following'
  /** It was heard, and is heard no more: the last tempo goes on. */
  | 'lost';

/**
 * Has the show's clock follow another device: its tempo through the jitter, and its beat and bars once it has said where they
 * begin.
 *
 * ticks ─► followed clock (tempo, place) ─► show's clock, a little faster or slower until they meet
 */
export class Leading {
  private readonly incoming = new IncomingClock();
  private readonly followed = new FollowedClock();
  private state: LeadingState = 'nobody leads';
  private port: string | null = null;
  private sinceLook = 0;
  /** Beats of the show's clock at the leader's beat 0; NaN while they have not met. */
  private offset: Beats = NaN;
  private isAligned = false;

  /** Told when the leader stops, and when it goes on, from the beginning or from where it stood. */
  onStop: () => void = () => undefined;
  onGo: (fromTheBeginning: boolean) => void = () => undefined;
  /** Told when bars are counted as the leader counts them, after it has begun or gone on. */
  onAligned: () => void = () => undefined;

  constructor(private readonly clock: ShowClock) {}

  /** The port that is listened to; null for none. */
  get leader(): string | null {
    return this.port;
  }

  /** Chooses who leads; null for nobody. The tempo stays as it is until the other is heard. */
  follow(port: string | null): void {
    if (port === this.port) return;
    this.port = port;
    this.followed.forget();
    this.offset = NaN;
    if (this.state === 'following') this.clock.settle();
    this.state = port === null ? 'nobody leads' : 'waiting';
  }

  /** How it stands; to be asked after {@link look}. */
  get now(): LeadingState {
    return this.state;
  }

  /** True while a tempo of the show's own counts. */
  get isFree(): boolean {
    return this.state !== 'following';
  }

  /** Takes a clock message of a port and when it came. What another port than the leader's says is passed over. */
  take(port: string, status: number, data1: number, data2: number, time: Seconds): void {
    if (port !== this.port) return;
    if (!this.incoming.take(status, data1, data2, time)) return;
    switch (status) {
      case TIMING_CLOCK:
        this.followed.tick(time);
        this.tick();
        break;
      case START_CLOCK:
      case CONTINUE_CLOCK:
        this.isAligned = false;
        this.onGo(status === START_CLOCK);
        break;
      case SONG_POSITION:
        this.isAligned = false;
        break;
      case STOP_CLOCK:
        this.offset = NaN;
        this.onStop();
        break;
    }
  }

  /** Notices that the leader has fallen silent: then the last tempo goes on by itself. */
  look(): void {
    if (this.state !== 'following' || this.incoming.isTicking(this.clock.now)) return;
    this.state = 'lost';
    this.followed.forget();
    this.offset = NaN;
    this.clock.settle();
  }

  private tick(): void {
    const { clock, followed, incoming } = this;
    // While the tempo is a guess, at the beginning or after a leap, or is none that music has, the one before goes on.
    if (!followed.isKnown || !isTempo(followed.tempo)) {
      if (this.state === 'following') clock.settle();
      return;
    }
    const begins = this.state !== 'following';
    this.state = 'following';
    if (!begins && ++this.sinceLook < BETWEEN_LOOKS) return;
    this.sinceLook = 0;
    // The first tick after a start is beat 0, and one was counted with it.
    const place = (incoming.isStarted ? incoming.beats : incoming.ticks / TICKS_PER_BEAT) - A_TICK;
    const at = followed.lastTickAt;
    if (incoming.isStarted && !this.isAligned) {
      this.isAligned = true;
      const leapt = clock.leapTo(place, at);
      this.offset = Number.isNaN(leapt) ? Math.round(clock.beatsAt(at) - place) : leapt;
      clock.countFrom(this.offset);
      this.onAligned();
    } else if (Number.isNaN(this.offset)) this.offset = clock.beatsAt(at) - place;
    clock.meet(place + this.offset, at, followed.tempo);
  }
}
