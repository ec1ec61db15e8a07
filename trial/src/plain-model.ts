import type { Device, Keyboard, Layer, Patch, Sound } from '@pentachord/core/model';
import type { ShowPlan } from '@pentachord/core/playing';
import type { Range } from '@pentachord/core/range';
import type { Touch } from '@pentachord/core/touch';

/** A voice as it should sound: inside by its layer, outside by its channel. */
export interface PlainVoice {
  layer: string;
  note: number;
  velocity: number;
  /** Linear gain of ranges and treatments. */
  gain: number;
  outside: boolean;
}

interface Held extends PlainVoice {
  /** What began it: device, channel and key, and the how-many-th strike of all it was. */
  key: string;
  strike: number;
  sustained: boolean;
  obeysSustain: boolean;
  ringsOn: boolean;
}

/** The ties that the trial makes: a controller of the upper keys on a setting of a layer. */
export interface PlainTie {
  controller: number;
  layerId: string;
  parameter: 'level' | 'reverb' | 'mute';
  from: number;
  to: number;
}

const SILENT = -60;
const LOUDEST = 12;

/**
 * Who sounds, at which note, strength and gain, and where every level and send stands, worked out anew from what the words of the
 * model say, with lists and searches and nothing of the core's own code: the core is held beside it.
 */
export class PlainModel {
  private held: Held[] = [];
  private readonly pedals = new Set<string>();
  private strikes = 0;
  private cueId = '';
  private patchId = '';
  private transposed = 0;
  private readonly trims = new Map<string, number>();
  /** Where the tied controllers stand. */
  private readonly stands = new Map<number, number>();
  private moved = new Map<string, number>();
  private muted = new Map<string, { on: boolean; meant: boolean }>();

  constructor(
    private readonly plan: ShowPlan,
    private readonly ties: readonly PlainTie[],
    private readonly ringsOn: (soundId: string) => boolean,
  ) {}

  /** A cue is recalled. */
  goTo(cueId: string): void {
    const { patchId } = this.plan.cues[cueId];
    const isOther = patchId !== this.patchId;
    this.cueId = cueId;
    this.patchId = patchId;
    this.moved.clear();
    if (isOther) {
      this.muted.clear();
      // In another patch everything goes where the hands are.
      for (const tie of this.ownTies()) {
        const at = this.stands.get(tie.controller);
        if (at !== undefined) this.follow(tie, at);
      }
    } else
      for (const [layerId, { meant }] of this.muted)
        if (this.meantMuted(layerId) !== meant) this.muted.delete(layerId);
  }

  transpose(by: number): void {
    this.transposed = Math.max(-11, Math.min(11, this.transposed + by));
  }

  trim(layerId: string, by: number): void {
    this.trims.set(`${this.patchId} ${layerId}`, by);
  }

  noteOn(device: number, channel: number, key: number, velocity: number): void {
    const own = `${device} ${channel} ${key}`;
    // Struck again it ends what it began; of a string that the pedal lets ring the last strike rings on.
    const before = this.held.filter((voice) => voice.key === own);
    const last = Math.max(...before.filter((v) => v.sustained).map(({ strike }) => strike));
    const ends = (voice: Held) => voice.key === own && !(voice.ringsOn && voice.strike === last);
    this.held = this.held.filter((voice) => !ends(voice));
    const strike = ++this.strikes;
    const keyboard = this.plan.devices[device] as Keyboard;
    const heardKey = key + 12 * keyboard.octaveShift;
    const heard = touched(keyboard.touch, velocity);
    for (const layer of this.patch.layers) {
      if (!this.answers(layer, keyboard, channel, heardKey, heard)) continue;
      const out = touched(layer.touch, heard ?? 0);
      if (out === null) continue;
      const gain = rangeGain(layer.keys, heardKey) * rangeGain(layer.velocities, heard ?? 0);
      for (const sounding of this.treated(layer, heardKey, heard ?? 0, gain)) {
        const note = sounding.key + layer.transpose + (layer.followsSong ? this.songShift : 0);
        // The note itself lies within MIDI, or the layer would not have answered; one that was added need not.
        if (note < 0 || note > 127) continue;
        const sound = this.soundOf(layer);
        this.held.push({
          ...{ key: own, strike, layer: layer.id, note, velocity: out, gain: sounding.gain },
          outside: sound.origin.kind === 'outside',
          sustained: false,
          obeysSustain: layer.obeys.includes('sustain'),
          ringsOn: this.treatmentsOf(layer).length === 0 && this.ringsOn(sound.id),
        });
      }
    }
  }

  noteOff(device: number, channel: number, key: number): void {
    const own = `${device} ${channel} ${key}`;
    const isDown = this.pedals.has(`${device} ${channel}`);
    this.held = this.held.filter((voice) => {
      if (voice.key !== own) return true;
      if (!isDown || !voice.obeysSustain) return false;
      voice.sustained = true;
      return true;
    });
  }

  sustain(device: number, channel: number, value: number): void {
    const pedal = `${device} ${channel}`;
    if (value >= 64) this.pedals.add(pedal);
    else if (this.pedals.delete(pedal))
      this.held = this.held.filter((v) => !(v.sustained && v.key.startsWith(`${pedal} `)));
  }

  control(controller: number, value: number): void {
    this.stands.set(controller, value);
    for (const tie of this.ownTies()) if (tie.controller === controller) this.follow(tie, value);
  }

  allNotesOff(): void {
    this.held = [];
    this.pedals.clear();
  }

  /** What sounds, one line a voice, in a fixed order. Outside a note sounds once, however many hold it. */
  get sounding(): string[] {
    const inside = this.held.filter(({ outside }) => !outside).map(lineOf);
    const outside = new Set(
      this.held.filter((v) => v.outside).map(({ note }) => `outside ${note}`),
    );
    return [...inside, ...outside].sort();
  }

  /** Where levels (as they sound), sends to the reverb and mutes of the present layers stand, by layer. */
  get standing(): Record<string, { level: number; reverb: number }> {
    return Object.fromEntries(
      this.patch.layers
        .filter((layer) => this.soundOf(layer).origin.kind !== 'outside')
        .map((layer) => {
          const { id } = layer;
          const meant = this.plan.cues[this.cueId].balance[id]?.level ?? layer.level;
          const put = this.moved.get(`${id} level`) ?? meant;
          const level = put + (this.trims.get(`${this.patchId} ${id}`) ?? 0);
          const isMuted = this.muted.get(id)?.on ?? this.meantMuted(id);
          const bounded = Math.max(SILENT, Math.min(LOUDEST, level));
          const reverb = this.moved.get(`${id} reverb`) ?? layer.sends.reverb;
          return [id, { level: round(isMuted ? SILENT : bounded), reverb: round(reverb) }];
        }),
    );
  }

  private get patch(): Patch {
    return this.plan.patches[this.patchId];
  }

  private soundOf({ soundId }: Layer): Sound {
    const own = this.patch.sounds.find(({ id }) => id === soundId);
    const sound = this.plan.sounds.get(own?.librarySoundId ?? '');
    if (!sound) throw new Error('a layer without a sound');
    return sound;
  }

  private ownTies(): PlainTie[] {
    const ids = new Set(this.patch.controls.map(({ id }) => id));
    return this.ties.filter((tie) => ids.has(idOf(tie)));
  }

  private follow(tie: PlainTie, position: number): void {
    const { layerId, parameter, from, to } = tie;
    if (parameter !== 'mute') {
      this.moved.set(`${layerId} ${parameter}`, from + ((to - from) * position) / 127);
      return;
    }
    const on = position >= 64;
    const before = this.muted.get(layerId);
    if ((before?.on ?? this.meantMuted(layerId)) === on) return;
    this.muted.set(layerId, { on, meant: before?.meant ?? this.meantMuted(layerId) });
  }

  private meantMuted(layerId: string): boolean {
    const layer = this.patch.layers.find(({ id }) => id === layerId);
    return this.plan.cues[this.cueId].balance[layerId]?.muted ?? layer?.muted ?? false;
  }

  /** From the fingered to the sounding key by the nearer way, −5…+6, and what was transposed since. */
  private get songShift(): number {
    const song = this.plan.songs.get(this.patch.songId);
    if (!song) return 0;
    const up = (((song.sounding.tonic - song.fingered.tonic) % 12) + 12) % 12;
    return (up > 6 ? up - 12 : up) + this.transposed;
  }

  /** The verdict, in the order in which the model names its reasons. */
  private answers(
    layer: Layer,
    keyboard: Device,
    channel: number,
    key: number,
    velocity: number | null,
  ): boolean {
    if (layer.keyboards !== 'any' && !layer.keyboards.includes(keyboard.place)) return false;
    if (layer.channel !== 'any' && layer.channel !== channel) return false;
    if (key < layer.keys.low || key > layer.keys.high) return false;
    if (velocity === null) return false;
    if (velocity < layer.velocities.low || velocity > layer.velocities.high) return false;
    if (this.muted.get(layer.id)?.on ?? this.meantMuted(layer.id)) return false;
    if (touched(layer.touch, velocity) === null) return false;
    const note = key + layer.transpose + (layer.followsSong ? this.songShift : 0);
    return note >= 0 && note <= 127;
  }

  private treatmentsOf({ id }: Layer) {
    return this.patch.treatments.filter(({ layerIds }) => layerIds.includes(id));
  }

  private treated(layer: Layer, key: number, velocity: number, gain: number) {
    let notes = [{ key, gain }];
    for (const treatment of this.treatmentsOf(layer)) {
      if (!treatment.on) continue;
      if (treatment.kind === 'doubling')
        notes = notes.flatMap((note) => [
          note,
          {
            key: note.key + 12 * treatment.octaves,
            gain: note.gain * (treatment.level <= SILENT ? 0 : 10 ** (treatment.level / 20)),
          },
        ]);
      else if (treatment.kind === 'sieve')
        notes = notes.filter(
          (note) =>
            note.key >= treatment.keys.low &&
            note.key <= treatment.keys.high &&
            velocity >= treatment.velocities.low &&
            velocity <= treatment.velocities.high,
        );
    }
    return notes.filter((note) => note.key >= 0 && note.key <= 127);
  }
}

export function idOf({ controller, layerId, parameter }: PlainTie): string {
  return `${controller} ${layerId} ${parameter}`;
}

export function lineOf({ layer, note, velocity, gain }: Omit<PlainVoice, 'outside'>): string {
  return `${layer} ${note} v${velocity} ×${gain.toFixed(3)}`;
}

export function round(decibels: number): number {
  return Math.round(decibels * 100) / 100;
}

/** The velocity that goes out for one that comes in; null for none. */
function touched(touch: Touch, v: number): number | null {
  const { inLow, inHigh, outLow, outHigh, bend, below } = touch;
  if (v < inLow) return below === 'silent' ? null : outLow;
  if (v >= inHigh) return outHigh;
  const t = (v - inLow) / (inHigh - inLow);
  return Math.max(1, Math.round(outLow + (outHigh - outLow) * t ** (4 ** -bend)));
}

/** Gain of a key or velocity within a range, with its fades. */
function rangeGain({ low, high, fadeIn, fadeOut, law }: Range, x: number): number {
  const by = (t: number) => (law === 'linear' ? t : Math.sin((Math.PI * t) / 2));
  const fromLow = x - low < fadeIn ? by((x - low + 1) / (fadeIn + 1)) : 1;
  const fromHigh = high - x < fadeOut ? by((high - x + 1) / (fadeOut + 1)) : 1;
  return fromLow * fromHigh;
}
