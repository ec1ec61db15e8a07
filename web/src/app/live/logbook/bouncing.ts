import { inject, Injectable } from '@angular/core';
import { soundedIn, TakeRun, type WholeTake } from '@pentachord/core/logbook';
import { COMMAND_RING_BYTES, CommandRing, METERS } from '@pentachord/core/sampler';
import { sharedMemory } from '../browser/memory';
import { AudioGraph, bringWorklet } from '../audio/audio-graph';
import { WaysOut } from '../audio/ways-out';
import { Live } from '../live';

/** Seconds of sound between two feedings of the engine. */
const FED_EVERY = 0.25;
/** Seconds for which what was let go may ring on. */
const TAIL = 6;
/** Frames that the audio thread renders at once. */
const BLOCK = 128;
/** Linear level below which a tail is silence: −100 dB. */
const SILENT = 1e-5;
/** Milliseconds between two looks at whether the sounds are made. */
const LOOKED_AT = 100;
/** Seconds that can be rendered at once: a longer stretch needs more memory than a page should take. */
export const LONGEST_BOUNCE = 20 * 60;

/** Sound that was rendered. */
export interface Bounced {
  left: Float32Array<ArrayBuffer>;
  right: Float32Array<ArrayBuffer>;
  /** Frames a second. */
  rate: number;
  /** How much faster than it sounds it was rendered. */
  ratio: number;
}

/** How a bounce goes on. */
export interface BounceWatch {
  /** What is being done, and how much of it, 0–1. */
  progress: (what: 'sounds' | 'rendering', done: number) => void;
  signal: AbortSignal;
}

/** Renders takes to sound, apart from what plays: the same path, the same engine, effects and limiter, faster than it sounds. */
@Injectable({ providedIn: 'root' })
export class Bouncing {
  private readonly live = inject(Live);

  /** Ids of the layers that sound in a take, by their place among those of the take. */
  layersIn({ take, roll }: WholeTake): { id: string; name: string }[] {
    const heard = new Set(soundedIn(roll, take.seconds).notes.map(({ layer }) => layer));
    const found = new Map<string, string>();
    for (const layer of [...heard].sort((a, b) => a - b)) {
      const { layerId, name, song, patch } = take.layers[layer];
      if (!found.has(layerId)) found.set(layerId, [song, patch, name].filter(Boolean).join(', '));
    }
    return [...found].map(([id, name]) => ({ id, name }));
  }

  /**
   * Renders a take of at most {@link LONGEST_BOUNCE} seconds, with all layers or some of them alone.
   * @throws whatever the signal was aborted with, and Error in plain words where it cannot be rendered
   */
  async bounce(
    whole: WholeTake,
    alone: ReadonlySet<string>,
    { progress, signal }: BounceWatch,
  ): Promise<Bounced> {
    const lent = this.live.followedNow;
    if (!lent)
      throw new Error('No show is open. Open the one that it was played in, then try again.');
    const [plan, place] = lent;
    await this.soundsMade(progress, signal);
    const { rate } = this.live.audio;
    const seconds = Math.min(LONGEST_BOUNCE, whole.take.seconds);
    const frames = Math.ceil(((seconds + TAIL) * rate) / BLOCK) * BLOCK;
    const context = new OfflineAudioContext(2, frames, rate);
    await bringWorklet(context);
    const memories = {
      commands: sharedMemory(COMMAND_RING_BYTES),
      meters: sharedMemory(METERS * 4),
      heldBack: sharedMemory(4),
    };
    const graph = new AudioGraph(context, memories, new WaysOut());
    let failed = false;
    graph.begin(() => (failed = true), [...this.live.audio.sounds]);
    const commands = new CommandRing(memories.commands);
    const run = new TakeRun({
      ...{ whole, plan, place: { ...place, entryId: null, cueId: null }, alone, rate, commands },
      playedBy: (sourceId) => this.live.sounds.playedBy(sourceId),
      setEffects: (effects, tempo, at) => graph.effects.set(effects, tempo, at),
    });
    let isOver = false;
    const feed = (until: number) => {
      run.playUntil(Math.min(until, seconds));
      if (until < seconds || isOver) return;
      isOver = true;
      run.letGo();
    };
    const step = Math.round((FED_EVERY * rate) / BLOCK) * BLOCK;
    const begun = performance.now();
    const fedAt = (frame: number): void => {
      void context.suspend(frame / rate).then(() => {
        progress('rendering', frame / frames);
        // One that is not gone on with is never finished: nobody waits for it any more.
        if (signal.aborted) return;
        feed((frame + step) / rate);
        if (frame + step < frames) fedAt(frame + step);
        void context.resume();
      });
    };
    feed(step / rate);
    fedAt(step);
    const rendered = await Promise.race([context.startRendering(), whenAborted(signal)]);
    if (failed || commands.refused > 0)
      throw new Error('The sound could not be rendered. Nothing was changed: try again.');
    const ratio = frames / rate / ((performance.now() - begun) / 1000);
    return { ...trimmed(rendered, Math.ceil(seconds * rate)), rate, ratio };
  }

  /** Waits until every sound of the show is made. */
  private async soundsMade(progress: BounceWatch['progress'], signal: AbortSignal): Promise<void> {
    for (;;) {
      signal.throwIfAborted();
      const { of, made, coming } = this.live.showSounds.fetched;
      if (coming.length === 0) return;
      progress('sounds', of === 0 ? 0 : made / of);
      await new Promise((resolve) => setTimeout(resolve, LOOKED_AT));
    }
  }
}

function whenAborted(signal: AbortSignal): Promise<never> {
  return new Promise((_resolve, reject) => {
    const abort = () => reject(signal.reason as Error);
    if (signal.aborted) abort();
    else signal.addEventListener('abort', abort, { once: true });
  });
}

/** Both sides without the silence at their end; the take itself is left whole. */
function trimmed(
  buffer: AudioBuffer,
  least: number,
): { left: Float32Array<ArrayBuffer>; right: Float32Array<ArrayBuffer> } {
  const [left, right] = [buffer.getChannelData(0), buffer.getChannelData(1)];
  let end = left.length;
  while (end > least && Math.abs(left[end - 1]) < SILENT && Math.abs(right[end - 1]) < SILENT)
    end--;
  return { left: left.subarray(0, end), right: right.subarray(0, end) };
}
