import type { ClickSink } from '../clock/metronome.js';
import type { ControlTarget } from '../model/patch/control-target.js';
import { CC, CONTROL_CHANGE, controlChange, programChange } from '../midi/messages.js';
import type { Cue } from '../model/show/cue.js';
import { deviceAtPlace, type Device } from '../model/rig/rig.js';
import type { ShowControl } from '../model/show/show-control.js';
import { senderAt } from '../rig/senders.js';
import { Band } from './band/band.js';
import { TimedSwitches } from './band/timed-switches.js';
import { PlayerHost } from './player-host.js';
import { Player } from './notes/player.js';
import type { OutPort } from './stage/ports.js';
import { ShowOrders } from './show/show-orders.js';
import type { NowPlaying, ShowPlan } from './show/show-plan.js';
import { ShowRunner } from './show/show-runner.js';
import { Stage, type StageParts } from './stage/stage.js';
import { TiedControls } from './hands/tied-controls.js';
import { Timekeeping } from './show/timekeeping.js';

/** What the live path needs of the audio side and of the ports. */
export interface LivePathParts extends StageParts {
  /** The port of a name that clock and programs are sent to. */
  outPort(name: string): OutPort;
  /** Makes clicks heard. */
  clicks: ClickSink;
}

const isController = (status: number): boolean => (status & 0xf0) === CONTROL_CHANGE;

/**
 * Everything of the live path that is pure, wired together once:
 *
 * bytes ─► host ─► player ─► stage ─► commands, outgoing ports
 *            │        ⇅ band: patterns that keys start
 *            ├─ show controls ─► orders ─► runner ─┤
 *            ├─ tied controls ─────────────────────┤
 *            └─ clock messages ─► timekeeping ─────┘
 */
export class LivePath {
  readonly stage: Stage;
  readonly player: Player;
  readonly band: Band;
  readonly runner: ShowRunner;
  readonly timekeeping: Timekeeping;
  readonly orders: ShowOrders;
  readonly host: PlayerHost;
  readonly tied: TiedControls;
  private readonly switches: TimedSwitches;
  private devices: readonly Device[] = [];
  private controls: readonly ShowControl[] = [];
  private readonly outPort: LivePathParts['outPort'];

  constructor(parts: LivePathParts) {
    const now = () => parts.now();
    this.outPort = (name) => parts.outPort(name);
    const stage = new Stage(parts);
    const player = new Player(stage, now);
    this.stage = stage;
    this.player = player;
    this.band = new Band(player.clock, player);
    player.accompanying = this.band;
    this.timekeeping = new Timekeeping(player.clock, parts.clicks, (name) => parts.outPort(name));
    this.timekeeping.leading.onStop = () => this.band.clockStopped();
    this.timekeeping.leading.onGo = (anew) => this.band.clockWentOn(anew);
    this.timekeeping.leading.onAligned = () => this.band.clockAligned();
    this.timekeeping.onStop = () => {
      this.band.stopNow();
      switches.callOff();
    };
    const switches = new TimedSwitches(player.clock, {
      isOn: (target) =>
        target.kind === 'accompanist' ? this.standingOf(target) === 1 : this.runner.isOn(target),
      switchTo: (target, on) => {
        if (target.kind === 'accompanist') this.put(target, on ? 1 : 0);
        else this.runner.switchTo(target, on);
      },
    });
    this.switches = switches;
    const tied: TiedControls = new TiedControls({
      moveLayer: (layerId, parameter, to) => stage.moveLayer(layerId, parameter, to),
      moveSound: (soundId, part, to) => stage.moveSound(soundId, part, to),
      isOn: (target) => switches.isOn(target),
      switchTo: (target, on, begins) => switches.switchTo(target, on, begins),
      pickedBy: (chooser) => player.pickedBy(chooser.id) ?? chooser.chosen,
      pick: (chooserId, choice) => player.pick(chooserId, choice),
      standingOf: (target) => this.standingOf(target),
      put: (target, value) => this.put(target, value),
      press: (target, time) => {
        if (target.kind === 'show') this.orders.press(target.action, time);
        else if (target.kind === 'goTo') this.orders.goTo(target.songId, target.cueId, time);
      },
      untied: (target) => {
        if (target.kind === 'treatment') player.letGoOf(target.treatmentId);
        else if (target.kind === 'accompanist')
          this.band.moved.letGo(target.accompanistId, target.setting);
        else this.runner.letGoOf(target);
      },
    });
    const { timekeeping } = this;
    this.tied = tied;
    const tellPrograms = (programs: Cue['programs']) => this.tellPrograms(programs);
    const band = this.band.moved;
    this.runner = new ShowRunner({
      ...{ player, stage, controls: tied, timekeeping, tellPrograms, band },
    });
    this.orders = new ShowOrders({ player, runner: this.runner, timekeeping, now });
    this.host = new PlayerHost({
      player,
      act: (control, value, time) => this.orders.carryOut(control, value, time),
      tied: (device, status, data1, data2, time) => {
        const starts = isController(status) && this.band.takesController(device, data1);
        if (starts) this.band.button(device, data1, data2 >= 64);
        return tied.message(device, status, data1, data2, time) || starts;
      },
      isNearer: (device, status, data1) =>
        tied.isNearer(device, status, data1) ||
        (isController(status) && this.band.takesController(device, data1)),
      seen: (device, status, data1, data2) => tied.seen(device, status, data1, data2),
      deviceGone: (device) => {
        tied.deviceGone(device);
        this.band.deviceGone(device);
      },
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
    this.switches.advance();
    this.player.advance();
    this.stage.advance();
  }

  /** Chooses programs on instruments that no layer plays; those that the rig does not have are passed over. */
  private tellPrograms(programs: Cue['programs']): void {
    for (const { place, channel, bank, program } of programs) {
      const device = deviceAtPlace(this.devices, place);
      if (!device) continue;
      const port = this.outPort(device.port);
      if (bank) {
        port.send(controlChange(channel, CC.bank, bank.msb), 0);
        port.send(controlChange(channel, CC.bankFine, bank.lsb), 0);
      }
      port.send(programChange(channel, program), 0);
    }
  }

  private standingOf(target: ControlTarget): number | null {
    if (target.kind === 'octave') {
      const device = senderAt(this.devices, target.place);
      return device < 0 ? null : this.player.shiftOf(device) / 12;
    }
    if (target.kind === 'accompanist')
      return this.band.moved.standingOf(target.accompanistId, target.setting);
    if (target.kind !== 'letter') return null;
    const layer = this.runner.current?.layers.at(target.layer);
    return layer ? this.runner.trimOf(layer.id) : null;
  }

  private put(target: ControlTarget, value: number): void {
    if (target.kind === 'accompanist')
      this.band.moved.put(target.accompanistId, target.setting, value);
    else if (target.kind === 'octave')
      this.player.shiftDevice(senderAt(this.devices, target.place), Math.round(value) * 12);
    else if (target.kind === 'letter') {
      const layer = this.runner.current?.layers.at(target.layer);
      if (layer) this.runner.trim(layer.id, Math.round(value * 10) / 10);
    }
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
