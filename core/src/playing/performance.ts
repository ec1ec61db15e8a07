import type { ClickSink } from '../clock/metronome.js';
import type { Device } from '../model/rig/rig.js';
import type { ShowControl } from '../model/show/show-control.js';
import { PlayerHost } from './player-host.js';
import { Player } from './player.js';
import type { OutPort } from './ports.js';
import { ShowOrders } from './show-orders.js';
import { ShowRunner, type NowPlaying, type ShowPlan } from './show-runner.js';
import { Stage, type StageParts } from './stage.js';
import { TiedControls } from './tied-controls.js';
import { Timekeeping } from './timekeeping.js';

/** What a performance needs of the audio side and of the ports. */
export interface PerformanceParts extends StageParts {
  /** The port of a name that clock is sent to. */
  clockPort(name: string): OutPort;
  /** Makes clicks heard. */
  clicks: ClickSink;
}

/**
 * Everything of the live path that is pure, wired together once:
 *
 * bytes ─► host ─► player ─► stage ─► commands, outgoing ports
 *            ├─ show controls ─► orders ─► runner ─┤
 *            ├─ tied controls ─────────────────────┤
 *            └─ clock messages ─► timekeeping ─────┘
 */
export class Performance {
  readonly stage: Stage;
  readonly player: Player;
  readonly runner: ShowRunner;
  readonly timekeeping: Timekeeping;
  readonly orders: ShowOrders;
  readonly host: PlayerHost;
  private devices: readonly Device[] = [];
  private controls: readonly ShowControl[] = [];

  constructor(parts: PerformanceParts) {
    const now = () => parts.now();
    const stage = new Stage(parts);
    const player = new Player(stage, now);
    this.stage = stage;
    this.player = player;
    this.timekeeping = new Timekeeping(player.clock, parts.clicks, (name) => parts.clockPort(name));
    const tied: TiedControls = new TiedControls({
      moveLayer: (layerId, parameter, value) => stage.moveLayer(layerId, parameter, value),
      moveSound: (soundId, part, value) => stage.moveSound(soundId, part, value),
      isOn: (target) => this.runner.isOn(target),
      switchTo: (target, on) => this.runner.switchTo(target, on),
      pickedBy: (chooser) => player.pickedBy(chooser.id) ?? chooser.chosen,
      pick: (chooserId, choice) => player.pick(chooserId, choice),
      untied: (target) => {
        if (target.kind === 'treatment') player.letGoOf(target.treatmentId);
      },
    });
    const { timekeeping } = this;
    this.runner = new ShowRunner({ player, stage, controls: tied, timekeeping });
    this.orders = new ShowOrders({ player, runner: this.runner, timekeeping, now });
    this.host = new PlayerHost({
      player,
      act: (control, value, time) => this.orders.carryOut(control, value, time),
      tied: (device, status, data1, data2) => tied.message(device, status, data1, data2),
      clock: (port, status, data1, data2, time) =>
        timekeeping.message(port, status, data1, data2, time),
      now,
    });
  }

  /** True while something waits for its time, so that {@link advance} has to be called every few milliseconds. */
  get needsClock(): boolean {
    return this.player.needsClock || this.stage.needsClock || this.timekeeping.needsClock;
  }

  /** Hands over what becomes due within the next moments. */
  advance(): void {
    this.timekeeping.advance();
    this.player.advance();
    this.stage.advance();
  }

  /** Takes over the show as it stands now, and where the player is in it. */
  follow(plan: ShowPlan, place: NowPlaying): void {
    if (plan.devices !== this.devices || plan.show.controls !== this.controls) {
      this.devices = plan.devices;
      this.controls = plan.show.controls;
      this.host.setRig(plan.devices, plan.show.controls);
    }
    this.timekeeping.set(plan.show.going.clock);
    this.runner.follow(plan, place);
  }
}
