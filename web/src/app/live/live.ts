import { Injectable } from '@angular/core';
import type { Device, ShowControl, Sound } from '@pentachord/core/model';
import { Player } from '@pentachord/core/routing';
import { AudioEngine } from './audio/audio-engine';
import { HouseSoundLoader } from './audio/house-sound-loader';
import { standInModule } from './module-stand-in';
import { PlayerHost } from './player-host';
import { StandInInPorts, StandInOutPort } from './ports/cable';
import type { OutPort } from './ports/port';
import { WebMidiPorts } from './ports/web-midi';
import { ShowRunner, type Place, type ShowPlan } from './show-runner';
import { Stage } from './stage';

/**
 * Everything that sounds, wired together once:
 *
 * ports ─► host ─► player ─► stage ─► audio engine, outgoing ports
 *            └─ show actions ─► runner ─┘
 */
@Injectable({ providedIn: 'root' })
export class Live {
  readonly audio = new AudioEngine();
  readonly sounds = new HouseSoundLoader((slot, sound) => this.audio.load(slot, sound));
  readonly midi = new WebMidiPorts();
  private devices: readonly Device[] = [];
  private controls: readonly ShowControl[] = [];
  private readonly outPorts = new Map<string, OutPort>();
  private readonly module = standInModule(this.audio.commands, (recipe) =>
    this.sounds.slotOf(recipe),
  );
  readonly stage = new Stage({
    commands: this.audio.commands,
    slotOf: (recipe) => this.sounds.slotOf(recipe),
    targetOf: (sound) => this.targetOf(sound),
  });
  readonly player = new Player(this.stage);
  readonly runner = new ShowRunner(this.player, this.stage);
  readonly host = new PlayerHost(this.player, (action) => {
    if (action === 'nextCue') this.runner.move(1);
    else if (action === 'previousCue') this.runner.move(-1);
    else this.player.allNotesOff();
  });

  private opened = false;
  private waiting: (() => void) | null = null;

  /** True once this window plays. A window that only shows the stand-ins never does. */
  get isOpen(): boolean {
    return this.opened;
  }

  /** Makes this window the one that plays: listens to the ports and follows the desk. */
  open(): void {
    if (this.opened) return;
    this.opened = true;
    const receive = (port: string, bytes: ArrayLike<number>) => this.host.receive(port, bytes);
    new StandInInPorts().open(receive);
    this.midi.open(receive);
    this.waiting?.();
    this.waiting = null;
  }

  /** Turns sound on and asks for real keyboards; to be called from a click or key press. */
  async start(): Promise<void> {
    await this.audio.start();
    await this.midi.connect();
  }

  /** Follows the desk. */
  follow(plan: ShowPlan, place: Place): void {
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
    this.fetchSounds(plan);
  }

  /** Has every sound of the show made, those of the patch being played first. */
  private fetchSounds(plan: ShowPlan): void {
    for (const patch of Object.values(plan.patches))
      for (const { librarySoundId } of patch.sounds) {
        const origin = plan.sounds.get(librarySoundId)?.origin;
        if (origin?.kind === 'house') this.sounds.slotOf(origin.recipe);
      }
  }

  private targetOf(sound: Sound) {
    if (sound.origin.kind !== 'outside') return null;
    const { moduleId, channel, program } = sound.origin;
    const module = this.devices.find((device) => device.id === moduleId);
    return module ? { port: this.outPort(module.port), channel, program } : null;
  }

  private outPort(name: string): OutPort {
    const known = this.outPorts.get(name);
    if (known) return known;
    const port =
      this.midi.output(name) ?? new StandInOutPort(name, (bytes) => this.module.receive(bytes));
    this.outPorts.set(name, port);
    return port;
  }
}
