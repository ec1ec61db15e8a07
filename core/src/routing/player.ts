import {
  BEND_CENTRE,
  CC,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PITCH_BEND,
  channelOf,
} from '../midi/messages.js';
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

/** Voices that can be held at one time; the oldest is let go beyond that. */
const MOST_VOICES = 1024;
const NONE = -1;

/**
 * Remembers what each pressed key began, and ends exactly that.
 *
 * port bytes ─► parser ─► **player** ─► output (audio engine, outgoing ports)
 *
 * A key's voices form a linked list through fixed tables, so that playing allocates nothing. A voice whose key is up but
 * whose pedal is down stays in its list, marked as sustained.
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
  private readonly last: PlayedNote = { device: NONE, channel: 1, key: 0, velocity: 0 };
  private notesPlayed = 0;

  constructor(private readonly output: PlayerOutput) {}

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
    if (heldNotes === 'cut' && this.patch && this.patch.id !== patch?.id) this.endAllVoices();
    this.patch = patch;
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
      const id = this.begin(slot, layer);
      this.output.start(
        id,
        patch,
        layer,
        heardKey + layer.shift,
        layer.touch[heardVelocity],
        rangeGainOf(layer, heardKey, heardVelocity),
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

  private begin(slot: number, layer: CompiledLayer): number {
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
    this.output.end(this.voiceId[voice]);
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
