import { inject, Injectable } from '@angular/core';
import { deviceAtPlace, type Device, type Sound } from '@pentachord/core/model';
import { MessageLog } from '@pentachord/core/monitor';
import {
  LivePath,
  RememberedStrips,
  type NowPlaying,
  type ShowPlan,
} from '@pentachord/core/playing';
import type { Step } from '@pentachord/core/setlist';
import type { StandInModule } from '@pentachord/core/stand-ins';
import type { Seconds } from '@pentachord/core/units';
import { AudioEngine } from './audio/audio-engine';
import { ShowSounds } from './audio/show-sounds';
import { SoundLoader } from './audio/sound-loader';
import { standInModule } from './audio/module-stand-in';
import { isStandIn, StandInInPorts } from './ports/cable';
import { OutPorts } from './ports/out-ports';
import { TouchWait } from './hands/touch-wait';
import { WebMidiPorts } from './ports/web-midi';
import { StepsAhead } from './steps-ahead';
import { Ticker } from './ticker';
import { PlayingWindow } from './window/playing-window';

const now = () => performance.now() / 1000;
/** Milliseconds after a step until its neighbours are worked out. */
const READY_AFTER = 50;

/**
 * Everything that sounds, wired together once:
 *
 * ports ─► the core's live path ─► audio engine, outgoing ports
 */
@Injectable({ providedIn: 'root' })
export class Live {
  readonly audio = new AudioEngine();
  readonly sounds = new SoundLoader((slot, sound) => this.audio.load(slot, sound));
  readonly midi = new WebMidiPorts();
  /** Every message in and out. */
  readonly log = new MessageLog();
  /** Sounds of the show. */
  readonly showSounds = new ShowSounds(this.sounds);
  private devices: readonly Device[] = [];
  private readonly commands = new RememberedStrips(this.audio.commands, now);
  private readonly module: StandInModule = standInModule({
    commands: this.commands,
    slotOf: (sourceId) => this.sounds.playedBy(sourceId)?.slot ?? -1,
    frameAt: (time) => this.audio.frameAt(time),
  });
  private readonly out = new OutPorts({
    ...{ midi: this.midi, log: this.log, module: this.module, now },
    deviceOn: (port) => this.devices.find((one) => one.port === port && one.kind !== 'pedal'),
    answer: (port, bytes, cable) => this.receive(port, bytes, cable),
  });
  private readonly path: LivePath = new LivePath({
    commands: this.commands,
    frameAt: (time) => this.audio.frameAt(time),
    now,
    playedBy: (sourceId) => this.sounds.playedBy(sourceId),
    targetOf: (sound) => this.targetOf(sound),
    setEffects: (effects) => this.audio.setEffects(effects, this.player.clock.tempo),
    outPort: (name) => this.out.of(name),
    clicks: this.audio.clicks,
  });
  readonly stage = this.path.stage;
  readonly player = this.path.player;
  readonly runner = this.path.runner;
  readonly host = this.path.host;
  readonly orders = this.path.orders;
  readonly tied = this.path.tied;
  readonly band = this.path.band;
  readonly timekeeping = this.path.timekeeping;
  private readonly ticker = new Ticker(() => {
    this.audio.compareClocks();
    if (this.silenced) return false;
    this.path.advance();
    return this.path.needsClock;
  });

  private steps: StepsAhead | null = null;
  /** What the desk said while it had not heard of every step. */
  private passedOver: [ShowPlan, NowPlaying] | null = null;
  /** What is followed, and what the desk has said while somebody else leads the path. */
  private followed: [ShowPlan, NowPlaying] | null = null;
  private lent = false;
  /** Told when a port comes or goes. */
  onPort: (port: string, there: boolean) => void = () => undefined;
  private readyTimer: ReturnType<typeof setTimeout> | undefined;
  /** Which window plays. */
  readonly window = inject(PlayingWindow);
  private asked = false;
  /** Whether sound was asked for, perhaps before this window was the one that plays. */
  private isWanted = false;
  private opened = false;
  private silenced = false;
  private tellOpen: () => void = () => undefined;
  /** Comes true once this window plays. A window that only shows the stand-ins never does. */
  readonly whenOpen = new Promise<void>((resolve) => (this.tellOpen = resolve));
  private waiting: (() => void) | null = null;

  /** True while this window plays. */
  get isOpen(): boolean {
    return this.opened && !this.silenced;
  }

  /** Plays in this window, as soon as no other one does: listens to the ports and follows the desk. */
  open(): void {
    if (this.asked) return;
    this.asked = true;
    void this.window.open({ begin: () => this.begin(), stop: () => this.stop() });
  }

  /** Another window plays from now on: what sounds here ends, and nothing is heard, sent or followed any more. */
  private stop(): void {
    for (let device = 0; device < this.devices.length; device++) this.player.endDevice(device);
    this.stage.advance();
    this.silenced = true;
    this.audio.rest();
  }

  private goOn(): void {
    this.silenced = false;
    void this.start();
    this.waiting?.();
    this.waiting = null;
    this.tickIfNeeded();
  }

  private begin(): void {
    if (this.opened) {
      this.goOn();
      return;
    }
    this.opened = true;
    this.logReceived();
    const receive = (port: string, bytes: ArrayLike<number>, time?: Seconds) =>
      this.receive(port, bytes, port, time);
    // Echoes keep to the beat: a tempo that changes while a patch plays changes them too.
    this.player.clock.onTempo(() => this.audio.setTempo(this.player.clock.tempo));
    // A worklet that knows nothing yet is told where patches, cues and hands have put everything.
    this.audio.onBegun = () => this.commands.tellAgain();
    const standIns = new StandInInPorts();
    // What is pulled out says nothing.
    standIns.open((port, bytes, time) => {
      if (!this.out.isPulledOut(port)) receive(port, bytes, time);
    });
    standIns.watch((port, plugged) => this.plug(port, plugged));
    this.midi.open(receive);
    this.midi.onInputGone = (port) => {
      this.host.portGone(port);
      this.onPort(port, false);
    };
    this.midi.onInputCame = (port) => this.onPort(port, true);
    this.midi.onOutput = (port) => this.beginOutputAnew(port);
    this.waiting?.();
    this.waiting = null;
    this.tellOpen();
    if (this.isWanted) void this.start();
  }

  /** Something that waits for a touch, for as long as whoever asks is there; to be asked for where things can be injected. */
  touchWait<T>(): TouchWait<T> {
    return new TouchWait<T>();
  }

  /** Whether something is plugged in under a port's name; a stand-in is unless it was pulled out. */
  isThere(port: string): boolean {
    if (isStandIn(port)) return !this.out.isPulledOut(port);
    return this.midi.inputs.includes(port) || this.midi.outputs.includes(port);
  }

  private plug(port: string, plugged: boolean): void {
    if (plugged === !this.out.isPulledOut(port)) return;
    if (!plugged) {
      this.host.portGone(port);
      if (this.devices.some((device) => device.kind === 'module' && device.port === port))
        this.module.silence();
    }
    this.out.plug(port, plugged);
    this.beginOutputAnew(port);
    this.onPort(port, plugged);
  }

  /** Another device stands behind the name of a port now: what it was told is told anew; the others play on. */
  private beginOutputAnew(port: string): void {
    this.out.forget(port);
    this.stage.renewOutside(port);
  }

  /** Bytes from a port, or from the screen by a cable of its own. */
  receive(port: string, bytes: ArrayLike<number>, cable = port, time?: Seconds): void {
    if (!this.isOpen) return;
    this.host.receive(port, bytes, cable, time);
    this.tickIfNeeded();
  }

  /** Has something done to the show from the screen or the computer's keys; what it gives back says whether it was. */
  order(work: (orders: LivePath['orders']) => boolean): boolean {
    if (!this.isOpen) return false;
    const done = work(this.orders);
    this.tickIfNeeded();
    return done;
  }

  /** Begins something that runs on the show’s clock. */
  onTheClock(work: () => void): void {
    if (!this.isOpen) return;
    work();
    this.tickIfNeeded();
  }

  /** Told of every step. Until it has heard of it the player is ahead of the desk, and does not follow it. */
  set onStep(told: (step: Step, patchId: string | null) => void) {
    const steps = new StepsAhead(told, () => {
      if (!this.passedOver) return;
      // What the desk said meanwhile, if it says nothing more of it now.
      const [plan, place] = this.passedOver;
      this.passedOver = null;
      if (this.path.runner.isAt(place)) this.follow(plan, place);
    });
    this.steps = steps;
    this.runner.onStep = (step, patchId) => {
      // Where a take leads is no step of the desk.
      if (!this.lent) steps.enter(step, patchId);
      this.readySoon();
    };
  }

  /** Everything that is pure of it, for whoever writes down what is played. */
  get whole(): LivePath {
    return this.path;
  }

  /** The plan that is followed, and the place of the desk in it; null before any is. */
  get followedNow(): readonly [ShowPlan, NowPlaying] | null {
    return this.followed;
  }

  /** True while a take leads the path, and not the desk. */
  get isLent(): boolean {
    return this.lent;
  }

  /**
   * Lets somebody else lead the path, along the plan that is followed, until it is given back: then the desk is followed again,
   * and nothing is left of what was moved meanwhile. Null while this window does not play, or another leads it already.
   */
  lend(): { plan: ShowPlan; place: NowPlaying; giveBack: () => void } | null {
    if (!this.isOpen || this.lent || !this.followed) return null;
    const [plan, place] = this.followed;
    const { night } = this.runner;
    this.lent = true;
    const giveBack = () => {
      this.lent = false;
      for (let device = 0; device < this.devices.length; device++) this.player.endDevice(device);
      this.stage.advance();
      this.runner.takeNight(night);
      if (this.followed) this.follow(...this.followed);
      this.runner.recallAgain();
    };
    return { plan, place, giveBack };
  }

  /** Works the neighbouring steps out once there is time, so that going there waits for nothing. */
  private readySoon(): void {
    clearTimeout(this.readyTimer);
    this.readyTimer = setTimeout(() => this.runner.makeReady(), READY_AFTER);
  }

  /** Turns sound on and asks for real keyboards; to be called from a click or key press. */
  async start(): Promise<void> {
    this.isWanted = true;
    if (!this.isOpen) return;
    // A browser that holds sound back does not answer before the first touch; devices are there before it.
    await Promise.all([this.audio.start(), this.midi.connect()]);
  }

  /** Follows the desk. */
  follow(plan: ShowPlan, place: NowPlaying): void {
    if (!this.isOpen) {
      this.waiting = () => this.follow(plan, place);
      return;
    }
    this.followed = [plan, place];
    if (this.lent) return;
    if (this.steps?.isAhead) {
      this.passedOver = [plan, place];
      return;
    }
    this.passedOver = null;
    this.devices = plan.devices;
    this.audio.clicks.set(plan.show.going.clock.click);
    this.path.follow(plan, place);
    this.tickIfNeeded();
    this.readySoon();
    this.showSounds.follow(plan, this.runner.current);
  }

  private tickIfNeeded(): void {
    if (this.path.needsClock) this.ticker.start();
  }

  private targetOf(sound: Sound) {
    if (sound.origin.kind !== 'outside') return null;
    const { place, channel, bank, program } = sound.origin;
    const module = deviceAtPlace(this.devices, place);
    return module ? { port: this.out.of(module.port), channel, bank, program } : null;
  }

  /** Sends a whole message to a device, now. */
  sendTo(port: string, bytes: readonly number[]): void {
    this.out.of(port).send(bytes, 0);
  }

  /** Keeps what comes in, for the monitor. */
  private logReceived(): void {
    this.host.tap((time, port, device, status, data1, data2) =>
      this.log.add(time, 'in', port, device, status, data1, data2),
    );
    this.host.tapLong((time, port, status, bytes, length, fault) => {
      const words = fault === 'unended' ? 'it never ended' : 'longer than is kept';
      this.log.addLong(time, 'in', port, status, bytes, length, fault ? words : '');
    });
  }
}
