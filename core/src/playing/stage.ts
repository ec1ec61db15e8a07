import { CC } from '../midi/messages.js';
import type { Sound } from '../model/library/sound.js';
import type { LayerParameter } from '../model/patch/control.js';
import { EFFECT_NAMES, type Effects } from '../model/patch/effects.js';
import { newPatchSound, type Patch } from '../model/patch/patch.js';
import type { Timbre, TimbrePart } from '../model/patch/timbre.js';
import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { hears } from '../routing/hearing.js';
import { BUS, COMMAND, type CommandWriter } from '../sampler/command-ring.js';
import { METER, STRIPS } from '../sampler/meters.js';
import { SILENCE_DB } from '../units/decibels.js';
import type { Frame, Seconds } from '../units/times.js';
import { Controllers, expressionGain } from './controllers.js';
import { OutsideVoices, type OutsideTarget } from './outside-voices.js';
import type { PlayerOutput } from './player-output.js';

/** Semitones that a full pitch wheel bends. */
const BEND_RANGE = 2;
/** Seconds over which an edit on the desk is heard, so that nothing clicks. */
const TOUCH_UP = 0.03;
/** The last strip is the stand-in module's. */
export const MODULE_STRIP = STRIPS - 1;
const PATCH_STRIPS = STRIPS - 1;

/** What the stage needs of the audio side and of the ports. */
export interface StageParts {
  commands: CommandWriter;
  /** The frame of the audio clock at a time; 0 for 0, which is now. */
  frameAt(time: Seconds): Frame;
  /** The present time in seconds. */
  now(): Seconds;
  /** Slot of a house sound's recipe in the engine, −1 when there is none. */
  slotOf(recipe: string): number;
  /** Where an outside sound is played, or null when its module is not there. */
  targetOf(sound: Sound): OutsideTarget | null;
  /** Follows the shared effects of the patch. */
  setEffects(effects: Effects): void;
}

/** Where and how a layer sounds. */
interface LayerSeat {
  /** The strip's owner, to tell whether the strip has been given away since. */
  key: string;
  strip: number;
  slot: number;
  instance: number;
  /** 0 = many. */
  polyphony: number;
  glideSeconds: number;
  target: OutsideTarget | null;
}

/** A controller position that a cue brings. */
export interface ControllerPosition {
  controller: number;
  value: number;
}

/**
 * Carries the player's decisions out: gives each layer a strip of the voice engine, keeps the strips of a patch that was
 * left until their notes have ended, and speaks to outside modules.
 */
export class Stage implements PlayerOutput {
  private readonly owner: (string | null)[] = new Array<string | null>(PATCH_STRIPS).fill(null);
  private readonly layerOn: (CompiledLayer | null)[] = new Array<CompiledLayer | null>(
    PATCH_STRIPS,
  ).fill(null);
  private readonly lastUse = new Float64Array(PATCH_STRIPS);
  private uses = 0;
  private patchId: string | null = null;
  /** By layer as compiled, so that a patch just left still sounds where it did. */
  private readonly seats = new WeakMap<CompiledLayer, LayerSeat>();
  private present: readonly CompiledLayer[] = [];
  private timbres = new Map<string, Timbre>();
  private readonly instances = new Map<string, number>();
  private readonly controllers = new Controllers();
  private readonly outside: OutsideVoices;

  constructor(private readonly parts: StageParts) {
    this.outside = new OutsideVoices(() => parts.now());
  }

  /** True while something of the outside waits for its time. */
  get needsClock(): boolean {
    return this.outside.needsClock;
  }

  /** Hands over to the outside what becomes due within the next moments. */
  advance(): void {
    this.outside.advance();
  }

  /** Strip of a layer of the patch being played, for its meter; −1 when it has none. */
  stripOf(layerId: string): number {
    return this.patchId === null ? -1 : this.owner.indexOf(`${this.patchId}/${layerId}`);
  }

  /**
   * Sets the strips for a patch. Levels of the patch that is playing glide over `seconds`; a patch that was not playing
   * is there at once.
   */
  prepare(
    compiled: CompiledPatch,
    patch: Patch,
    sounds: ReadonlyMap<string, Sound>,
    seconds: Seconds | null,
    positions: readonly ControllerPosition[],
  ): void {
    const { commands } = this.parts;
    const samePatch = this.patchId === compiled.id;
    this.patchId = compiled.id;
    this.present = compiled.layers;
    this.timbres = new Map(patch.sounds.map((sound) => [sound.id, sound.timbre]));
    const glide = seconds ?? TOUCH_UP;
    for (const layer of compiled.layers) {
      const key = `${compiled.id}/${layer.id}`;
      let strip = this.owner.indexOf(key);
      const isNew = strip < 0;
      if (isNew) strip = this.takeStrip(key, compiled);
      this.lastUse[strip] = ++this.uses;
      this.layerOn[strip] = layer;
      const seat = this.seatOf(layer, strip, key, patch, sounds);
      this.seats.set(layer, seat);
      const { source } = layer;
      const level = layer.muted || layer.soloedOut ? SILENCE_DB : source.level;
      const arrival = isNew ? 0 : samePatch ? glide : TOUCH_UP;
      commands.write(COMMAND.level, 0, strip, level, arrival);
      commands.write(COMMAND.pan, 0, strip, source.pan);
      for (const name of EFFECT_NAMES)
        commands.write(COMMAND.send, 0, strip, BUS[name], source.sends[name]);
      commands.write(COMMAND.tone, 0, strip, source.tone.low, source.tone.high);
      this.writeTimbre(layer, strip);
      this.setControllers(strip, layer, positions, arrival);
      if (seat.target) this.outside.prepare(seat.target, level, source.pan, arrival);
    }
    this.parts.setEffects(patch.effects);
  }

  start(
    voice: number,
    _patch: CompiledPatch,
    layer: CompiledLayer,
    note: number,
    velocity: number,
    gain: number,
    at: Seconds,
  ): void {
    const seat = this.seats.get(layer);
    // A strip is given away only when more than a hundred were taken since.
    if (!seat || this.owner[seat.strip] !== seat.key) return;
    const { target } = seat;
    if (target) {
      const struck = Math.max(1, Math.round(velocity * Math.sqrt(gain)));
      this.outside.start(voice, target, note, struck, at);
      return;
    }
    if (seat.slot < 0) return;
    this.parts.commands.write(
      COMMAND.start,
      this.parts.frameAt(at),
      voice,
      seat.strip,
      seat.slot,
      seat.instance,
      seat.polyphony,
      note,
      velocity,
      gain,
      seat.glideSeconds,
    );
  }

  end(voice: number, at: Seconds): void {
    if (!this.outside.end(voice, at))
      this.parts.commands.write(COMMAND.end, this.parts.frameAt(at), voice);
  }

  takeBack(voice: number): void {
    if (!this.outside.takeBack(voice)) this.parts.commands.write(COMMAND.takeBack, 0, voice, 0);
  }

  callOffEnd(voice: number): void {
    if (!this.outside.callOffEnd(voice)) this.parts.commands.write(COMMAND.takeBack, 0, voice, 1);
  }

  control(device: number, channel: number, controller: number, value: number): void {
    const known = this.controllers.move(device, channel, controller, value);
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const layer = this.layerOn[strip];
      if (!layer || !hears(layer, device, channel)) continue;
      if (known) this.setController(strip, layer, controller, value, TOUCH_UP);
    }
    for (const layer of this.present) {
      const target = this.seats.get(layer)?.target;
      if (target && hears(layer, device, channel)) this.outside.control(target, controller, value);
    }
  }

  /** Moves a setting of a layer of the present patch, as a control asks; levels in dB, pan −1…1. */
  moveLayer(layerId: string, parameter: Exclude<LayerParameter, 'lift'>, value: number): void {
    const { commands } = this.parts;
    for (const layer of this.present) {
      const seat = layer.id === layerId ? this.seats.get(layer) : undefined;
      if (!seat || layer.muted || layer.soloedOut) continue;
      if (parameter === 'level') {
        commands.write(COMMAND.level, 0, seat.strip, value, TOUCH_UP);
        if (seat.target) this.outside.prepare(seat.target, value, layer.source.pan, TOUCH_UP);
      } else if (parameter === 'pan') commands.write(COMMAND.pan, 0, seat.strip, value);
      else commands.write(COMMAND.send, 0, seat.strip, BUS[parameter], value);
    }
  }

  /** Moves a part of a sound's timbre, on every layer that shares it. */
  moveSound(patchSoundId: string, part: TimbrePart, value: number): void {
    const timbre = this.timbres.get(patchSoundId);
    if (!timbre) return;
    this.timbres.set(patchSoundId, { ...timbre, [part]: value });
    for (const layer of this.present) {
      const seat = layer.patchSoundId === patchSoundId ? this.seats.get(layer) : undefined;
      if (seat) this.writeTimbre(layer, seat.strip);
    }
  }

  /** Number in {@link METER} that counts the notes a layer has lost to its polyphony; −1 when it has no strip. */
  stolenMeterOf(layerId: string): number {
    const strip = this.stripOf(layerId);
    return strip < 0 ? -1 : METER.stolenFrom + strip;
  }

  private writeTimbre(layer: CompiledLayer, strip: number): void {
    const timbre = this.timbres.get(layer.patchSoundId);
    if (!timbre) return;
    const { brightness, attack, release, vibrato } = timbre;
    this.parts.commands.write(COMMAND.timbre, 0, strip, brightness, attack, release, vibrato);
  }

  bend(device: number, channel: number, amount: number): void {
    this.controllers.moveBend(device, channel, amount);
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const layer = this.layerOn[strip];
      if (layer && hears(layer, device, channel) && layer.source.obeys.includes('pitchBend'))
        this.parts.commands.write(COMMAND.bend, 0, strip, amount * BEND_RANGE);
    }
  }

  silence(): void {
    this.parts.commands.write(COMMAND.silence, 0);
    this.outside.silence();
  }

  private seatOf(
    layer: CompiledLayer,
    strip: number,
    key: string,
    patch: Patch,
    sounds: ReadonlyMap<string, Sound>,
  ): LayerSeat {
    const sound = sounds.get(layer.librarySoundId);
    const { polyphony, glideSeconds } =
      patch.sounds.find((s) => s.id === layer.patchSoundId) ?? newPatchSound('', '');
    return {
      key,
      strip,
      slot: sound?.origin.kind === 'house' ? this.parts.slotOf(sound.origin.recipe) : -1,
      instance: this.instanceOf(`${patch.id}/${layer.patchSoundId}`),
      polyphony: polyphony === 'many' ? 0 : polyphony,
      glideSeconds,
      target: sound?.origin.kind === 'outside' ? this.parts.targetOf(sound) : null,
    };
  }

  private setControllers(
    strip: number,
    layer: CompiledLayer,
    positions: readonly ControllerPosition[],
    seconds: number,
  ): void {
    const { commands } = this.parts;
    const obeys = layer.source.obeys;
    const positionOf = (controller: number) =>
      positions.find((p) => p.controller === controller)?.value;
    const modulation = positionOf(CC.modulation) ?? this.controllers.modulationFor(layer) * 127;
    const expression = positionOf(CC.expression) ?? this.controllers.expressionFor(layer);
    this.setController(strip, layer, CC.modulation, modulation, seconds);
    this.setController(strip, layer, CC.expression, expression, seconds);
    const bend = obeys.includes('pitchBend') ? this.controllers.bendFor(layer) : 0;
    commands.write(COMMAND.bend, 0, strip, bend * BEND_RANGE);
  }

  private setController(
    strip: number,
    layer: CompiledLayer,
    controller: number,
    value: number,
    seconds: number,
  ): void {
    const { commands } = this.parts;
    const obeys = layer.source.obeys;
    if (controller === CC.modulation) {
      const depth = obeys.includes('modulation') ? value / 127 : 0;
      commands.write(COMMAND.modulation, 0, strip, depth, seconds);
    } else if (controller === CC.expression) {
      const gain = obeys.includes('expression') ? expressionGain(value) : 1;
      commands.write(COMMAND.expression, 0, strip, gain, seconds);
    }
  }

  /** A strip for a layer: an unused one, else the one left alone longest, never one of the patch being prepared. */
  private takeStrip(key: string, compiled: CompiledPatch): number {
    let best = -1;
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const owner = this.owner[strip];
      if (owner === null) {
        best = strip;
        break;
      }
      if (owner.startsWith(`${compiled.id}/`)) continue;
      if (best < 0 || this.lastUse[strip] < this.lastUse[best]) best = strip;
    }
    this.owner[best] = key;
    this.parts.commands.write(COMMAND.reset, 0, best);
    return best;
  }

  private instanceOf(key: string): number {
    const known = this.instances.get(key);
    if (known !== undefined) return known;
    const instance = this.instances.size + 1;
    this.instances.set(key, instance);
    return instance;
  }
}
