import {
  BEND_CENTRE,
  CC,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PITCH_BEND,
  channelOf,
} from '../midi/messages.js';
import { Chain } from '../treatments/chain.js';
import { ShowClock } from '../treatments/show-clock.js';
import { MOST_DEVICES, type CompiledLayer, type CompiledPatch } from './compile.js';
import { judge, rangeGainOf, VERDICT } from './judge.js';
import type { PlayedNote } from './trace.js';

/** What carries out the player's decisions: the audio engine and the outgoing ports. */
export interface PlayerOutput {
  /** Begins a voice. `gain` is the linear gain of the layer's ranges; its level and pan are the output's business. */
  start(
    voice: number,
    patch: CompiledPatch,
    layer: CompiledLayer,
    note: number,
    velocity: number,
    gain: number,
  ): void;
  /** Lets a voice go into its release. */
  end(voice: number): void;
  /** A controller (0–127) other than sustain. */
  control(device: number, channel: number, controller: number, value: number): void;
  /** Pitch bend, −1…1. */
  bend(device: number, channel: number, amount: number): void;
  /** Ends everything at once and sends CC 120, 121 and 123 on every outgoing channel. */
  silence(): void;
}

/** A layer's treatments at work. Patch and layer are replaced when the patch is edited. */
interface TreatedLayer {
  patch: CompiledPatch;
  layer: CompiledLayer;
  chain: Chain;
}

/** Voices that can be held at one time; the oldest is let go beyond that. */
const MOST_VOICES = 1024;
const NONE = -1;

/**
 * Remembers what each pressed key began, and ends exactly that.
 *
 * port bytes ─► parser ─► **player** ─► output (audio engine, outgoing ports)
 *
 * A key's voices form a linked list through fixed tables, so that playing allocates nothing. A voice whose key is up but
 * whose pedal is down stays in its list, marked as sustained. The voice of a layer with treatments is held like any other,
 * but what begins and ends with it is for the layer's chain to say.
 */
export class Player {
  private patch: CompiledPatch | null = null;
  private readonly head = new Int16Array(MOST_DEVICES * 16 * 128).fill(NONE);
  private readonly next = new Int16Array(MOST_VOICES).fill(NONE);
  private readonly keyOfVoice = new Int32Array(MOST_VOICES).fill(NONE);
  private readonly sustained = new Uint8Array(MOST_VOICES);
  private readonly obeysSustain = new Uint8Array(MOST_VOICES);
  private readonly voiceId = new Float64Array(MOST_VOICES);
  private readonly pedal = new Uint8Array(MOST_DEVICES * 16);
  private readonly velocityDown = new Uint8Array(MOST_DEVICES * 128);
  /** Voices that are free, as a stack, so that beginning one costs the same however many are held. */
  private readonly free = Int16Array.from({ length: MOST_VOICES }, (_, i) => MOST_VOICES - 1 - i);
  private freeCount = MOST_VOICES;
  /** The next voice to give way when none is free; going round, it comes by the longest held. */
  private giveWay = 0;
  private voicesBegun = 0;
  private held = 0;
  /** Chains of the patch being played, by layer. */
  private treated = new Map<string, TreatedLayer>();
  /** Chains of patches left, until the last key is let go. */
  private leaving: TreatedLayer[] = [];
  private readonly chainOfVoice: (Chain | null)[] = new Array<Chain | null>(MOST_VOICES).fill(null);
  /** Switches that a control has set since the patch was taken: treatments and lifts by id. */
  private readonly switched = new Map<string, boolean>();
  private readonly last: PlayedNote = { device: NONE, channel: 1, key: 0, velocity: 0 };
  private notesPlayed = 0;

  /** The show's clock, on which treatments run. */
  readonly clock: ShowClock;

  /** @param now the present time in seconds, for what runs on the clock */
  constructor(
    private readonly output: PlayerOutput,
    now: () => number = () => 0,
  ) {
    this.clock = new ShowClock(now);
  }

  /** Voices that are held by a key or a pedal. */
  get voicesHeld(): number {
    return this.held;
  }

  /** Rises by one with every note-on, so that views know when to look at {@link lastNote}. */
  get noteCount(): number {
    return this.notesPlayed;
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
    return this.pedal[device * 16 + channel - 1] === 1;
  }

  /**
   * Plays this patch from now on. Held notes finish in the patch they began in, or are cut.
   * Taking the same patch anew, after an edit or a cue, leaves held notes alone.
   */
  take(patch: CompiledPatch | null, heldNotes: 'finish' | 'cut' = 'finish'): void {
    const another = this.patch?.id !== patch?.id;
    if (heldNotes === 'cut' && this.patch && another) this.endAllVoices();
    if (another) this.switched.clear();
    else this.forgetEdited(this.patch, patch);
    this.patch = patch;
    for (const layer of patch?.layers ?? []) this.putLift(layer);
    this.takeChains(patch);
  }

  /** True while something waits for the clock, so that {@link advance} has to be called every few milliseconds. */
  get needsClock(): boolean {
    return this.clock.isRunning;
  }

  /** Does what has become due on the show's clock. */
  advance(): void {
    for (const { chain } of this.treated.values()) chain.advance();
    for (let i = this.leaving.length - 1; i >= 0; i--) {
      this.leaving[i].chain.advance();
      if (this.leaving[i].chain.idle) this.leaving.splice(i, 1);
    }
  }

  /** Whether a treatment or the lift of a layer is on, as a control has left it; null when none has touched it. */
  switchedTo(id: string): boolean | null {
    return this.switched.get(id) ?? null;
  }

  /** Switches a treatment on or off while playing, until another patch is taken. */
  switchTreatment(id: string, on: boolean): void {
    this.switched.set(id, on);
    this.takeChains(this.patch);
  }

  /** Switches the lift of a layer on or off while playing, until another patch is taken. */
  switchLift(layerId: string, on: boolean): void {
    this.switched.set(layerId, on);
    for (const layer of this.patch?.layers ?? []) if (layer.id === layerId) this.putLift(layer);
  }

  /** A parsed channel message from a device. Other messages are passed over. */
  message(device: number, status: number, data1: number, data2: number): void {
    if (status >= 0xf0 || status < 0x80) return;
    const channel = channelOf(status);
    switch (status & 0xf0) {
      case NOTE_ON:
        if (data2 === 0) this.noteOff(device, channel, data1);
        else this.noteOn(device, channel, data1, data2);
        break;
      case NOTE_OFF:
        this.noteOff(device, channel, data1);
        break;
      case CONTROL_CHANGE:
        this.control(device, channel, data1, data2);
        break;
      case PITCH_BEND:
        this.output.bend(
          device,
          channel,
          Math.max(-1, (data1 + data2 * 128 - BEND_CENTRE) / (BEND_CENTRE - 1)),
        );
        break;
    }
  }

  /** A struck key; velocity 1–127. */
  noteOn(device: number, channel: number, key: number, velocity: number): void {
    const slot = keySlot(device, channel, key);
    // Struck again before its release, or while the pedal still holds it: one string, one voice.
    this.endKey(slot);
    this.velocityDown[device * 128 + key] = velocity;
    this.last.device = device;
    this.last.channel = channel;
    this.last.key = key;
    this.last.velocity = velocity;
    this.notesPlayed++;
    const patch = this.patch;
    if (!patch) return;
    const heardKey = key + patch.rig.keyShift[device];
    const heardVelocity = patch.rig.touch[device * 128 + velocity];
    for (let i = 0; i < patch.layers.length; i++) {
      const layer = patch.layers[i];
      if (judge(layer, device, channel, heardKey, heardVelocity) !== VERDICT.sounds) continue;
      const gain = rangeGainOf(layer, heardKey, heardVelocity);
      const chain = layer.treatments.length > 0 ? this.treated.get(layer.id)?.chain : undefined;
      const id = this.begin(slot, layer, chain ?? null);
      if (chain) chain.press(id, heardKey, heardVelocity, gain);
      else
        this.output.start(
          id,
          patch,
          layer,
          heardKey + layer.shift,
          layer.touch[heardVelocity],
          gain,
        );
    }
  }

  /** A released key. */
  noteOff(device: number, channel: number, key: number): void {
    this.velocityDown[device * 128 + key] = 0;
    const slot = keySlot(device, channel, key);
    const pedalDown = this.pedal[device * 16 + channel - 1] === 1;
    let voice = this.head[slot];
    let keep = NONE;
    this.head[slot] = NONE;
    while (voice !== NONE) {
      const following = this.next[voice];
      if (pedalDown && this.obeysSustain[voice] === 1) {
        this.sustained[voice] = 1;
        this.next[voice] = keep;
        keep = voice;
      } else {
        this.finish(voice);
      }
      voice = following;
    }
    this.head[slot] = keep;
  }

  /** All notes off: everything ends, now, and the outside world is told. Pedals count as up. */
  allNotesOff(): void {
    this.endAllVoices();
    for (const { chain } of this.treated.values()) chain.stop();
    for (const { chain } of this.leaving) chain.stop();
    this.leaving.length = 0;
    this.velocityDown.fill(0);
    this.pedal.fill(0);
    this.output.silence();
  }

  private control(device: number, channel: number, controller: number, value: number): void {
    switch (controller) {
      case CC.sustain:
        this.setPedal(device, channel, value >= 64);
        break;
      case CC.allSoundOff:
        this.setPedal(device, channel, false);
        this.endChannel(device, channel);
        break;
      case CC.resetAllControllers:
        this.setPedal(device, channel, false);
        this.output.bend(device, channel, 0);
        this.output.control(device, channel, CC.modulation, 0);
        this.output.control(device, channel, CC.expression, 127);
        break;
      case CC.allNotesOff:
        this.endChannel(device, channel);
        break;
      default:
        this.output.control(device, channel, controller, value);
    }
  }

  private setPedal(device: number, channel: number, down: boolean): void {
    const index = device * 16 + channel - 1;
    const wasDown = this.pedal[index] === 1;
    this.pedal[index] = down ? 1 : 0;
    if (down || !wasDown) return;
    for (let voice = 0; voice < MOST_VOICES; voice++) {
      const slot = this.keyOfVoice[voice];
      if (slot === NONE || this.sustained[voice] === 0 || slot >> 7 !== index) continue;
      this.unlink(voice, slot);
      this.finish(voice);
    }
  }

  /** Note-off for every key of one device and channel; the pedal still holds what it holds. */
  private endChannel(device: number, channel: number): void {
    for (let key = 0; key < 128; key++) this.noteOff(device, channel, key);
  }

  private endAllVoices(): void {
    for (let voice = 0; voice < MOST_VOICES; voice++) {
      const slot = this.keyOfVoice[voice];
      if (slot === NONE) continue;
      this.head[slot] = NONE;
      this.finish(voice);
    }
  }

  private endKey(slot: number): void {
    let voice = this.head[slot];
    this.head[slot] = NONE;
    while (voice !== NONE) {
      const following = this.next[voice];
      this.finish(voice);
      voice = following;
    }
  }

  private begin(slot: number, layer: CompiledLayer, chain: Chain | null): number {
    if (this.freeCount === 0) {
      const longest = this.giveWay;
      this.giveWay = (longest + 1) % MOST_VOICES;
      this.unlink(longest, this.keyOfVoice[longest]);
      this.finish(longest);
    }
    const voice = this.free[--this.freeCount];
    this.keyOfVoice[voice] = slot;
    this.sustained[voice] = 0;
    this.obeysSustain[voice] = layer.obeysSustain ? 1 : 0;
    this.voiceId[voice] = ++this.voicesBegun;
    this.chainOfVoice[voice] = chain;
    this.next[voice] = this.head[slot];
    this.head[slot] = voice;
    this.held++;
    return this.voicesBegun;
  }

  /** Ends a voice that is in no list any more. */
  private finish(voice: number): void {
    this.keyOfVoice[voice] = NONE;
    this.next[voice] = NONE;
    this.free[this.freeCount++] = voice;
    this.held--;
    const chain = this.chainOfVoice[voice];
    if (!chain) {
      this.output.end(this.voiceId[voice]);
      return;
    }
    this.chainOfVoice[voice] = null;
    chain.release(this.voiceId[voice]);
  }

  /** What was switched on the desk since counts for more than what a control did before. */
  private forgetEdited(before: CompiledPatch | null, after: CompiledPatch | null): void {
    if (this.switched.size === 0) return;
    for (const layer of after?.layers ?? []) {
      const old = before?.layers.find((l) => l.id === layer.id);
      if (old && old.source.lift.on !== layer.source.lift.on) this.switched.delete(layer.id);
      for (const { id, on } of layer.treatments)
        if (old?.treatments.some((t) => t.id === id && t.on !== on)) this.switched.delete(id);
    }
  }

  private putLift(layer: CompiledLayer): void {
    const on = this.switched.get(layer.id) ?? layer.source.lift.on;
    layer.touch = on ? layer.liftedTouch : layer.plainTouch;
  }

  /** Chains for the layers of a patch: those that fit go on, the others are left to what they still hold. */
  private takeChains(patch: CompiledPatch | null): void {
    const before = this.treated;
    this.treated = new Map();
    for (const layer of patch?.layers ?? []) {
      if (!patch || layer.treatments.length === 0) continue;
      const treatments = layer.treatments.map((treatment) => ({
        ...treatment,
        on: this.switched.get(treatment.id) ?? treatment.on,
      }));
      const known = before.get(layer.id);
      if (known?.patch.id === patch.id && known.chain.fits(treatments)) {
        known.patch = patch;
        known.layer = layer;
        known.chain.set(treatments);
        this.treated.set(layer.id, known);
        before.delete(layer.id);
      } else this.treated.set(layer.id, this.treat(patch, layer, treatments));
    }
    for (const left of before.values()) {
      left.chain.letGo();
      if (!left.chain.idle) this.leaving.push(left);
    }
  }

  private treat(
    patch: CompiledPatch,
    layer: CompiledLayer,
    treatments: CompiledLayer['treatments'],
  ): TreatedLayer {
    const treated: TreatedLayer = {
      patch,
      layer,
      chain: new Chain(
        treatments,
        {
          press: (id, key, velocity, gain) => {
            const note = key + treated.layer.shift;
            const touched = treated.layer.touch[velocity];
            if (note >= 0 && note <= 127 && touched > 0)
              this.output.start(id, treated.patch, treated.layer, note, touched, gain);
          },
          release: (id) => this.output.end(id),
        },
        {
          clock: this.clock,
          newId: () => ++this.voicesBegun,
          scale: () => treated.patch.scale,
        },
      ),
    };
    return treated;
  }

  private unlink(voice: number, slot: number): void {
    let at = this.head[slot];
    if (at === voice) {
      this.head[slot] = this.next[voice];
      return;
    }
    while (at !== NONE) {
      if (this.next[at] === voice) {
        this.next[at] = this.next[voice];
        return;
      }
      at = this.next[at];
    }
  }
}

function keySlot(device: number, channel: number, key: number): number {
  return (device * 16 + channel - 1) * 128 + key;
}
