import type { Sound } from '../../model/library/sound.js';
import type { LayerSetting } from '../../model/patch/control-target.js';
import { LAYER_OUTPUTS, type Layer } from '../../model/patch/layer.js';
import { EFFECT_NAMES, type Effects } from '../../model/patch/effects.js';
import { newPatchSound, type Patch } from '../../model/patch/patch.js';
import { TIMBRE_PARTS, type Timbre, type TimbrePart } from '../../model/patch/timbre.js';
import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import { BUS, COMMAND, START, type CommandWriter } from '../../sampler/command-ring.js';
import { METER, STRIPS } from '../../sampler/meters.js';
import { sourceIdOf } from '../../model/library/source-id.js';
import { gainFromDb, SILENCE_DB } from '../../units/decibels.js';
import type { Frame, Seconds } from '../../units/times.js';
import { LayerLevels, NO_TRIMS, TOUCH_UP, type TrimsByLayer } from './layer-levels.js';
import type { LayerSeat } from './layer-seat.js';
import type { Moved } from '../../units/moved.js';
import type { ControllerPosition } from '../../model/show/cue.js';
import { OutsideChannels, type OutsidePart } from './outside-channels.js';
import type { OutsideTarget } from './outside-target.js';
import { OutsideVoices } from './outside-voices.js';
import { NO_NOTE_TAP, type NoteTap } from '../notes/note-tap.js';
import type { Onset, PlayerOutput } from '../notes/player-output.js';
import { StageControllers } from './stage-controllers.js';
import { otherEars, StripsInUse, type Asked } from './strips-in-use.js';

/** The last strip is the stand-in module's. */
export const MODULE_STRIP = STRIPS - 1;

/** A source as the engine plays it. */
export interface PlayedSource {
  slot: number;
  /** Whether its notes ring on and die away by themselves. */
  ringsOn: boolean;
}

/** What the stage needs of the audio side and of the ports. */
export interface StageParts {
  commands: CommandWriter;
  /** The frame of the audio clock at a time; 0 for 0, which is now. */
  frameAt(time: Seconds): Frame;
  /** The present time in seconds. */
  now(): Seconds;
  /** How the source of an id is played by the engine; null when there is none. */
  playedBy(sourceId: string): PlayedSource | null;
  /** Where an outside sound is played, or null when its module is not there. */
  targetOf(sound: Sound): OutsideTarget | null;
  /** Follows the shared effects of the patch. */
  setEffects(effects: Effects): void;
}

/**
 * Carries the player's decisions out: gives each layer a strip of the voice engine, keeps the strips of a patch that was
 * left until their notes have ended, and speaks to outside modules.
 */
export class Stage implements PlayerOutput {
  private readonly strips = new StripsInUse();
  private patchId: string | null = null;
  /** By layer as compiled, so that a patch just left still sounds where it did. */
  private readonly seats = new WeakMap<CompiledLayer, LayerSeat>();
  private present: readonly CompiledLayer[] = [];
  /** Where each strip is between left and right, −1…1. */
  private readonly pans = new Float64Array(STRIPS);
  /** Looks on at every note. */
  tap: NoteTap = NO_NOTE_TAP;
  private timbres = new Map<string, Float64Array>();
  private readonly levels = new LayerLevels();
  private readonly instances = new Map<string, number>();
  private readonly outside: OutsideVoices;
  private readonly outsideChannels: OutsideChannels;
  private readonly controllers: StageControllers;

  constructor(private readonly parts: StageParts) {
    this.outside = new OutsideVoices(() => parts.now());
    this.outsideChannels = new OutsideChannels(this.outside);
    this.controllers = new StageControllers(
      parts.commands,
      this.strips,
      this.outside,
      (layer) => this.seats.get(layer)?.target ?? null,
    );
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
    return this.patchId === null ? -1 : this.strips.of(`${this.patchId}/${layerId}`);
  }

  /**
   * Sets the strips for a patch. Levels of the patch that is playing glide over `seconds` when a cue is recalled (null when
   * none is): what an edit leaves as it was goes on as it is. A patch that was not playing is there at once. `trims` holds
   * dB by layer that are added to its level.
   */
  prepare(
    compiled: CompiledPatch,
    patch: Patch,
    sounds: ReadonlyMap<string, Sound>,
    seconds: Seconds | null,
    positions: readonly ControllerPosition[],
    trims = NO_TRIMS,
  ): void {
    const samePatch = this.patchId === compiled.id;
    this.levels.begin(samePatch, trims);
    const timbreOf = new Map(patch.sounds.map((sound) => [sound.id, sound.timbre]));
    if (!samePatch) this.timbres.clear();
    const parts: OutsidePart[] = [];
    this.patchId = compiled.id;
    this.present = compiled.layers;
    this.controllers.play(compiled.layers);
    let outsideArrival = TOUCH_UP;
    let putOutside = false;
    const owners = new Set(compiled.layers.map((layer) => `${compiled.id}/${layer.id}`));
    for (const layer of compiled.layers) {
      const key = `${compiled.id}/${layer.id}`;
      const known = this.strips.of(key);
      const isNew = known < 0;
      const strip = isNew ? this.takeStrip(key, owners) : known;
      this.strips.use(strip, layer);
      const seat = this.seatOf(layer, strip, key, patch, sounds);
      this.seats.set(layer, seat);
      const isSilent = layer.muted || layer.soloedOut;
      const level = isSilent ? SILENCE_DB : this.levels.trimmed(layer.id, layer.source.level);
      const arrival = isNew ? 0 : samePatch ? (seconds ?? TOUCH_UP) : TOUCH_UP;
      const before = isNew || !samePatch ? null : this.strips.asked[strip];
      const recalled = before === null || seconds !== null;
      const timbre = timbreOf.get(layer.patchSoundId);
      this.strips.asked[strip] = {
        level,
        isSilent,
        source: layer.source,
        hearsDevice: layer.hearsDevice,
        timbre,
      };
      const isAsked = recalled || level !== before.level || isSilent !== before.isSilent;
      // A layer that was only muted meanwhile comes back where a control has moved it.
      const isMeant = recalled || layer.source.level !== before?.source.level;
      this.levels.prepare(layer.id, layer.source.level, isMeant);
      const heard = isSilent ? SILENCE_DB : this.levels.of(layer);
      if (isAsked) this.parts.commands.write(COMMAND.level, 0, strip, heard, arrival);
      this.writeSource(strip, layer.source, before?.source, samePatch ? seconds : null);
      this.askTimbre(layer, strip, timbre, before);
      const isHeardAnew =
        recalled || before.source.obeys !== layer.source.obeys || otherEars(before, layer);
      if (isHeardAnew) this.controllers.put(strip, layer, positions, arrival);
      if (!seat.target) continue;
      outsideArrival = arrival;
      parts.push({ layer, target: seat.target, level: heard, isAsked });
      putOutside ||= isHeardAnew;
    }
    this.outsideChannels.set(parts, outsideArrival);
    if (putOutside) this.controllers.putOutside(parts, positions);
    this.parts.setEffects(patch.effects);
  }

  /** A strip for a layer that has none; nothing of whoever had it is left. */
  private takeStrip(key: string, owners: ReadonlySet<string>): number {
    const strip = this.strips.take(key, owners);
    this.parts.commands.write(COMMAND.reset, 0, strip);
    return strip;
  }

  /** Has a layer sound in the colour of its patch sound, where that is another than it was asked for last. */
  private askTimbre(
    layer: CompiledLayer,
    strip: number,
    timbre: Timbre | undefined,
    before: Asked | null,
  ): void {
    if (before && timbre === before.timbre) return;
    if (timbre && timbre !== before?.timbre) {
      const parts = TIMBRE_PARTS.map((part) => timbre[part]);
      this.timbres.set(layer.patchSoundId, Float64Array.from(parts));
    }
    this.writeTimbre(layer, strip);
  }

  /** Another device stands behind the name of a port: what the one before was told is told anew, and nothing else. */
  renewOutside(port: string): void {
    this.outside.renew(port);
  }

  start(
    voice: number,
    _patch: CompiledPatch,
    layer: CompiledLayer,
    note: number,
    velocity: number,
    onset: Readonly<Onset>,
  ): void {
    this.tap.began(voice, layer, note, velocity, onset);
    const seat = this.seats.get(layer);
    // A strip is given away only when more than a hundred were taken since.
    if (!seat || !this.strips.belongsTo(seat.strip, seat.key)) return;
    const { target } = seat;
    if (target) {
      const softer = onset.gain * gainFromDb(this.outsideChannels.trimOf(layer));
      const struck = Math.max(1, Math.round(velocity * Math.sqrt(softer)));
      this.outside.start(voice, target, note, struck, onset.at);
      return;
    }
    if (seat.slot < 0) return;
    const { commands } = this.parts;
    const record = commands.begin(COMMAND.start, voice);
    record[1] = this.parts.frameAt(onset.at);
    record[START.strip] = seat.strip;
    record[START.slot] = seat.slot;
    record[START.instance] = seat.instance;
    record[START.polyphony] = seat.polyphony;
    record[START.note] = note;
    record[START.velocity] = velocity;
    record[START.gain] = onset.gain;
    record[START.glide] = seat.glideSeconds;
    commands.send();
  }

  ringsOn(layer: CompiledLayer): boolean {
    return this.seats.get(layer)?.ringsOn ?? false;
  }

  end(voice: number, at: Seconds): void {
    this.tap.ended(voice, at);
    if (!this.outside.end(voice, at))
      this.parts.commands.write(COMMAND.end, this.parts.frameAt(at), voice);
  }

  takeBack(voice: number): void {
    if (!this.outside.takeBack(voice)) this.parts.commands.write(COMMAND.takeBack, 0, voice, 0);
  }

  retime(voice: number, from: Seconds, until: Seconds): void {
    this.tap.moved(voice, from, until);
    if (this.outside.retime(voice, from, until)) return;
    const { commands } = this.parts;
    const end = until < Infinity ? this.parts.frameAt(until) : -1;
    commands.write(COMMAND.retime, 0, voice, this.parts.frameAt(from), end);
  }

  /** Moves a setting of a layer of the present patch, as a control asks; levels in dB, pan −1…1. */
  moveLayer(layerId: string, parameter: LayerSetting, to: Moved): void {
    const { commands } = this.parts;
    for (const layer of this.present) {
      const seat = layer.id === layerId ? this.seats.get(layer) : undefined;
      if (!seat) continue;
      if (parameter === 'level') {
        this.levels.move(layerId, to);
        this.putLevel(layer, seat);
      } else if (parameter === 'pan') {
        commands.begin(COMMAND.pan, seat.strip)[3] = to.value;
        this.pans[seat.strip] = to.value;
        commands.send();
      } else {
        const record = commands.begin(COMMAND.send, seat.strip);
        record[3] = BUS[parameter];
        record[4] = to.value;
        commands.send();
      }
    }
  }

  /** How loud a layer of the present patch is asked to be now, dB, wherever hands and trims have put it; null for none of these. */
  levelOf(layerId: string): number | null {
    const layer = this.present.find(({ id }) => id === layerId);
    return layer ? this.levels.of(layer) : null;
  }

  /** How loud a layer of the present patch is heard: as {@link levelOf}, −60 dB for silence where it is muted. */
  heardLevelOf(layer: CompiledLayer): number {
    return layer.muted || layer.soloedOut ? SILENCE_DB : this.levels.of(layer);
  }

  /** Where a layer is heard between left and right, −1…1, wherever hands have put it. */
  panOf(layer: CompiledLayer): number {
    const seat = this.seats.get(layer);
    return seat ? this.pans[seat.strip] : layer.source.pan;
  }

  /** Trims layers of the present patch by so many dB, on top of whatever else moves their levels. */
  trim(trims: TrimsByLayer): void {
    const changed = this.levels.trim(trims);
    for (const layer of this.present) {
      const seat = changed.includes(layer.id) ? this.seats.get(layer) : undefined;
      if (!seat) continue;
      const asked = this.strips.asked[seat.strip];
      if (asked && !layer.muted && !layer.soloedOut)
        asked.level = this.levels.trimmed(layer.id, layer.source.level);
      this.putLevel(layer, seat);
    }
  }

  private putLevel(layer: CompiledLayer, { strip, target }: LayerSeat): void {
    // Of a layer that is not heard it is remembered.
    if (layer.muted || layer.soloedOut) return;
    const { commands } = this.parts;
    const record = commands.begin(COMMAND.level, strip);
    this.levels.look(layer);
    record[3] = this.levels.looked[0];
    record[4] = TOUCH_UP;
    commands.send();
    // Only now: a module that is none writes commands of its own.
    if (target) this.outsideChannels.move(layer, this.levels.looked[0], TOUCH_UP);
  }

  /** Moves a part of a sound's timbre, on every layer that shares it. */
  moveSound(patchSoundId: string, part: TimbrePart, to: Moved): void {
    const timbre = this.timbres.get(patchSoundId);
    if (!timbre) return;
    timbre[TIMBRE_PARTS.indexOf(part)] = to.value;
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
    const { commands } = this.parts;
    const record = commands.begin(COMMAND.timbre, strip);
    for (let i = 0; i < timbre.length; i++) record[3 + i] = timbre[i];
    commands.send();
  }

  control(device: number, channel: number, controller: number, value: number): void {
    this.controllers.control(device, channel, controller, value);
  }

  bend(device: number, channel: number, steps: number): void {
    this.controllers.bend(device, channel, steps);
  }

  pressure(device: number, channel: number, value: number): void {
    this.controllers.pressure(device, channel, value);
  }

  voicePressure(voice: number, value: number): void {
    this.controllers.voicePressure(voice, value);
  }

  deviceGone(device: number): void {
    this.controllers.deviceGone(device);
  }

  moveDevices(cameFrom: readonly number[]): void {
    this.controllers.moveDevices(cameFrom);
  }

  silence(): void {
    this.tap.silenced();
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
    const sourceId = sound ? sourceIdOf(sound) : null;
    const played = sourceId === null ? null : this.parts.playedBy(sourceId);
    const { polyphony, glideSeconds } =
      patch.sounds.find((s) => s.id === layer.patchSoundId) ?? newPatchSound('', '');
    return {
      key,
      strip,
      slot: played?.slot ?? -1,
      instance: this.instanceOf(`${patch.id}/${layer.patchSoundId}`),
      polyphony: polyphony === 'many' ? 0 : polyphony,
      glideSeconds,
      target: sound?.origin.kind === 'outside' ? this.parts.targetOf(sound) : null,
      ringsOn: played?.ringsOn ?? false,
    };
  }

  /** Writes what a layer says of itself, as far as it differs from before. A cue recalls its sends in any case, over seconds. */
  private writeSource(
    strip: number,
    { pan, sends, tone, output }: Layer,
    before: Layer | undefined,
    seconds: Seconds | null,
  ): void {
    const { commands } = this.parts;
    if (pan !== before?.pan) {
      commands.write(COMMAND.pan, 0, strip, pan);
      this.pans[strip] = pan;
    }
    if (output !== (before?.output ?? 'main'))
      commands.write(COMMAND.output, 0, strip, LAYER_OUTPUTS.indexOf(output));
    for (const name of EFFECT_NAMES)
      if (seconds !== null || sends[name] !== before?.sends[name])
        commands.write(COMMAND.send, 0, strip, BUS[name], sends[name], seconds ?? 0);
    if (tone.low !== before?.tone.low || tone.high !== before.tone.high)
      commands.write(COMMAND.tone, 0, strip, tone.low, tone.high);
  }

  private instanceOf(key: string): number {
    const known = this.instances.get(key);
    if (known !== undefined) return known;
    const instance = this.instances.size + 1;
    this.instances.set(key, instance);
    return instance;
  }
}
