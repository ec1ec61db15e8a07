import {
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  METER,
  METERS,
  type LoadedSound,
} from '@pentachord/core/sampler';
import type { Effects } from '@pentachord/core/model';
import type { Frame, Seconds } from '@pentachord/core/units';
import { sharedMemory, sharesMemory } from '../browser/memory';
import { AudioClock } from './audio-clock';
import { AudioGraph, bringWorklet, LOOKED_AT } from './audio-graph';
import { ClickTrack } from './click-track';
import { breaksOf, NO_SHARED_MEMORY, soundProblem } from './sound-problems';
import { WaysOut, type OutputPairs } from './ways-out';

/** Milliseconds between two looks at both clocks while nothing runs on the show’s clock. */
const CLOCKS_COMPARED = 50;

/** Frames a second of most devices. */
const USUAL_RATE = 48_000;

/** Milliseconds for which a failure of the worklet is told. */
const FAILURE_TOLD = 30_000;

/** Milliseconds for which the audio clock may stand still before its device is taken to be gone. */
const STANDS_STILL = 1500;
/** Seconds until a context that was just made plays evenly. */
const SETTLES = 2;
/** Milliseconds between two tries to begin on another device. */
const TRIED_AGAIN = 1000;

/** Whether sound comes out. Browsers hold it back until the first click or key; a device may be pulled out. */
export type AudioState = 'waiting for a click' | 'on' | 'cannot start' | 'device gone';

/** The output device that is wanted, '' for the machine’s own, and how promptly it is to answer. */
export interface WantedOutput {
  deviceId: string;
  latency: 'interactive' | 'balanced' | 'playback';
}

/** What not every browser has. */
interface SinkContext extends AudioContext {
  setSinkId(deviceId: string): Promise<void>;
}

/**
 * The audio side: the {@link AudioGraph} on a context that plays, and the click.
 *
 * commands ─► graph ─┬─► loudspeakers
 *            click ──┘
 *
 * Commands go through shared memory and never wait; they can be written before sound is on.
 */
export class AudioEngine {
  readonly commands: CommandRing;
  /** One peak per strip, then {@link METER}. Written by the audio thread. */
  readonly meters: Float32Array;
  private readonly memories = {
    commands: sharedMemory(COMMAND_RING_BYTES),
    meters: sharedMemory(METERS * 4),
    heldBack: sharedMemory(4),
  };
  private readonly heldBackNow = new Float32Array(this.memories.heldBack);
  private context: AudioContext | null = null;
  private graph: AudioGraph | null = null;
  /** Where the voices are told of sounds. */
  private voicesPort: MessagePort | null = null;
  private built: Promise<void> | null = null;
  /** The last moments of the output, written over for every look. */
  private readonly lately = new Float32Array(LOOKED_AT);
  private clock: AudioClock | null = null;
  private wanted: { effects: Effects; tempo: number } | null = null;
  /** Every sound by its slot, for a worklet that has to begin again. */
  private readonly loaded = new Map<number, LoadedSound>();
  /** Told when a worklet begins that knows nothing yet. Whoever writes commands writes all anew. */
  onBegun: () => void = () => undefined;
  /** When the worklet failed last and was begun again, milliseconds of the page's clock; −∞ for never. */
  private failedAt = -Infinity;
  /** Pairs of the output device, and what is heard on each. */
  private readonly ways = new WaysOut();
  private wantedOut: WantedOutput = { deviceId: '', latency: 'interactive' };
  /** The click, heard past the limiter. */
  readonly clicks = new ClickTrack((time) => this.frameAt(time));
  private state: AudioState = 'waiting for a click';
  /** What has a context of its own to be begun anew, while that is under way. */
  private mending: Promise<void> | null = null;
  private comparing: ReturnType<typeof setInterval> | undefined;
  /** Where the audio clock stood, and since when, milliseconds of the page's clock. */
  private stood = { at: -1, since: 0 };
  private problemText = '';
  private outputText = '';
  private resting = false;
  /** Breaks of contexts that were left, and those of this one while it began. */
  private brokenOffBefore = 0;
  private brokenOffAtFirst = 0;

  constructor() {
    this.commands = new CommandRing(this.memories.commands);
    this.meters = new Float32Array(this.memories.meters);
  }

  /** Whether sound is on, asked of the browser anew. */
  get audioState(): AudioState {
    if (this.mending) return 'device gone';
    if (this.state === 'on' && this.context?.state !== 'running') return 'waiting for a click';
    return this.state;
  }

  /** Why sound cannot start, or an empty text. */
  get problem(): string {
    return this.problemText;
  }

  /** Why sound does not leave by the output that was chosen; empty while it does. */
  get outputProblem(): string {
    return this.outputText;
  }

  /** Every sound that is made, by its slot. */
  get sounds(): ReadonlyMap<number, LoadedSound> {
    return this.loaded;
  }

  /** Frames a second; what is usual until sound is on. */
  get rate(): number {
    return this.context?.sampleRate ?? USUAL_RATE;
  }

  /** Voices that sound now. */
  get voices(): number {
    return this.meters[METER.voices];
  }

  /** dB by which the limiter holds the whole back now; 0 while all is well. */
  get heldBack(): number {
    const share = this.heldBackNow[0];
    return share <= 0 ? 0 : -20 * Math.log10(1 - Math.min(share, 0.999));
  }

  /** True for a while after the worklet has failed and was begun again, so that it can be told. */
  get hasJustFailed(): boolean {
    return performance.now() - this.failedAt < FAILURE_TOLD;
  }

  /** Turns sound on. To be called from a click or key press; harmless when it is on already. */
  async start(): Promise<void> {
    if (this.mending) return;
    this.resting = false;
    if (!sharesMemory()) {
      this.state = 'cannot start';
      this.problemText = NO_SHARED_MEMORY;
      return;
    }
    try {
      await this.open();
      this.problemText = '';
    } catch (error) {
      this.built = null;
      this.state = 'cannot start';
      this.problemText = soundProblem(error);
    }
  }

  /** Makes no sound until it is started again: another window plays. */
  rest(): void {
    this.resting = true;
    void this.context?.suspend().catch(() => undefined);
  }

  /** How often sound has broken off since it began, as far as the browser counts that. */
  get brokenOff(): number {
    const { context } = this;
    if (!context || context.state !== 'running') return this.brokenOffBefore;
    const now = breaksOf(context);
    // While everything is still being begun, nobody is listening yet.
    if (context.currentTime < SETTLES) this.brokenOffAtFirst = now;
    return this.brokenOffBefore + Math.max(0, now - this.brokenOffAtFirst);
  }

  private async open(): Promise<void> {
    this.context ??= this.newContext();
    if (this.context.destination.maxChannelCount === 0) {
      // Where there is no device a context never begins, not even once one is connected: the next try is made with another.
      void this.context.close();
      this.context = null;
      throw new DOMException('no output', 'NotFoundError');
    }
    // Started first: a browser counts this as the answer to the click.
    const resumed = this.context.resume();
    // Every click calls this; the graph is built once, since two worklets on one ring would share its commands out.
    this.built ??= this.build(this.context);
    await this.built;
    await resumed;
    this.state = 'on';
  }

  /** The frame of the audio clock at a time of the page (0 is now); now, while sound is off. */
  frameAt(time: Seconds): Frame {
    if (time === 0 || !this.clock || this.context?.state !== 'running') return 0;
    return this.clock.frameAt(time);
  }

  /** Channels that the way out has; 2 until sound is on. */
  get outputs(): number {
    return this.context?.destination.maxChannelCount ?? 2;
  }

  /** Follows which pair of the output device carries what. */
  setPairs(pairs: OutputPairs): void {
    this.ways.set(pairs);
  }

  /** Takes another output device, or another latency; what sounds is interrupted for a moment. */
  setOutput(wanted: WantedOutput): void {
    const before = this.wantedOut;
    this.wantedOut = wanted;
    const { context } = this;
    if (!context || (before.deviceId === wanted.deviceId && before.latency === wanted.latency))
      return;
    this.mending ??= this.beginElsewhere(context).finally(() => (this.mending = null));
  }

  /** Seconds from a command to the loudspeakers, as the browser says; 0 while sound is off. */
  get latency(): Seconds {
    const { context } = this;
    return context ? context.baseLatency + context.outputLatency : 0;
  }

  private newContext(): AudioContext {
    const { deviceId, latency } = this.wantedOut;
    const context = new AudioContext({ latencyHint: latency });
    this.outputText = '';
    // A device that is not there any more: the one that the machine uses is better than silence.
    if (deviceId !== '' && 'setSinkId' in context)
      void (context as SinkContext).setSinkId(deviceId).catch(() => {
        this.outputText = 'The output that was chosen is not there: this machine’s own is heard.';
      });
    else if (deviceId !== '')
      this.outputText = 'This browser lets no page choose an output: this machine’s own is heard.';
    return context;
  }

  /** Compares the clocks; called often while something runs on the show’s clock. */
  compareClocks(): void {
    if (this.context?.state === 'running')
      this.clock?.observe(performance.now() / 1000, this.context.currentTime);
  }

  /** Gives the worklet a sound, whose samples lie in shared memory. */
  load(slot: number, sound: LoadedSound): void {
    this.loaded.set(slot, sound);
    this.voicesPort?.postMessage({ slot, sound });
  }

  /** Follows the shared effects of the patch being played; `tempo` in beats per minute. */
  setEffects(effects: Effects, tempo: number): void {
    if (this.wanted?.effects === effects && this.wanted.tempo === tempo) return;
    this.wanted = { effects, tempo };
    this.graph?.effects.set(effects, tempo);
  }

  /** Has the effects that keep to the beat follow another tempo, beats per minute. */
  setTempo(tempo: number): void {
    if (this.wanted) this.setEffects(this.wanted.effects, tempo);
  }

  /** Peak of the whole output over the last moments, linear; 0 while sound is off. */
  outputPeak(): number {
    if (!this.graph) return 0;
    this.graph.analyser.getFloatTimeDomainData(this.lately);
    let peak = 0;
    for (const sample of this.lately) peak = Math.max(peak, Math.abs(sample));
    return peak;
  }

  private async build(context: AudioContext): Promise<void> {
    await bringWorklet(context);
    const graph = new AudioGraph(context, this.memories, this.ways);
    this.graph = graph;
    if (this.wanted) graph.effects.set(this.wanted.effects, this.wanted.tempo);
    this.clicks.connect(context, graph.out);
    this.clock = new AudioClock(context.sampleRate);
    this.stood = { at: -1, since: performance.now() };
    clearInterval(this.comparing);
    this.comparing = setInterval(() => {
      this.compareClocks();
      this.noticeStandstill(context);
    }, CLOCKS_COMPARED);
    // A browser that was asleep reads on where it stopped; what found no room meanwhile is asked for anew.
    context.addEventListener('statechange', () => {
      // A device that is taken away interrupts; when it is back nobody else would go on.
      if (this.resting) return;
      if (context.state !== 'running' && this.state === 'on' && this.context === context)
        void context.resume().catch(() => undefined);
      if (context.state !== 'running' || this.commands.refused === 0) return;
      this.commands.refused = 0;
      this.commands.write(COMMAND.silence, 0);
      this.onBegun();
    });
    this.begin(graph);
  }

  /** A clock that stands still while it should run has lost its device: another context finds the one there is. */
  private noticeStandstill(context: AudioContext): void {
    const now = performance.now();
    if (context.state !== 'running' || context.currentTime !== this.stood.at) {
      this.stood = { at: context.currentTime, since: now };
      return;
    }
    if (now - this.stood.since > STANDS_STILL && this.context === context)
      this.mending ??= this.beginElsewhere(context).finally(() => (this.mending = null));
  }

  /** Leaves a context that has fallen silent for another, until one is found on which sound runs. */
  private async beginElsewhere(context: AudioContext): Promise<void> {
    const aWhile = () => new Promise((resolve) => setTimeout(resolve, TRIED_AGAIN));
    this.brokenOffBefore = this.brokenOff;
    this.brokenOffAtFirst = 0;
    for (;;) {
      // One whose device is gone may never answer that it is closed, and one without a device never that it runs.
      void context.close().catch(() => undefined);
      this.graph?.end();
      this.voicesPort = null;
      this.context = null;
      this.built = null;
      await Promise.race([this.open().catch(() => undefined), aWhile()]);
      const another = this.contextNow();
      const from = another?.currentTime ?? 0;
      await aWhile();
      // Another window plays meanwhile: whoever starts this one again goes on from here.
      if (this.resting) {
        this.rest();
        return;
      }
      if ((another?.currentTime ?? 0) > from) return;
      if (another) context = another;
    }
  }

  private contextNow(): AudioContext | null {
    return this.context;
  }

  /** Begins a worklet with what there is: the first one, or another in place of one that failed. */
  private begin(graph: AudioGraph): void {
    graph.end();
    // What was written for nobody is out of date; everything that should be true is written anew.
    this.commands.clear();
    this.commands.refused = 0;
    this.meters.fill(0);
    const port = graph.begin(() => {
      this.failedAt = performance.now();
      this.begin(graph);
    });
    this.voicesPort = port;
    for (const [slot, sound] of this.loaded) port.postMessage({ slot, sound });
    this.onBegun();
  }
}
