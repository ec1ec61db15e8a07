import type { CoreShare } from '@pentachord/core/cost';
import type { Response } from '@pentachord/core/loudness';
import { ringsOn, samplingVoicing, type PlayableAudio } from '@pentachord/core/mapping';
import {
  recordingsOfSound,
  sourceIdOf,
  type Colour,
  type SampledSound,
} from '@pentachord/core/model';
import type { LoadedSound } from '@pentachord/core/sampler';
import { RecordingWorkers, URGENCY } from './recording-workers';

/** What is told of sounds that are played from recordings. */
export interface RecordedTold {
  /** One can be played, as it is now. */
  loaded(sourceId: string, sound: LoadedSound): void;
  /** One cannot be made. */
  failed(sourceId: string, problem: string): void;
  /** How loud one is, and what one voice of it costs, now that it stands still. */
  known(sourceId: string, response: Response, voiceCost: CoreShare): void;
  /** Whether it is one of those that are played now. */
  isPreferred(sourceId: string): boolean;
}

const MIDDLE_C = 60;

/** What is known of a recording in this page. */
type State = { audio: PlayableAudio; isKept: boolean } | { problem: string } | 'coming';

/** Milliseconds for which a sound has to stand still before it is measured anew: a hand that works on it goes on. */
const STILL = 1000;
const GIGABYTE = 1024 ** 3;

/** The sounds that are played from recordings: what they are made of, how far their recordings are, and what is made of them. */
export class RecordedSounds {
  readonly workers = new RecordingWorkers();
  private readonly sounds = new Map<string, SampledSound>();
  private readonly recordings = new Map<string, State>();
  /** Sources that were laid as they are now, or are being laid. */
  private readonly laid = new Map<string, SampledSound>();
  /** Sources that are being laid: what changes meanwhile is laid once more behind it, and not once for every change. */
  private readonly laying = new Set<string>();
  /** Recordings that are on their way. */
  private readonly fetching = new Map<string, Promise<void>>();
  private readonly measured = new Set<string>();
  private isPersistenceAsked = false;

  constructor(private readonly told: RecordedTold) {}

  /** Takes a sound as it is now; asked for before, it is made anew where something of it has changed. */
  define(sound: SampledSound): string {
    const sourceId = sourceIdOf(sound) ?? '';
    this.sounds.set(sourceId, sound);
    return sourceId;
  }

  ringsOn(sourceId: string): boolean {
    const sound = this.sounds.get(sourceId);
    return sound !== undefined && ringsOn(sound.origin);
  }

  /** Has a sound made, as far as its recordings are there; what is still to come is asked for. */
  make(sourceId: string): void {
    const sound = this.sounds.get(sourceId);
    if (!sound || this.laying.has(sourceId)) return;
    if (this.laid.get(sourceId)?.origin === sound.origin) return;
    const needed = recordingsOfSound(sound);
    for (const recordingId of needed) {
      if (this.recordings.has(recordingId)) continue;
      void this.fetch(recordingId, this.urgencyOf(sourceId));
    }
    if (needed.some((id) => this.recordings.get(id) === 'coming')) return;
    this.laid.set(sourceId, sound);
    const audio = needed.flatMap((id) => {
      const state = this.recordings.get(id);
      return typeof state === 'object' && 'audio' in state ? [{ id, ...state.audio }] : [];
    });
    void this.lay(sourceId, sound, audio);
  }

  /** Has the sound of a recording fetched, for looking at it; null when it cannot be had. */
  async audio(recordingId: string): Promise<PlayableAudio | null> {
    if (!this.recordings.has(recordingId)) void this.fetch(recordingId, URGENCY.wanted);
    await this.fetching.get(recordingId);
    const state = this.recordings.get(recordingId);
    return typeof state === 'object' && 'audio' in state ? state.audio : null;
  }

  private async fetch(recordingId: string, urgency: number): Promise<void> {
    this.askForRoom();
    this.recordings.set(recordingId, 'coming');
    const fetching = this.decoded(recordingId, urgency);
    this.fetching.set(recordingId, fetching);
    await fetching;
    this.fetching.delete(recordingId);
    this.goOnWith(recordingId);
  }

  private async decoded(recordingId: string, urgency: number): Promise<void> {
    try {
      const { audio, isKept } = await this.workers.ask({ kind: 'decode', recordingId }, urgency);
      this.recordings.set(recordingId, { audio, isKept });
    } catch (error) {
      // The sound is made without it.
      this.recordings.set(recordingId, { problem: error instanceof Error ? error.message : '' });
    }
  }

  private async lay(
    sourceId: string,
    sound: SampledSound,
    audio: ({ id: string } & PlayableAudio)[],
  ): Promise<void> {
    const { origin } = sound;
    this.laying.add(sourceId);
    try {
      const request = { kind: 'lay' as const, origin, audio };
      const { zones } = await this.workers.ask(request, this.urgencyOf(sourceId));
      const made: LoadedSound = { voicing: samplingVoicing(origin), zones, answering: 'all' };
      this.told.loaded(sourceId, made);
      void this.measureSoon(sourceId, sound, made);
    } catch (error) {
      this.told.failed(sourceId, error instanceof Error ? error.message : String(error));
    }
    this.laying.delete(sourceId);
    // What has changed since is laid next.
    this.make(sourceId);
  }

  private async measureSoon(
    sourceId: string,
    sound: SampledSound,
    made: LoadedSound,
  ): Promise<void> {
    if (made.zones.length === 0) return;
    const isFirst = !this.measured.has(sourceId);
    this.measured.add(sourceId);
    if (!isFirst) await new Promise((resolve) => setTimeout(resolve, STILL));
    if (this.sounds.get(sourceId)?.origin !== sound.origin) return;
    const known = await this.know(sourceId, made, null);
    if (known && this.sounds.get(sourceId)?.origin === sound.origin)
      this.told.known(sourceId, known.response, known.voiceCost);
  }

  /** How loud a sound that was laid is in another colour; null when nobody can tell. */
  async measure(sourceId: string, sound: LoadedSound, colour: Colour): Promise<Response | null> {
    return (await this.know(sourceId, sound, colour))?.response ?? null;
  }

  private async know(sourceId: string, sound: LoadedSound, colour: Colour | null) {
    const reference = this.referenceOf(sourceId);
    return this.workers
      .ask({ kind: 'know', sound, reference, colour }, URGENCY.measured)
      .catch(() => null);
  }

  private urgencyOf(sourceId: string): number {
    return this.told.isPreferred(sourceId) ? URGENCY.played : URGENCY.coming;
  }

  /** What is kept here is to stay, even when the disk becomes full. */
  private askForRoom(): void {
    if (this.isPersistenceAsked) return;
    this.isPersistenceAsked = true;
    // A browser that has no such thing, or says no, keeps it as long as it likes.
    void navigator.storage?.persist?.().catch(() => false);
  }

  /** Has a recording asked for anew, since its file was brought again; without one all that could not be had. */
  again(recordingId?: string): void {
    const ids = recordingId === undefined ? [...this.recordings.keys()] : [recordingId];
    for (const id of ids) {
      const state = this.recordings.get(id);
      if (typeof state !== 'object' || 'audio' in state) continue;
      this.recordings.delete(id);
      for (const [sourceId, sound] of this.sounds)
        if (recordingsOfSound(sound).includes(id)) this.laid.delete(sourceId);
    }
    for (const sourceId of this.sounds.keys()) if (!this.laid.has(sourceId)) this.make(sourceId);
  }

  private goOnWith(recordingId: string): void {
    for (const [sourceId, sound] of this.sounds)
      if (recordingsOfSound(sound).includes(recordingId)) this.make(sourceId);
  }

  /** The key at which a sound is compared with others. */
  private referenceOf(sourceId: string): number {
    const { lowestNote = 0, highestNote = 127 } = this.sounds.get(sourceId) ?? {};
    return Math.min(highestNote, Math.max(lowestNote, MIDDLE_C));
  }

  /** What the recordings of some sounds take, and what is not as it should be, by recording. */
  standing(sourceIds: Iterable<string>): RecordedStanding {
    const found: RecordedStanding = { bytes: 0, budget: budget(), notKept: 0, problems: new Map() };
    const seen = new Set<string>();
    for (const sourceId of sourceIds)
      for (const id of recordingsOfSound(this.sounds.get(sourceId) ?? NOTHING)) {
        if (seen.has(id)) continue;
        seen.add(id);
        const state = this.recordings.get(id);
        if (typeof state !== 'object') continue;
        if ('problem' in state) found.problems.set(id, state.problem);
        else {
          found.bytes += bytesOf(state.audio);
          if (!state.isKept) found.notKept++;
        }
      }
    return found;
  }
}

const NOTHING = { origin: { kind: 'house' as const, recipe: 'none' } };

/** How the recordings of some sounds stand here. */
export interface RecordedStanding {
  /** Memory that they take. */
  bytes: number;
  /** Memory that they may take before it is said. */
  budget: number;
  /** Recordings that this browser had no room to keep. */
  notKept: number;
  /** Why recordings are not to be had, by their id. */
  problems: Map<string, string>;
}

function bytesOf({ left, right }: PlayableAudio): number {
  return left.byteLength + (left === right ? 0 : right.byteLength);
}

/** A quarter of what the machine has, as far as the browser tells. */
function budget(): number {
  const { deviceMemory = 4 } = globalThis.navigator as Navigator & { deviceMemory?: number };
  return (deviceMemory * GIGABYTE) / 4;
}
