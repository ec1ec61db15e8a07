import { Injectable } from '@angular/core';
import type { StandInModule } from '@pentachord/core/midi';
import type { Device, ShowControl, Sound } from '@pentachord/core/model';
import {
  Player,
  PlayerHost,
  ShowRunner,
  Stage,
  TiedControls,
  type NowPlaying,
  type OutPort,
  type ShowPlan,
} from '@pentachord/core/playing';
import type { Seconds } from '@pentachord/core/units';
import { AudioEngine } from './audio/audio-engine';
import { HouseSoundLoader } from './audio/house-sound-loader';
import { standInModule } from './audio/module-stand-in';
import { StandInInPorts, StandInOutPort } from './ports/cable';
import { WebMidiPorts } from './ports/web-midi';
import { Ticker } from './ticker';

const now = () => performance.now() / 1000;
/** Milliseconds after a step until its neighbours are worked out. */
const READY_AFTER = 50;

/**
 * Everything that sounds, wired together once:
 *
 * ports ─► host ─► player ─► stage ─► audio engine, outgoing ports
 *            ├─ show actions ─► runner ─┤
 *            └─ tied controls ──────────┘
 */
@Injectable({ providedIn: 'root' })
export class Live {
  readonly audio = new AudioEngine();
  readonly sounds = new HouseSoundLoader((slot, sound) => this.audio.load(slot, sound));
  readonly midi = new WebMidiPorts();
  private devices: readonly Device[] = [];
  private controls: readonly ShowControl[] = [];
  private readonly outPorts = new Map<string, OutPort>();
  private module = this.newModule();
  readonly stage = new Stage({
    commands: this.audio.commands,
    frameAt: (time) => this.audio.frameAt(time),
    now,
    slotOf: (recipe) => this.sounds.slotOf(recipe),
    targetOf: (sound) => this.targetOf(sound),
    setEffects: (effects) => this.audio.setEffects(effects, this.player.clock.tempo),
  });
  readonly player = new Player(this.stage, now);
  private readonly tied: TiedControls = new TiedControls({
    moveLayer: (layerId, parameter, value) => this.stage.moveLayer(layerId, parameter, value),
    moveSound: (soundId, part, value) => this.stage.moveSound(soundId, part, value),
    isOn: (target) => this.runner.isOn(target),
    switchTo: (target, on) => this.runner.switchTo(target, on),
    untied: (target) => {
      if (target.kind === 'treatment') this.player.letGoOf(target.treatmentId);
    },
  });
  readonly runner: ShowRunner = new ShowRunner(this.player, this.stage, this.tied);
  readonly host = new PlayerHost({
    player: this.player,
    act: (action) => {
      if (action === 'nextCue') this.move(1);
      else if (action === 'previousCue') this.move(-1);
      else this.player.allNotesOff();
    },
    tied: (deviceId, status, data1, data2) => this.tied.message(deviceId, status, data1, data2),
    now,
  });
  private readonly ticker = new Ticker(() => {
    this.audio.compareClocks();
    this.player.advance();
    this.stage.advance();
    return this.needsClock;
  });

  private readyTimer: ReturnType<typeof setTimeout> | undefined;
  private opened = false;
  private tellOpen: () => void = () => undefined;
  /** Comes true once this window plays. A window that only shows the stand-ins never does. */
  readonly whenOpen = new Promise<void>((resolve) => (this.tellOpen = resolve));
  private waiting: (() => void) | null = null;

  /** True once this window plays. */
  get isOpen(): boolean {
    return this.opened;
  }

  /** Makes this window the one that plays: listens to the ports and follows the desk. */
  open(): void {
    if (this.opened) return;
    this.opened = true;
    const receive = (port: string, bytes: ArrayLike<number>, time?: Seconds) =>
      this.receive(port, bytes, port, time);
    // Echoes keep to the beat: a tempo that changes while a patch plays changes them too.
    this.player.clock.onTempo(() => this.audio.setTempo(this.player.clock.tempo));
    this.audio.onBegun = () => {
      this.module = this.newModule();
      this.stage.forget();
      this.runner.playAnew();
    };
    new StandInInPorts().open(receive);
    this.midi.open(receive);
    this.midi.onInputGone = (port) => this.host.portGone(port);
    this.midi.onOutputs = () => {
      this.stage.forgetOutside();
      this.outPorts.clear();
      this.runner.playAnew();
    };
    this.waiting?.();
    this.waiting = null;
    this.tellOpen();
  }

  /** Bytes from a port, or from the screen by a cable of its own. */
  receive(port: string, bytes: ArrayLike<number>, cable = port, time?: Seconds): void {
    this.host.receive(port, bytes, cable, time);
    this.tickIfNeeded();
  }

  /** Goes on by one step of the show, or back. */
  move(by: 1 | -1): void {
    this.runner.move(by);
    this.tickIfNeeded();
    this.readySoon();
  }

  /** Works the neighbouring steps out once there is time, so that going there waits for nothing. */
  private readySoon(): void {
    clearTimeout(this.readyTimer);
    this.readyTimer = setTimeout(() => this.runner.makeReady(), READY_AFTER);
  }

  /** Turns sound on and asks for real keyboards; to be called from a click or key press. */
  async start(): Promise<void> {
    await this.audio.start();
    await this.midi.connect();
  }

  /** Follows the desk. */
  follow(plan: ShowPlan, place: NowPlaying): void {
    if (!this.opened) {
      this.waiting = () => this.follow(plan, place);
      return;
    }
    if (plan.devices !== this.devices || plan.show.controls !== this.controls) {
      this.devices = plan.devices;
      this.controls = plan.show.controls;
      this.host.setRig(plan.devices, plan.show.controls);
    }
    this.runner.follow(plan, place);
    this.tickIfNeeded();
    this.readySoon();
    this.fetchSounds(plan);
  }

  /** Has every house sound of the library made, for trying them out. */
  fetchLibrary(sounds: Iterable<Sound>): void {
    for (const { origin } of sounds) if (origin.kind === 'house') this.sounds.slotOf(origin.recipe);
  }

  /** Has every sound of the show made, those of the patch being played first. */
  private fetchSounds(plan: ShowPlan): void {
    const recipeOf = (librarySoundId: string) => {
      const origin = plan.sounds.get(librarySoundId)?.origin;
      return origin?.kind === 'house' ? origin.recipe : null;
    };
    const own = this.runner.current?.layers.map((l) => recipeOf(l.librarySoundId)) ?? [];
    this.sounds.prefer(new Set(own.filter((recipe) => recipe !== null)));
    const songs = new Set(plan.steps.map(({ songId }) => songId));
    for (const patch of Object.values(plan.patches))
      if (songs.has(patch.songId) || patch.id === this.runner.current?.id)
        for (const { librarySoundId } of patch.sounds) {
          const recipe = recipeOf(librarySoundId);
          if (recipe) this.sounds.slotOf(recipe);
        }
  }

  private get needsClock(): boolean {
    return this.player.needsClock || this.stage.needsClock;
  }

  private tickIfNeeded(): void {
    if (this.needsClock) this.ticker.start();
  }

  private targetOf(sound: Sound) {
    if (sound.origin.kind !== 'outside') return null;
    const { moduleId, channel, program } = sound.origin;
    const module = this.devices.find((device) => device.id === moduleId);
    return module ? { port: this.outPort(module.port), channel, program } : null;
  }

  private newModule(): StandInModule {
    return standInModule({
      commands: this.audio.commands,
      slotOf: (recipe) => this.sounds.slotOf(recipe),
      frameAt: (time) => this.audio.frameAt(time),
    });
  }

  private outPort(name: string): OutPort {
    const known = this.outPorts.get(name);
    if (known) return known;
    const port =
      this.midi.output(name) ??
      new StandInOutPort(name, (bytes, at) => this.module.receive(bytes, at));
    this.outPorts.set(name, port);
    return port;
  }
}
