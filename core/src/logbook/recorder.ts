import { ACTIVE_SENSING, NOTE_ON } from '../midi/messages.js';
import { asTold, type Id } from '../model/index.js';
import { MOST_DEVICES, type Device } from '../model/rig/rig.js';
import type { Night } from '../model/show/night.js';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '../model/show/song.js';
import {
  LONGEST_MESSAGE_TAKEN,
  LONGEST_TAKE,
  MOST_LAYERS_TAKEN,
  MOST_LONG_MESSAGES,
  MOST_NIGHTS_TAKEN,
  MOST_SENDERS,
  MOST_STEPS_TAKEN,
  MOST_TEMPOS_TAKEN,
  type Sender,
  type Take,
} from '../model/show/take.js';
import type { LivePath } from '../playing/live-path.js';
import type { NoteTap } from '../playing/notes/note-tap.js';
import type { Played } from '../playing/show/played.js';
import type { CompiledLayer } from '../routing/compile.js';
import type { Seconds } from '../units/times.js';
import { KIND, LEVEL_FLOOR, MOST_RECORDS, NO_END, Roll, VOICES_ROUND } from './roll.js';

/** What is known of a take before anything is played. */
export interface AboutTake {
  id: Id;
  name: string;
  where: Take['where'];
  /** Milliseconds of the day's clock (Unix time). */
  began: number;
  showId: Id | null;
  show: string;
}

/** dB and pan by which a layer has to be moved before it is written down. */
const HEARD_DB = 0.05;
const HEARD_PAN = 0.005;
/** Share by which a tempo has to differ, as long as bars are counted on: a clock that is followed trembles by less. */
const HEARD_TEMPO = 0.0025;

/** A take of which nothing is written yet. */
export function newTake(about: AboutTake): Take {
  return {
    ...about,
    name: asTold(about.name),
    show: asTold(about.show),
    ...{ seconds: 0, keys: 0, cues: 0, lost: 0 },
    ...{
      stretches: [],
      songs: [],
      senders: [],
      layers: [],
      steps: [],
      tempos: [],
      nights: [],
      long: [],
    },
  };
}

/**
 * Writes down what is played: every message as it came in, every note as it sounded, and where the show was.
 *
 *     host ──────► messages ─┐
 *     stage ─────► notes ────┼─► roll ─► taken away a few times a second
 *     runner, clock ─► heading
 *
 * On the live path nothing is allocated but where the show goes to another place.
 */
export class TakeRecorder {
  private readonly roll = new Roll();
  private take: Take | null = null;
  /** The player's time at which the take began, seconds. */
  private origin: Seconds = 0;
  private written = 0;
  private lostBefore = 0;
  private keys = 0;
  private readonly ends: (() => void)[] = [];
  /** By the place of a device in the rig: its place among those who sent. */
  private readonly byDevice = new Uint16Array(MOST_DEVICES);
  private byPort = new Map<string, number>();
  private devices: readonly Device[] | null = null;
  /** By layer as compiled: its place among those that sounded. */
  private byLayer = new WeakMap<CompiledLayer, number>();
  private present: readonly CompiledLayer[] = [];
  /** The patch that they are of. */
  private presentId: string | null = null;
  /** As they were written last, by place among those that sounded. */
  private levels: number[] = [];
  private pans: number[] = [];
  private night: Night | null = null;

  constructor(
    private readonly path: LivePath,
    private readonly now: () => Seconds,
  ) {}

  /** Whether it writes. */
  get isOn(): boolean {
    return this.take !== null;
  }

  /** Begins to write, or goes on with a take that was interrupted so many seconds after it began. */
  begin(take: Take, elapsed: Seconds = 0): void {
    this.end();
    // Lists of its own: what was handed out is not written on.
    this.take = { ...take, senders: [...take.senders], layers: [...take.layers] };
    this.lostBefore = take.lost;
    this.keys = take.keys;
    this.roll.take();
    this.roll.lost = 0;
    this.written = 0;
    this.origin = this.now() - elapsed;
    this.devices = null;
    this.byPort = new Map();
    this.byLayer = new WeakMap();
    this.levels = [];
    this.pans = [];
    this.presentId = null;
    this.night = null;
    const { host, stage, runner, player } = this.path;
    this.ends.push(
      host.tap((time, port, device, status, data1, data2) =>
        this.message(time, port, device, status, data1, data2),
      ),
      host.tapLong((time, port, _status, bytes) => this.longMessage(time, port, bytes)),
      player.clock.onTempo(() => this.tempo(false)),
      player.clock.onBars(() => this.tempo(true)),
    );
    const { tap } = stage;
    const { onPlay } = runner;
    stage.tap = this.notes;
    runner.onPlay = (played) => this.played(played);
    this.ends.push(() => {
      stage.tap = tap;
      runner.onPlay = onPlay;
    });
    this.tempo(true);
    runner.tellPlay();
    this.look(this.take);
  }

  /** Ends the take. What is still on the roll is to be taken away before. */
  end(): void {
    for (const end of this.ends.splice(0)) end();
    this.take = null;
  }

  /** Takes away what was written since it was asked last, with the heading as it stands; null while nothing is written. */
  takeAway(): { take: Take; roll: Uint8Array<ArrayBuffer> } | null {
    const { take } = this;
    if (!take) return null;
    this.look(take);
    const roll = this.roll.take();
    take.lost = this.lostBefore + this.roll.lost;
    take.keys = this.keys;
    take.seconds = this.elapsed(0);
    const { senders, layers } = take;
    return { take: { ...take, senders: [...senders], layers: [...layers] }, roll };
  }

  /** Seconds of the take at a time of the player; 0 is now. */
  private elapsed(time: Seconds): Seconds {
    return inTake((time === 0 ? this.now() : time) - this.origin);
  }

  /** The moment of what is written next; 0 is now. */
  private setMoment(time: Seconds): void {
    if (time === 0) this.setNow();
    else this.roll.moment[0] = inTake(time - this.origin);
  }

  private setNow(): void {
    this.roll.moment[0] = inTake(this.now() - this.origin);
  }

  private write(kind: number, a: number, b: number, c: number, who: number, more: number): void {
    if (this.written >= MOST_RECORDS) {
      this.roll.lost++;
      return;
    }
    this.written++;
    this.roll.addNow(kind, a, b, c, who, more);
  }

  private message(
    time: Seconds,
    port: string,
    device: number,
    status: number,
    data1: number,
    data2: number,
  ): void {
    const { take } = this;
    // That a cable is there still is nothing that was played.
    if (!take || status === ACTIVE_SENSING) return;
    if ((status & 0xf0) === NOTE_ON && data2 > 0) this.keys++;
    const sender = device < 0 ? this.senderOfPort(port) : this.byDevice[device];
    this.setMoment(time);
    this.write(KIND.message, status, data1, data2, sender, 0);
  }

  private longMessage(time: Seconds, port: string, bytes: Uint8Array): void {
    const { take } = this;
    if (!take || bytes.length === 0) return;
    if (take.long.length >= MOST_LONG_MESSAGES || bytes.length > LONGEST_MESSAGE_TAKEN) {
      this.roll.lost++;
      return;
    }
    const sender = this.senderOfPort(port);
    const one = { seconds: this.elapsed(time), sender, bytes: [...bytes] };
    take.long = [...take.long, one];
  }

  private readonly notes: NoteTap = {
    began: (voice, layer, key, velocity, onset) => {
      const who = this.byLayer.get(layer);
      if (who === undefined) return;
      // Read only where it is wanted: a fraction that is handed on is an object.
      if (onset.at === 0) this.setNow();
      else this.setMoment(onset.at);
      this.write(KIND.began, key, velocity, 0, who, voice % VOICES_ROUND);
    },
    ended: (voice, at) => {
      this.setMoment(at);
      this.write(KIND.ended, 0, 0, 0, 0, voice % VOICES_ROUND);
    },
    moved: (voice, from, until) => {
      const round = voice % VOICES_ROUND;
      this.setMoment(from);
      // What has begun is not begun again.
      if (from > this.now()) this.write(KIND.beginsThen, 0, 0, 0, 0, round);
      if (until < Infinity) this.setMoment(until);
      else this.roll.moment[0] = NO_END;
      this.write(KIND.endsThen, 0, 0, 0, 0, round);
    },
    silenced: () => {
      this.setNow();
      this.write(KIND.silence, 0, 0, 0, 0, 0);
    },
  };

  private played({ plan, place, patch, fadeSeconds }: Played): void {
    const { take } = this;
    if (!take) return;
    if (plan.devices !== this.devices) this.meet(plan.devices);
    const song = place.songId ? plan.songs.get(place.songId) : undefined;
    this.present = patch?.layers ?? [];
    for (const layer of this.present) {
      const origin = plan.sounds.get(layer.librarySoundId)?.origin;
      const of = patch ? plan.patches[patch.id] : undefined;
      this.byLayer.set(
        layer,
        this.layerAt({
          ...{ layerId: layer.id, patchId: patch?.id ?? '', index: layer.index },
          ...{ name: asTold(layer.name), patch: asTold(of?.name ?? '') },
          song: asTold((of && plan.songs.get(of.songId)?.name) ?? ''),
          program: origin?.kind === 'outside' ? origin.program : null,
          drums: layer.kit !== null,
        }),
      );
    }
    // A patch that was not playing is there at once.
    this.writeLevels(patch?.id === this.presentId ? (fadeSeconds ?? 0) : 0);
    this.presentId = patch?.id ?? null;
    const cue = place.asCue && place.cueId ? plan.cues[place.cueId] : undefined;
    const { entryId, songId } = place;
    const last = take.steps.at(-1);
    const cueId = cue?.id ?? null;
    const patchId = patch?.id ?? null;
    const isSame =
      last?.entryId === entryId &&
      last.songId === songId &&
      last.cueId === cueId &&
      last.patchId === patchId;
    if ((isSame && fadeSeconds === null) || take.steps.length >= MOST_STEPS_TAKEN) return;
    if (cue && (fadeSeconds !== null || last?.cueId !== cueId)) take.cues++;
    const name = asTold(song?.name ?? '');
    if (name && !take.songs.includes(name) && take.songs.length < 500)
      take.songs = [...take.songs, name];
    const since = this.path.host.receivingSince;
    // Where it began is where it was from the beginning.
    const seconds = take.steps.length === 0 ? 0 : this.elapsed(since ?? 0);
    this.roll.moment[0] = seconds;
    this.write(KIND.step, 0, 0, 0, take.steps.length, 0);
    take.steps = [
      ...take.steps,
      {
        ...{ seconds, byHand: since === null },
        ...{ entryId, songId, cueId, patchId, song: name },
        cue: asTold(cue?.name ?? ''),
        patch: asTold((patchId && plan.patches[patchId]?.name) ?? ''),
      },
    ];
  }

  /** Looks at what moves without being told of: levels, pans, what holds for the night. */
  private look(take: Take): void {
    this.writeLevels(0);
    const { night } = this.path.runner;
    if (night === this.night) return;
    this.night = night;
    if (take.nights.length < MOST_NIGHTS_TAKEN)
      take.nights = [...take.nights, { seconds: this.elapsed(0), night }];
  }

  private writeLevels(within: Seconds): void {
    const hundredths = Math.min(65_535, Math.round(within * 100));
    const { stage } = this.path;
    this.setNow();
    for (const layer of this.present) {
      const who = this.byLayer.get(layer);
      if (who === undefined) continue;
      const level = stage.heardLevelOf(layer);
      if (!(Math.abs(level - this.levels[who]) < HEARD_DB)) {
        this.levels[who] = level;
        const more = Math.round((level - LEVEL_FLOOR) * 100);
        const [a, b] = [hundredths & 255, hundredths >> 8];
        this.write(KIND.level, a, b, 0, who, more);
      }
      const pan = stage.panOf(layer);
      if (Math.abs(pan - this.pans[who]) < HEARD_PAN) continue;
      this.pans[who] = pan;
      this.write(KIND.pan, 0, 0, 0, who, Math.round((pan + 1) * 1000));
    }
  }

  private tempo(isAnew: boolean): void {
    const { take } = this;
    if (!take) return;
    const { tempo: now, metre, beatsInBars: beat } = this.path.player.clock;
    // A clock that is followed may go faster or slower than any song.
    const tempo = Math.max(SLOWEST_TEMPO, Math.min(FASTEST_TEMPO, now));
    const last = take.tempos.at(-1);
    if (!isAnew && last && Math.abs(last.tempo - tempo) < HEARD_TEMPO * tempo) return;
    const one = { seconds: this.elapsed(0), tempo, metre, beat };
    const others = last?.seconds === one.seconds ? take.tempos.slice(0, -1) : take.tempos;
    if (others.length < MOST_TEMPOS_TAKEN) take.tempos = [...others, one];
  }

  private meet(devices: readonly Device[]): void {
    this.devices = devices;
    devices.slice(0, MOST_DEVICES).forEach(({ port, place, name }, i) => {
      this.byDevice[i] = this.senderAt({ port, place, name: asTold(name) });
    });
  }

  private senderOfPort(port: string): number {
    const known = this.byPort.get(port);
    if (known !== undefined) return known;
    const made = this.senderAt({ port: port.slice(0, 200), place: null, name: asTold(port) });
    this.byPort.set(port, made);
    return made;
  }

  private senderAt(sender: Sender): number {
    const list = this.take?.senders ?? [];
    const at = list.findIndex(({ port, place }) => port === sender.port && place === sender.place);
    if (at >= 0) return at;
    if (list.length >= MOST_SENDERS) return 0;
    return list.push(sender) - 1;
  }

  private layerAt(layer: Take['layers'][number]): number {
    const list = this.take?.layers ?? [];
    const { layerId, patchId } = layer;
    const at = list.findIndex((one) => one.layerId === layerId && one.patchId === patchId);
    if (at >= 0) return at;
    if (list.length >= MOST_LAYERS_TAKEN) return 0;
    return list.push(layer) - 1;
  }
}

/** Seconds held to what a take can last. */
function inTake(since: Seconds): Seconds {
  return since < 0 ? 0 : since > LONGEST_TAKE ? LONGEST_TAKE : since;
}
