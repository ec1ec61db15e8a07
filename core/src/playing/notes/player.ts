import { NOW, ShowClock } from '../../clock/show-clock.js';
import { CC } from '../../midi/messages.js';
import { isChosen, type Chooser } from '../../model/patch/chooser.js';
import { MOST_DEVICES } from '../../model/rig/rig.js';
import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import { answersStrength, judge, rangeGainOf, VERDICT } from '../../routing/judge.js';
import type { PlayedNote } from '../../routing/trace.js';
import type { Chain } from '../../treatments/chain.js';
import type { Beats, Seconds } from '../../units/times.js';
import type { Accompanying } from './accompanying.js';
import { readChannelMessage, type ChannelMessages } from './channel-messages.js';
import type { Onset, PlayerOutput } from './player-output.js';
import { HeardKeys } from './heard-keys.js';
import { fingeredBy, SourceNotes, type NoteSource } from './source-notes.js';
import { TreatedLayers } from './treated-layers.js';
import { keySlot, VoiceTable } from './voice-table.js';

/**
 * Remembers what each pressed key began, and ends exactly that.
 *
 * port bytes ─► parser ─► **player** ─► output (audio engine, outgoing ports)
 *
 * The voice of a layer with treatments is held like any other, but what begins and ends with it is for the layer's chain
 * to say.
 */
export class Player implements ChannelMessages {
  private patch: CompiledPatch | null = null;
  private readonly voices = new VoiceTable<Chain>((voice, chain) => {
    if (chain) chain.release(voice, NOW);
    else this.output.end(voice, 0);
  });
  private readonly pedals = new Uint8Array(MOST_DEVICES * 16);
  private readonly velocityDown = new Uint8Array(MOST_DEVICES * 128);
  /** Channels on which a key of a device was struck and is not let go, a bit each. */
  private readonly channelsDown = new Uint16Array(MOST_DEVICES * 128);
  private voicesBegun = 0;
  private readonly treated: TreatedLayers;
  private readonly sources: SourceNotes;
  /** Switches that a control has set since the patch was taken: treatments and lifts by id. */
  private readonly switched = new Map<string, boolean>();
  /** Choices that a control has picked since the patch was taken, by chooser. */
  private readonly choices = new Map<string, number>();
  private readonly last: Required<PlayedNote> = {
    device: -1,
    channel: 1,
    key: 0,
    velocity: 0,
    shift: 0,
  };
  /** Semitones by which a control has what devices play heard higher or lower. */
  private readonly shifts = new Int8Array(MOST_DEVICES);
  private readonly lean = (voice: number, value: number, chain: Chain | null) => {
    if (chain) chain.lean(voice, value);
    else this.output.voicePressure(voice, value);
  };
  private readonly onset: Onset = { gain: 1, at: 0 };
  private notesPlayed = 0;
  private silentNotes = 0;
  private readonly heard = new HeardKeys();

  /** The show's clock, on which treatments run. */
  readonly clock: ShowClock;

  /** @param now the present time in seconds, for what runs on the clock */
  constructor(
    private readonly output: PlayerOutput,
    now: () => Seconds = () => 0,
  ) {
    this.clock = new ShowClock(now);
    this.sources = new SourceNotes(this.clock);
    this.treated = new TreatedLayers(output, this.clock, () => ++this.voicesBegun);
  }

  /** What keys start beside the layers from now on. */
  set accompanying(accompanying: Accompanying) {
    this.heard.accompanying = accompanying;
  }

  /** Voices that are held by a key or a pedal. */
  get voicesHeld(): number {
    return this.voices.held;
  }

  /** Rises by one with every note-on, so that views know when to look at {@link lastNote}. */
  get noteCount(): number {
    return this.notesPlayed;
  }

  /** Rises with every note-on that no layer answers; {@link lastNote} is that note right after it. */
  get silentNoteCount(): number {
    return this.silentNotes;
  }

  /** The last note-on; `device` is −1 before the first. The object is reused. */
  get lastNote(): Readonly<PlayedNote> {
    return this.last;
  }

  /** Velocity of a key that is down, 0 when it is up. */
  velocityOf(device: number, key: number): number {
    return this.velocityDown[device * 128 + key];
  }

  /** True while the sustain pedal of a device's channel is down. */
  pedalDown(device: number, channel: number): boolean {
    return this.pedals[device * 16 + channel - 1] === 1;
  }

  /**
   * Plays this patch from now on. Held notes finish in the patch they began in, or are cut.
   * Taking the same patch anew, after an edit or a cue, leaves held notes alone.
   */
  take(patch: CompiledPatch | null, heldNotes: 'finish' | 'cut' = 'finish'): void {
    const another = this.patch?.id !== patch?.id;
    if (heldNotes === 'cut' && this.patch && another) {
      this.voices.endAll();
      this.sources.endUnowned();
    }
    if (another) {
      this.switched.clear();
      this.choices.clear();
    } else this.forgetEdited(this.patch, patch);
    this.patch = patch;
    for (const layer of patch?.layers ?? []) this.putLift(layer);
    this.putChoices();
    this.takeTreatments();
    this.heard.accompanying?.take(patch);
  }

  /** True while something waits for the clock, so that {@link advance} has to be called every few milliseconds. */
  get needsClock(): boolean {
    return this.clock.isRunning;
  }

  /**
   * Has a source play a note from a beat to another: on each of its layers that answers the strength, wherever the layer’s keys lie, which are the hands’. The key is as it sounds before the layer’s own transposition: the
   * song’s shift is in it already.
   */
  playNote(source: NoteSource, key: number, velocity: number, from: Beats, until: Beats): void {
    const patch = source.patch ?? this.patch;
    for (const layer of patch?.layers ?? []) {
      if (!patch || !source.layerIds.has(layer.id) || !answersStrength(layer, velocity)) continue;
      const fingered = fingeredBy(source, layer, key);
      if (fingered === null) continue;
      const sink = this.treated.sinkOf(patch, layer);
      const id = ++this.voicesBegun;
      sink.press(id, fingered, velocity, layer.velocityGain[velocity], from);
      sink.release(id, until);
      this.sources.enter(source, id, sink, from, until);
    }
  }

  /** Ends what a source plays, at a beat or at once: what would begin later does not come. */
  endSource(source: NoteSource, at: Beats = NOW): void {
    this.sources.end(source, at);
  }

  /** Takes back what of a source has not begun. */
  takeBack(source: NoteSource): void {
    this.sources.takeBack(source);
  }

  /** Works out what becomes due on the show's clock within the next moments, and hands it over with its time. */
  advance(): void {
    this.heard.accompanying?.advance();
    this.treated.advance();
    this.sources.forgetEnded();
  }

  /** Whether a treatment or the lift of a layer is on, as a control has left it; null when none has touched it. */
  switchedTo(id: string): boolean | null {
    return this.switched.get(id) ?? null;
  }

  /** Switches a treatment on or off while playing, until another patch is taken. */
  switchTreatment(id: string, on: boolean): void {
    this.switched.set(id, on);
    this.takeTreatments();
    if (!on) this.treated.switchOffLeft(id);
  }

  /** The choice that a chooser has picked, as a control has left it; null when none has. */
  pickedBy(chooserId: string): number | null {
    return this.choices.get(chooserId) ?? null;
  }

  /** Picks a choice of a chooser at once, until another patch is taken; what is held finishes as it began. */
  pick(chooserId: string, choice: number): void {
    this.choices.set(chooserId, choice);
    this.putChoices();
  }

  /** Switches and choices count as the patch has them again: those of these ids, or all. */
  forgetSwitches(ids?: readonly string[]): void {
    if (ids)
      for (const id of ids) {
        this.switched.delete(id);
        this.choices.delete(id);
      }
    else {
      this.switched.clear();
      this.choices.clear();
    }
    this.putChoices();
  }

  /** Gives up what a treatment plays beyond its keys: nothing switches it any more. */
  letGoOf(treatmentId: string): void {
    this.treated.letGoIn(treatmentId);
  }

  /** Switches the lift of a layer on or off while playing, until another patch is taken. */
  switchLift(layerId: string, on: boolean): void {
    this.switched.set(layerId, on);
    for (const layer of this.patch?.layers ?? []) if (layer.id === layerId) this.putLift(layer);
  }

  /** Semitones by which a control has what a device plays heard higher or lower. */
  shiftOf(device: number): number {
    return this.shifts[device];
  }

  /** Has what a device plays from now on heard so many semitones higher or lower; held keys end as they began. */
  shiftDevice(device: number, semitones: number): void {
    if (device >= 0 && device < MOST_DEVICES) this.shifts[device] = semitones;
  }

  /** A parsed channel message from a device. Other messages are passed over, and those of a device beyond the last. */
  message(device: number, status: number, data1: number, data2: number): void {
    if (device < MOST_DEVICES) readChannelMessage(this, device, status, data1, data2);
  }

  /** A struck key; velocity 1–127. */
  noteOn(device: number, channel: number, key: number, velocity: number): void {
    const slot = keySlot(device, channel, key);
    this.voices.strikeAgain(slot);
    this.channelsDown[device * 128 + key] |= 1 << (channel - 1);
    this.velocityDown[device * 128 + key] = velocity;
    this.last.device = device;
    this.last.channel = channel;
    this.last.key = key;
    this.last.velocity = velocity;
    this.last.shift = this.shifts[device];
    this.notesPlayed++;
    if (this.heard.strike(device, key, this.patch, this.shifts[device])) return;
    const before = this.voicesBegun;
    this.strike(device, channel, key, velocity, slot);
    if (this.voicesBegun === before) this.silentNotes++;
  }

  private strike(
    device: number,
    channel: number,
    key: number,
    velocity: number,
    slot: number,
  ): void {
    const patch = this.patch;
    if (!patch) return;
    const heardKey = key + patch.rig.keyShift[device] + this.shifts[device];
    const heardVelocity = patch.rig.touch[device * 128 + velocity];
    for (let i = 0; i < patch.layers.length; i++) {
      const layer = patch.layers[i];
      if (judge(layer, device, channel, heardKey, heardVelocity) !== VERDICT.sounds) continue;
      const { onset } = this;
      onset.gain = rangeGainOf(layer, heardKey, heardVelocity);
      const chain = this.treated.chainOf(layer);
      const id = ++this.voicesBegun;
      const ringsOn = !chain && this.output.ringsOn(layer);
      this.voices.begin(
        slot,
        id,
        layer.obeysSustain,
        chain,
        this.notesPlayed,
        ringsOn,
        layer.obeysPressure,
      );
      if (chain) chain.press(id, heardKey, heardVelocity, onset.gain, NOW);
      else
        this.output.start(
          id,
          patch,
          layer,
          heardKey + layer.shift,
          layer.touch[heardVelocity],
          onset,
        );
    }
  }

  /** A released key. */
  noteOff(device: number, channel: number, key: number): void {
    const index = device * 128 + key;
    this.velocityDown[index] = 0;
    this.heard.release(index);
    const struck = this.channelsDown[index];
    if (struck === 0 || (struck & (1 << (channel - 1))) !== 0) this.release(device, channel, key);
    // A keyboard that has changed its channel meanwhile lets go on another than it struck.
    else for (let other = 1; other <= 16; other++) this.release(device, other, key);
  }

  private release(device: number, channel: number, key: number): void {
    this.channelsDown[device * 128 + key] &= ~(1 << (channel - 1));
    this.voices.release(keySlot(device, channel, key), this.pedalDown(device, channel));
  }

  /** All notes off: everything ends, now, and the outside world is told. Pedals count as up. */
  allNotesOff(): void {
    this.voices.endAll();
    this.heard.silence();
    this.sources.endAll(NOW);
    this.treated.stop();
    this.velocityDown.fill(0);
    this.channelsDown.fill(0);
    this.pedals.fill(0);
    this.output.silence();
  }

  /** Ends what a device holds: keys, pedals, wheels, and what it plays beyond its keys. */
  endDevice(device: number): void {
    for (let channel = 1; channel <= 16; channel++) {
      this.pedal(device, channel, false);
      this.endChannel(device, channel);
    }
    this.output.deviceGone(device);
  }

  /** Devices have changed places: `cameFrom` holds the place each had, −1 for a new one. To be called while nothing is held. */
  moveDevices(cameFrom: readonly number[]): void {
    const before = this.shifts.slice();
    this.shifts.fill(0);
    cameFrom.forEach((from, at) => {
      if (from >= 0 && from < MOST_DEVICES && at < MOST_DEVICES) this.shifts[at] = before[from];
    });
    this.output.moveDevices(cameFrom);
  }

  controller(device: number, channel: number, controller: number, value: number): void {
    this.output.control(device, channel, controller, value);
  }

  bend(device: number, channel: number, steps: number): void {
    this.output.bend(device, channel, steps);
  }

  pressure(device: number, channel: number, value: number): void {
    this.output.pressure(device, channel, value);
  }

  keyPressure(device: number, channel: number, key: number, value: number): void {
    this.voices.leanOn(keySlot(device, channel, key), value, this.lean);
  }

  pedal(device: number, channel: number, down: boolean): void {
    const index = device * 16 + channel - 1;
    const wasDown = this.pedals[index] === 1;
    this.pedals[index] = down ? 1 : 0;
    if (wasDown && !down) this.voices.releasePedal(index);
  }

  pedalMoved(device: number, channel: number, down: boolean): void {
    // It went down on another channel when the keyboard has changed its own meanwhile.
    if (!down && this.pedals[device * 16 + channel - 1] === 0)
      for (let other = 1; other <= 16; other++) this.pedal(device, other, false);
    this.pedal(device, channel, down);
  }

  resetControllers(device: number, channel: number): void {
    this.output.bend(device, channel, 0);
    this.output.pressure(device, channel, 0);
    this.output.control(device, channel, CC.modulation, 0);
    this.output.control(device, channel, CC.expression, 127);
  }

  /** Note-off for every key of one device and channel; the pedal still holds what it holds, a treatment does not. */
  endChannel(device: number, channel: number): void {
    for (let key = 0; key < 128; key++) {
      this.release(device, channel, key);
      if (this.channelsDown[device * 128 + key] !== 0) continue;
      this.velocityDown[device * 128 + key] = 0;
      this.heard.release(device * 128 + key);
    }
    this.treated.letGoOf(device, channel);
  }

  /** What was switched on the desk since counts for more than what a control did before. */
  private forgetEdited(before: CompiledPatch | null, after: CompiledPatch | null): void {
    for (const { id, chosen } of after?.choosers ?? [])
      if (before?.choosers.some((old) => old.id === id && old.chosen !== chosen))
        this.choices.delete(id);
    if (this.switched.size === 0) return;
    for (const layer of after?.layers ?? []) {
      const old = before?.layers.find((l) => l.id === layer.id);
      if (old && old.source.lift.on !== layer.source.lift.on) this.switched.delete(layer.id);
      for (const { id, on } of layer.treatments)
        if (old?.treatments.some((t) => t.id === id && t.on !== on)) this.switched.delete(id);
    }
  }

  private putChoices(): void {
    const { patch } = this;
    if (!patch || patch.choosers.length === 0) return;
    const chosen = (chooser: Chooser) => this.choices.get(chooser.id) ?? chooser.chosen;
    for (const layer of patch.layers) layer.isChosen = isChosen(layer.id, patch.choosers, chosen);
  }

  private putLift(layer: CompiledLayer): void {
    const on = this.switched.get(layer.id) ?? layer.source.lift.on;
    layer.touch = on ? layer.liftedTouch : layer.plainTouch;
  }

  private takeTreatments(): void {
    this.treated.take(this.patch, ({ id, on }) => this.switched.get(id) ?? on);
  }
}
