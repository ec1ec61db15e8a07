import {
  EFFECT_NAMES,
  newPatchSound,
  type Effects,
  type LayerParameter,
  type Patch,
  type Sound,
  type Timbre,
  type TimbrePart,
} from '@pentachord/core/model';
import { CC } from '@pentachord/core/midi';
import { SILENCE_DB } from '@pentachord/core/range';
import type { CompiledLayer, CompiledPatch, PlayerOutput } from '@pentachord/core/routing';
import { BUS, COMMAND, METER, STRIPS, type CommandRing } from '@pentachord/core/sampler';
import { Controllers, expressionGain, hears } from './controllers';
import { OutsideVoices, type OutsideTarget } from './outside-voices';

/** Semitones that a full pitch wheel bends. */
const BEND_RANGE = 2;
/** Seconds over which an edit on the desk is heard, so that nothing clicks. */
const TOUCH_UP = 0.03;
/** The last strip is the stand-in module's. */
export const MODULE_STRIP = STRIPS - 1;
const PATCH_STRIPS = STRIPS - 1;

/** What the stage needs from its surroundings. */
export interface StageParts {
  commands: CommandRing;
  /** Slot of a house sound's recipe in the engine, −1 when there is none. */
  slotOf(recipe: string): number;
  /** Where an outside sound is played, or null when its module is not there. */
  targetOf(sound: Sound): OutsideTarget | null;
  /** Follows the shared effects of the patch. */
  setEffects(effects: Effects): void;
}

/** Where and how a layer sounds. */
interface LayerPlace {
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
  private readonly places = new WeakMap<CompiledLayer, LayerPlace>();
  private present: readonly CompiledLayer[] = [];
  private timbres = new Map<string, Timbre>();
  private readonly instances = new Map<string, number>();
  private readonly controllers = new Controllers();
  private readonly outside = new OutsideVoices();

  constructor(private readonly parts: StageParts) {}

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
    seconds: number | null,
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
      const place = this.placeOf(layer, strip, key, patch, sounds);
      this.places.set(layer, place);
      const { source } = layer;
      const level = layer.muted || layer.soloedOut ? SILENCE_DB : source.level;
      const arrival = isNew ? 0 : samePatch ? glide : TOUCH_UP;
      commands.write(COMMAND.level, strip, level, arrival);
      commands.write(COMMAND.pan, strip, source.pan);
      for (const name of EFFECT_NAMES)
        commands.write(COMMAND.send, strip, BUS[name], source.sends[name]);
      commands.write(COMMAND.tone, strip, source.tone.low, source.tone.high);
      this.writeTimbre(layer, strip);
      this.setControllers(strip, layer, positions, arrival);
      if (place.target) this.outside.prepare(place.target, level, source.pan, arrival);
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
  ): void {
    const place = this.places.get(layer);
    // A strip is given away only when more than a hundred were taken since.
    if (!place || this.owner[place.strip] !== place.key) return;
    const { target } = place;
    if (target) {
      this.outside.start(voice, target, note, Math.max(1, Math.round(velocity * Math.sqrt(gain))));
      return;
    }
    if (place.slot < 0) return;
    this.parts.commands.write(
      COMMAND.start,
      voice,
      place.strip,
      place.slot,
      place.instance,
      place.polyphony,
      note,
      velocity,
      gain,
      place.glideSeconds,
    );
  }

  end(voice: number): void {
    if (!this.outside.end(voice)) this.parts.commands.write(COMMAND.end, voice);
  }

  control(device: number, channel: number, controller: number, value: number): void {
    const known = this.controllers.move(device, channel, controller, value);
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const layer = this.layerOn[strip];
      if (!layer || !hears(layer, device, channel)) continue;
      if (known) this.setController(strip, layer, controller, value, TOUCH_UP);
    }
    for (const layer of this.present) {
      const target = this.places.get(layer)?.target;
      if (target && hears(layer, device, channel)) this.outside.control(target, controller, value);
    }
  }

  /** Moves a setting of a layer of the present patch, as a control asks; levels in dB, pan −1…1. */
  moveLayer(layerId: string, parameter: Exclude<LayerParameter, 'lift'>, value: number): void {
    const { commands } = this.parts;
    for (const layer of this.present) {
      const place = layer.id === layerId ? this.places.get(layer) : undefined;
      if (!place || layer.muted || layer.soloedOut) continue;
      if (parameter === 'level') {
        commands.write(COMMAND.level, place.strip, value, TOUCH_UP);
        if (place.target) this.outside.prepare(place.target, value, layer.source.pan, TOUCH_UP);
      } else if (parameter === 'pan') commands.write(COMMAND.pan, place.strip, value);
      else commands.write(COMMAND.send, place.strip, BUS[parameter], value);
    }
  }

  /** Moves a part of a sound's timbre, on every layer that shares it. */
  moveSound(patchSoundId: string, part: TimbrePart, value: number): void {
    const timbre = this.timbres.get(patchSoundId);
    if (!timbre) return;
    this.timbres.set(patchSoundId, { ...timbre, [part]: value });
    for (const layer of this.present) {
      const place = layer.patchSoundId === patchSoundId ? this.places.get(layer) : undefined;
      if (place) this.writeTimbre(layer, place.strip);
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
    this.parts.commands.write(COMMAND.timbre, strip, brightness, attack, release, vibrato);
  }

  bend(device: number, channel: number, amount: number): void {
    this.controllers.moveBend(device, channel, amount);
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const layer = this.layerOn[strip];
      if (layer && hears(layer, device, channel) && layer.source.obeys.includes('pitchBend'))
        this.parts.commands.write(COMMAND.bend, strip, amount * BEND_RANGE);
    }
  }

  silence(): void {
    this.parts.commands.write(COMMAND.silence);
    this.outside.silence();
  }

  private placeOf(
    layer: CompiledLayer,
    strip: number,
    key: string,
    patch: Patch,
    sounds: ReadonlyMap<string, Sound>,
  ): LayerPlace {
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
    commands.write(COMMAND.bend, strip, bend * BEND_RANGE);
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
      commands.write(COMMAND.modulation, strip, depth, seconds);
    } else if (controller === CC.expression) {
      const gain = obeys.includes('expression') ? expressionGain(value) : 1;
      commands.write(COMMAND.expression, strip, gain, seconds);
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
    this.parts.commands.write(COMMAND.reset, best);
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
