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
  /** How loud one is, and what one voice of it costs. */
  known(sourceId: string, response: Response, voiceCost: CoreShare): void;
  /** Whether it is one of those that are played now. */
  isPreferred(sourceId: string): boolean;
}

const MIDDLE_C = 60;

/** What is known of a recording in this page. */
type State = { audio: PlayableAudio; isKept: boolean } | { problem: string } | 'coming';

/** Bytes that recordings of a show may take here before it is said. */
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
  private isPersistenceAsked = false;

  constructor(private readonly told: RecordedTold) {}

  /** Takes a sound as it is now; asked for before, it is made anew where something of it has changed. */
  define(sound: SampledSound): string {
    const sourceId = sourceIdOf(sound) ?? '';
    this.sounds.set(sourceId, sound);
    return sourceId;
  }

  soundOf(sourceId: string): SampledSound | undefined {
    return this.sounds.get(sourceId);
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
    if (!this.recordings.has(recordingId)) await this.fetch(recordingId, URGENCY.wanted);
    return this.audioOf(recordingId);
  }

  private async fetch(recordingId: string, urgency: number): Promise<void> {
    this.askForRoom();
    this.recordings.set(recordingId, 'coming');
    try {
      const { audio, isKept } = await this.workers.ask({ kind: 'decode', recordingId }, urgency);
      this.recordings.set(recordingId, { audio, isKept });
    } catch (error) {
      // The sound is made without it.
      this.recordings.set(recordingId, { problem: error instanceof Error ? error.message : '' });
    }
    this.goOnWith(recordingId);
  }

  private async lay(
    sourceId: string,
    sound: SampledSound,
    audio: ({ id: string } & PlayableAudio)[],
  ): Promise<void> {
    const { origin } = sound;
    const urgency = this.urgencyOf(sourceId);
    this.laying.add(sourceId);
    const answer = await this.workers
      .ask({ kind: 'lay', origin, audio }, urgency)
      .catch(() => null);
    this.laying.delete(sourceId);
    // What has changed since is laid next.
    this.make(sourceId);
    if (!answer || this.laid.get(sourceId) !== sound) return;
    const { zones } = answer;
    const made: LoadedSound = { voicing: samplingVoicing(origin), zones, answering: 'all' };
    this.told.loaded(sourceId, made);
    if (zones.length === 0) return;
    const known = await this.know(sourceId, made, null);
    if (known && this.laid.get(sourceId) === sound)
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

  /** Has a recording asked for anew, since its file was brought again. */
  again(recordingId: string): void {
    const state = this.recordings.get(recordingId);
    if (typeof state !== 'object' || 'audio' in state) return;
    this.recordings.delete(recordingId);
    for (const [sourceId, sound] of this.sounds)
      if (recordingsOfSound(sound).includes(recordingId)) {
        this.laid.delete(sourceId);
        this.make(sourceId);
      }
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

  /** The sound of a recording; null while it is not there. */
  audioOf(recordingId: string): PlayableAudio | null {
    const state = this.recordings.get(recordingId);
    return typeof state === 'object' && 'audio' in state ? state.audio : null;
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
