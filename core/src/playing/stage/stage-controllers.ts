import { BEND_FULL, CC } from '../../midi/messages.js';
import type { Obeyable } from '../../model/patch/layer.js';
import type { CompiledLayer } from '../../routing/compile.js';
import { hears } from '../../routing/hearing.js';
import { ARGUMENTS, COMMAND, type CommandWriter } from '../../sampler/command-ring.js';
import { STRIPS } from '../../sampler/meters.js';
import { Controllers, EXPRESSION_GAINS } from './controllers.js';
import { TOUCH_UP } from './layer-levels.js';
import type { ControllerPosition } from '../../model/show/cue.js';
import { obeys, obeysController, positionOf } from './obeying.js';
import type { OutsidePart } from './outside-channels.js';
import { isSameChannel, type OutsideTarget } from './outside-target.js';
import type { OutsideVoices } from './outside-voices.js';
import { PATCH_STRIPS, type StripsInUse } from './strips-in-use.js';

/** Semitones that a full pitch wheel bends. */
const BEND_RANGE = 2;

/** Wheels, pedals and aftertouch: where they stand, and what they move on the strips and at the modules. */
export class StageControllers {
  private readonly known = new Controllers();
  private present: readonly CompiledLayer[] = [];
  /** Where the wheel stands for each strip, put by the hand or by a cue, 0–127. */
  private readonly wheels = new Uint8Array(PATCH_STRIPS);
  /** Strips to bend, a bit each; kept so that a bend allocates nothing. */
  private readonly bent = new Uint32Array(STRIPS / 32);

  /** @param targetOf where a layer is played outside, null for inside */
  constructor(
    private readonly commands: CommandWriter,
    private readonly strips: StripsInUse,
    private readonly outside: OutsideVoices,
    private readonly targetOf: (layer: CompiledLayer) => OutsideTarget | null,
  ) {}

  /** Takes the layers that play from now on. */
  play(layers: readonly CompiledLayer[]): void {
    this.present = layers;
  }

  /** A controller of a device was moved, 0–127. */
  control(device: number, channel: number, controller: number, value: number): void {
    const isKnown = this.known.move(device, channel, controller, value);
    if (isKnown)
      for (let strip = 0; strip < PATCH_STRIPS; strip++) {
        const layer = this.strips.layerOn[strip];
        if (layer && hears(layer, device, channel))
          this.setController(strip, layer, controller, value, TOUCH_UP);
      }
    for (const layer of this.present) {
      const target = this.targetOf(layer);
      if (target && hears(layer, device, channel) && obeysController(layer, controller))
        this.outside.control(target, controller, value);
    }
  }

  /** A pitch wheel was moved, −8191…8191. */
  bend(device: number, channel: number, steps: number): void {
    const { layerOn } = this.strips;
    this.known.moveBend(device, channel, steps);
    this.bent.fill(0);
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const layer = layerOn[strip];
      if (layer && hears(layer, device, channel) && obeys(layer, 'pitchBend')) this.mark(strip);
    }
    this.writeBend(steps);
    for (const layer of this.present) {
      const target = this.targetOf(layer);
      if (target && hears(layer, device, channel) && obeys(layer, 'pitchBend'))
        this.outside.bend(target, steps);
    }
  }

  /** The whole hand leans on the keys, 0–127. */
  pressure(device: number, channel: number, value: number): void {
    this.known.movePressure(device, channel, value);
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const layer = this.strips.layerOn[strip];
      if (layer?.obeysPressure && hears(layer, device, channel))
        this.writeVibrato(strip, layer, TOUCH_UP);
    }
    for (const layer of this.present) {
      const target = this.targetOf(layer);
      if (target && layer.obeysPressure && hears(layer, device, channel))
        this.outside.pressure(target, value);
    }
  }

  /** A finger leans on one key, 0–127. */
  voicePressure(voice: number, value: number): void {
    if (!this.outside.voicePressure(voice, value))
      this.commands.write(COMMAND.pressure, 0, voice, value / 127);
  }

  /** The wheel and the aftertouch of the whole hand do the same: the one that asks for more counts. */
  private writeVibrato(strip: number, layer: CompiledLayer, seconds: number): void {
    const wheel = obeys(layer, 'modulation') ? this.wheels[strip] : 0;
    const leant = layer.obeysPressure ? this.known.pressureFor(layer) : 0;
    const record = this.commands.begin(COMMAND.modulation, strip);
    record[3] = Math.max(wheel, leant) / 127;
    record[4] = seconds;
    this.commands.send();
  }

  /** Devices stand at other indices now; each came from the one named. */
  moveDevices(cameFrom: readonly number[]): void {
    this.known.moveDevices(cameFrom);
  }

  /** Puts controllers of a strip where a cue says, else where the hands have them, over seconds. */
  put(
    strip: number,
    layer: CompiledLayer,
    positions: readonly ControllerPosition[],
    seconds: number,
  ): void {
    const modulation = positionOf(positions, CC.modulation) ?? this.known.modulationFor(layer);
    const expression = positionOf(positions, CC.expression) ?? this.known.expressionFor(layer);
    this.setController(strip, layer, CC.modulation, modulation, seconds);
    this.setController(strip, layer, CC.expression, expression, seconds);
    this.bendStrip(strip, layer);
  }

  /** Bends a strip as far as the hands do that its layer hears. */
  private bendStrip(strip: number, layer: CompiledLayer): void {
    const bend = obeys(layer, 'pitchBend') ? this.known.bendFor(layer) : 0;
    this.bent.fill(0);
    this.mark(strip);
    this.writeBend(bend);
  }

  private setController(
    strip: number,
    layer: CompiledLayer,
    controller: number,
    value: number,
    seconds: number,
  ): void {
    const { commands } = this;
    if (controller === CC.modulation) {
      this.wheels[strip] = value;
      this.writeVibrato(strip, layer, seconds);
    } else if (controller === CC.expression) {
      const record = commands.begin(COMMAND.expression, strip);
      record[3] = obeys(layer, 'expression') ? EXPRESSION_GAINS[value] : 1;
      record[4] = seconds;
      commands.send();
    }
  }

  /**
   * Puts the controllers of modules where a cue or the hands say, and to rest on channels of which no layer obeys them any more;
   * what stands there already is not told again. A pedal is the player's alone: nobody would let it go again.
   */
  putOutside(parts: readonly OutsidePart[], positions: readonly ControllerPosition[]): void {
    const seen: OutsideTarget[] = [];
    for (const { layer, target } of parts) {
      for (const { controller, value } of positions)
        if (!isPut(controller) && controller !== CC.sustain && obeysController(layer, controller))
          this.putController(target, controller, value);
      if (seen.some((other) => isSameChannel(other, target))) continue;
      seen.push(target);
      const here = parts.filter((part) => isSameChannel(part.target, target));
      const obeying = (what: Obeyable) => here.find((part) => obeys(part.layer, what))?.layer;
      const turning = obeying('modulation');
      const swelling = obeying('expression');
      const bending = obeying('pitchBend');
      const modulation = turning && this.known.modulationFor(turning);
      const expression = swelling && this.known.expressionFor(swelling);
      this.putOrRest(target, CC.modulation, positions, modulation, 0);
      this.putOrRest(target, CC.expression, positions, expression, 127);
      const bend = bending ? this.known.bendFor(bending) : 0;
      if (this.outside.bendOf(target) !== bend) this.outside.bend(target, bend);
    }
  }

  /** @param value where the hands have it; undefined when no layer obeys it */
  private putOrRest(
    target: OutsideTarget,
    controller: number,
    positions: readonly ControllerPosition[],
    value: number | undefined,
    rest: number,
  ): void {
    if (value !== undefined)
      this.putController(target, controller, positionOf(positions, controller) ?? value);
    else if (this.outside.toldOf(target, controller) >= 0)
      this.putController(target, controller, rest);
  }

  private putController(target: OutsideTarget, controller: number, value: number): void {
    if (this.outside.toldOf(target, controller) !== value)
      this.outside.control(target, controller, value);
  }

  /** A device has gone: what it had moved goes to where another hand has it, else to rest. */
  deviceGone(device: number): void {
    for (let channel = 1; channel <= 16; channel++) {
      const moved = this.known.forgetDevice(device, channel);
      if (!moved.any) continue;
      for (let strip = 0; strip < PATCH_STRIPS; strip++) {
        const layer = this.strips.layerOn[strip];
        if (!layer || !hears(layer, device, channel)) continue;
        if (moved.modulation)
          this.setController(
            strip,
            layer,
            CC.modulation,
            this.known.modulationFor(layer),
            TOUCH_UP,
          );
        if (moved.expression)
          this.setController(
            strip,
            layer,
            CC.expression,
            this.known.expressionFor(layer),
            TOUCH_UP,
          );
        if (moved.pressure) this.writeVibrato(strip, layer, TOUCH_UP);
        if (moved.bend && obeys(layer, 'pitchBend')) this.bendStrip(strip, layer);
      }
      for (const layer of this.present) {
        const target = this.targetOf(layer);
        if (!target || !hears(layer, device, channel)) continue;
        if (moved.modulation && obeys(layer, 'modulation'))
          this.outside.control(target, CC.modulation, this.known.modulationFor(layer));
        if (moved.expression && obeys(layer, 'expression'))
          this.outside.control(target, CC.expression, this.known.expressionFor(layer));
        if (moved.pressure && layer.obeysPressure)
          this.outside.pressure(target, this.known.pressureFor(layer));
        if (moved.bend && obeys(layer, 'pitchBend'))
          this.outside.bend(target, this.known.bendFor(layer));
      }
    }
  }

  private mark(strip: number): void {
    this.bent[strip >> 5] |= 1 << (strip & 31);
  }

  /** One record whatever the number of strips, so that a wheel cannot fill the ring. */
  private writeBend(steps: number): void {
    const { bent, commands } = this;
    const record = commands.begin(COMMAND.bend, 0);
    record[ARGUMENTS] = (steps / BEND_FULL) * BEND_RANGE;
    for (let i = 0; i < bent.length; i++) record[ARGUMENTS + 1 + i] = bent[i];
    commands.send();
  }
}

/** Wheels and pedals that are put for the whole channel. */
function isPut(controller: number): boolean {
  return controller === CC.modulation || controller === CC.expression;
}
