import type { CoreShare } from '@pentachord/core/cost';
import { voicesOf, type Mixture, type Probe, type Response } from '@pentachord/core/loudness';
import { isSampledSource, type Colour, type SampledSound } from '@pentachord/core/model';
import { contains } from '@pentachord/core/range';
import type { CompiledLayer } from '@pentachord/core/routing';
import type { PlayedSource } from '@pentachord/core/playing';
import type { LoadedSound } from '@pentachord/core/sampler';
import { sourceOf } from '@pentachord/core/synthesis';
import { RecordedSounds } from './recorded-sounds';
import {
  soundAnswerSchema,
  type Coloured,
  type SoundAnswer,
  type SoundRequest,
  type LayeredStroke,
} from './sound-messages';
import { SOUND_WORKERS, takeSoundWorker } from './sound-workers';

/** How far the sounds of the show are. */
export interface SoundProgress {
  /** Sounds that can be played. */
  ready: number;
  /** Sounds that were asked for. */
  of: number;
  /** Name of the one being made, with how much of it is done (0–1). */
  making: { name: string; done: number } | null;
  /** What went wrong, in plain words. */
  problems: string[];
}

/** What comes first: the sounds that are to be played now, what is to be known of them, the others, what can wait. */
const PRIORITY = {
  ...{ preferred: 0, mix: 1, known: 2, render: 3, measure: 4, gauge: 5, tidy: 6 },
} as const;

/** Mixtures that are remembered. */
const MOST_MIXED = 40;

interface Job {
  request: SoundRequest;
  priority: number;
  /** The one worker that can do it; null when any can. */
  worker: MakingWorker | null;
}

/** A worker with the job it is at. */
interface MakingWorker {
  worker: Worker;
  job: Job | null;
}

/** Has the sounds of sources made in workers, those of the patch being played first, each ready as soon as it is done. */
export class SoundLoader {
  private readonly workers: MakingWorker[] = [];
  private readonly jobs: Job[] = [];
  private readonly played = new Map<string, PlayedSource>();
  private readonly finished = new Set<string>();
  private preferred: ReadonlySet<string> = new Set();
  private gauged: ((budget: CoreShare | null) => void) | null = null;
  private readonly sounds = new Map<string, LoadedSound>();
  private readonly mixing = new Map<string, (mixtures: Mixture[]) => void>();
  private readonly mixed = new Map<string, Promise<Mixture[]>>();
  /** Told how loud each sound was measured to be and what one voice costs, by its source. */
  onMeasured: (sourceId: string, response: Response, voiceCost: CoreShare) => void = () =>
    undefined;
  /** Told how loud a sound is in another colour, by the key it was asked for with. */
  onColoured: (key: string, response: Response) => void = () => undefined;
  private readonly coloured = new Map<string, Coloured>();
  private tidied = false;
  private making: SoundProgress['making'] = null;
  /** Those that are played from recordings. */
  readonly recorded = new RecordedSounds({
    loaded: (sourceId, sound) => this.takeLaid(sourceId, sound),
    failed: (sourceId, problem) => {
      this.finished.add(sourceId);
      this.problems.push(`A sound of recordings could not be made: ${problem}`);
    },
    known: (sourceId, response, voiceCost) => {
      this.onMeasured(sourceId, response, voiceCost);
      // So are its colours: it may be another sound now.
      for (const coloured of this.coloured.values())
        if (coloured.sourceId === sourceId) this.measureRecorded(coloured);
    },
    isPreferred: (sourceId) => this.preferred.has(sourceId),
  });
  private readonly problems: string[] = [];

  /** @param loaded called with each sound as it becomes playable */
  constructor(private readonly loaded: (slot: number, sound: LoadedSound) => void) {}

  /** How a source is played, asking for its sound if nobody has yet; null for one that does not exist. */
  playedBy(sourceId: string): PlayedSource | null {
    const known = this.played.get(sourceId);
    if (known) return known;
    if (isSampledSource(sourceId)) return this.recordedPlayedBy(sourceId);
    const source = sourceOf(sourceId);
    if (!source) return null;
    const played = { slot: this.played.size, ringsOn: source.ringsOn };
    this.played.set(sourceId, played);
    this.ask({ kind: 'render', sourceId }, this.priorityOf(sourceId));
    return played;
  }

  /** Takes a sound of recordings as it is now, and has it made; a change is heard as soon as it is laid. */
  define(sound: SampledSound): void {
    const sourceId = this.recorded.define(sound);
    const played = this.recordedPlayedBy(sourceId);
    played.ringsOn = this.recorded.ringsOn(sourceId);
  }

  private recordedPlayedBy(sourceId: string): PlayedSource {
    const ringsOn = this.recorded.ringsOn(sourceId);
    const played = this.played.get(sourceId) ?? { slot: this.played.size, ringsOn };
    this.played.set(sourceId, played);
    this.recorded.make(sourceId);
    return played;
  }

  /** Has these made before all others, from now on. */
  prefer(sourceIds: ReadonlySet<string>): void {
    this.preferred = sourceIds;
    for (const job of this.jobs)
      if (job.request.kind === 'render') job.priority = this.priorityOf(job.request.sourceId);
    for (const id of sourceIds) this.playedBy(id);
    if (this.tidied) return;
    this.tidied = true;
    this.ask({ kind: 'tidy' }, PRIORITY.tidy);
  }

  /** True once every preferred sound can be played, or has failed. */
  get preferredReady(): boolean {
    for (const id of this.preferred)
      if (this.played.has(id) && !this.finished.has(id)) return false;
    return true;
  }

  /** Whether a sound can be played, is still to come, or has failed. */
  stateOf(sourceId: string): 'made' | 'coming' | 'failed' {
    if (this.sounds.has(sourceId)) return 'made';
    return this.finished.has(sourceId) ? 'failed' : 'coming';
  }

  /** A sound that failed counts as done: nothing more will come of it. */
  get progress(): SoundProgress {
    return {
      ready: this.finished.size,
      of: this.played.size,
      making: this.making,
      problems: this.problems,
    };
  }

  /**
   * Measures what share of a core sound may use on this machine, once everything else that was asked for is done; null when
   * that cannot be measured.
   */
  async gauge(): Promise<CoreShare | null> {
    return new Promise((resolve) => {
      this.gauged = resolve;
      this.ask({ kind: 'gauge' }, PRIORITY.gauge);
    });
  }

  /**
   * Has it listened to what layers make together at some strokes; asked for the same again it gives the same. Layers whose
   * sound is not made, or not here, are left out. Empty when no worker can listen, until it is asked for again.
   */
  async mix(
    probes: readonly Probe[],
    soundOf: (layer: CompiledLayer) => { sourceId: string; colour: Colour } | null,
  ): Promise<Mixture[]> {
    const strokes = probes.map(({ weight, ...probe }): LayeredStroke => {
      const sources = new Map<string, string>();
      const voices = voicesOf({ ...probe, weight }, (layer) => {
        const found = soundOf(layer);
        const sound = found && this.sounds.get(found.sourceId);
        if (!sound) return null;
        sources.set(layer.id, found.sourceId);
        return { sound, colour: found.colour };
      });
      return {
        weight,
        voices: voices.map(({ sound, ...voice }) => ({
          ...voice,
          sourceId: sources.get(voice.layerId) ?? '',
          sound: {
            ...sound,
            zones: sound.zones.filter(({ keys }) => contains(keys, voice.note)),
          },
        })),
      };
    });
    const heard = strokes.filter(({ voices }) => voices.length > 0);
    const key = JSON.stringify(
      heard.map(({ weight, voices }) => [weight, voices.map((v) => ({ ...v, sound: null }))]),
    );
    const known = this.mixed.get(key);
    if (known) return known;
    const asked = new Promise<Mixture[]>((resolve) => this.mixing.set(key, resolve));
    if (this.mixed.size >= MOST_MIXED) this.mixed.clear();
    this.mixed.set(key, asked);
    this.ask({ kind: 'mix', key, strokes: heard }, PRIORITY.mix);
    return asked;
  }

  /** Has the loudness of a sound in another colour measured, once. */
  measure(coloured: Coloured): void {
    if (this.coloured.has(coloured.key)) return;
    const { sourceId } = coloured;
    this.coloured.set(coloured.key, coloured);
    if (isSampledSource(sourceId)) this.measureRecorded(coloured);
    else this.ask({ kind: 'measure', ...coloured }, PRIORITY.measure);
  }

  private measureRecorded({ key, sourceId, colour }: Coloured): void {
    const sound = this.sounds.get(sourceId);
    if (!sound) return;
    void this.recorded
      .measure(sourceId, sound, colour)
      .then((response) => response && this.onColoured(key, response));
  }

  private priorityOf(sourceId: string): number {
    return this.preferred.has(sourceId) ? PRIORITY.preferred : PRIORITY.render;
  }

  private ask(request: SoundRequest, priority: number, worker: MakingWorker | null = null): void {
    this.jobs.push({ request, priority, worker });
    // What is asked for in one go is weighed together.
    queueMicrotask(() => this.handOut());
  }

  private handOut(): void {
    while (this.jobs.length > 0) {
      const job = this.next();
      const worker = job && (job.worker ?? this.idleWorker());
      if (!job || !worker || worker.job) return;
      this.jobs.splice(this.jobs.indexOf(job), 1);
      worker.job = job;
      worker.worker.postMessage(job.request);
    }
  }

  /** The most urgent job that some idle worker can do. Measuring the machine waits until nobody is at work. */
  private next(): Job | undefined {
    const atWork = this.workers.some(({ job }) => job !== null);
    return this.jobs
      .filter(({ request, worker }) =>
        request.kind === 'gauge' ? !atWork : worker ? !worker.job : true,
      )
      .reduce<Job | undefined>((a, b) => (a && a.priority <= b.priority ? a : b), undefined);
  }

  private idleWorker(): MakingWorker | null {
    const idle = this.workers.find(({ job }) => job === null);
    return idle ?? (this.workers.length < SOUND_WORKERS ? this.hire() : null);
  }

  private hire(): MakingWorker {
    const worker = takeSoundWorker();
    const making: MakingWorker = { worker, job: null };
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) =>
      this.answer(making, data),
    );
    worker.addEventListener('error', () => this.dismiss(making));
    this.workers.push(making);
    return making;
  }

  /** One that broke down may never answer again: another one is hired for what is still to be done. */
  private dismiss(making: MakingWorker): void {
    this.problems.push('A sound cannot be made: its worker did not start. Reload the page.');
    making.worker.terminate();
    this.workers.splice(this.workers.indexOf(making), 1);
    // What only that one could do is undone.
    const own = this.jobs.filter(({ worker }) => worker === making);
    for (const job of own) this.jobs.splice(this.jobs.indexOf(job), 1);
    this.done(making);
  }

  private answer(from: MakingWorker, data: unknown): void {
    const answer = soundAnswerSchema.safeParse(data);
    if (!answer.success) {
      this.problems.push('A sound came out broken and is left out. Reload the page to try again.');
      this.done(from);
      return;
    }
    const message = answer.data;
    if (message.kind === 'progress') {
      const name = sourceOf(message.sourceId)?.name ?? '';
      this.making = { name, done: message.done / message.of };
      return;
    }
    this.take(from, message);
    this.done(from);
  }

  private take(from: MakingWorker, message: Exclude<SoundAnswer, { kind: 'progress' }>): void {
    switch (message.kind) {
      case 'gauged':
        this.gauged?.(message.budget);
        this.gauged = null;
        break;
      case 'tidied':
      case 'undone':
        break;
      case 'mixed':
        this.mixing.get(message.key)?.(message.mixtures);
        this.mixing.delete(message.key);
        break;
      case 'measured':
        this.onColoured(message.key, message.response);
        break;
      case 'known':
        this.onMeasured(message.sourceId, message.response, message.voiceCost);
        break;
      case 'ready': {
        const { sourceId, zones } = message;
        const source = sourceOf(sourceId);
        const played = this.played.get(sourceId);
        if (!source || !played) return;
        const sound = { voicing: source.voicing, zones };
        this.sounds.set(sourceId, sound);
        this.loaded(played.slot, sound);
        this.ask({ kind: 'know', sourceId }, PRIORITY.known, from);
        break;
      }
      case 'failed':
        this.problems.push(
          `${sourceOf(message.sourceId)?.name ?? message.sourceId} could not be made: ${message.problem}`,
        );
    }
  }

  private takeLaid(sourceId: string, sound: LoadedSound): void {
    const played = this.played.get(sourceId);
    if (!played) return;
    this.sounds.set(sourceId, sound);
    this.finished.add(sourceId);
    // What was listened to together with it is of what it was.
    this.mixed.clear();
    this.loaded(played.slot, sound);
  }

  /** Whoever still waits for an answer that did not come is told that none will. */
  private leaveNobodyWaiting(request: SoundRequest): void {
    if (request.kind === 'gauge') {
      this.gauged?.(null);
      this.gauged = null;
    }
    const waiting = request.kind === 'mix' ? this.mixing.get(request.key) : undefined;
    if (request.kind !== 'mix' || !waiting) return;
    this.mixing.delete(request.key);
    this.mixed.delete(request.key);
    waiting([]);
  }

  /** A worker has done its job, or cannot. */
  private done(worker: MakingWorker): void {
    const request = worker.job?.request;
    worker.job = null;
    if (request) this.leaveNobodyWaiting(request);
    if (request?.kind === 'render') {
      this.making = null;
      this.finished.add(request.sourceId);
    }
    this.handOut();
  }
}
