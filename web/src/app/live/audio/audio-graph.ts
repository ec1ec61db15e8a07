import { BUSES, PAIRS, type LoadedSound } from '@pentachord/core/sampler';
import { SharedEffects } from './shared-effects';
import { OUT_GAIN, type WaysOut } from './ways-out';

/** Samples that are looked at behind the limiter: some 170 ms. */
export const LOOKED_AT = 8192;

/** Memory that the audio thread shares with the page. */
export interface AudioMemories {
  commands: SharedArrayBuffer | ArrayBuffer;
  meters: SharedArrayBuffer | ArrayBuffer;
  /** One float: the share by which the limiter holds the whole back. */
  heldBack: SharedArrayBuffer | ArrayBuffer;
}

/** Brings the voice engine and the limiter to a context; before its {@link AudioGraph} is made. */
export async function bringWorklet(context: BaseAudioContext): Promise<void> {
  await context.audioWorklet.addModule('worklet/voices.js');
}

/**
 * Everything that sound goes through, on any context: one that plays, or one that renders without being heard.
 *
 * [voices] ─┬─► master ─► [limiter] ─► analyser ─► ways out ─► destination
 *           └─► reverb, delay, chorus ─┘
 */
export class AudioGraph {
  readonly effects: SharedEffects;
  readonly analyser: AnalyserNode;
  /** The node by which everything leaves, a channel an input: what joins here goes past the limiter. */
  readonly out: ChannelMergerNode;
  private readonly master: GainNode;
  private voices: AudioWorkletNode | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly memories: AudioMemories,
    private readonly ways: WaysOut,
  ) {
    this.master = new GainNode(context, { gain: OUT_GAIN });
    this.analyser = new AnalyserNode(context, { fftSize: LOOKED_AT, smoothingTimeConstant: 0.3 });
    this.effects = new SharedEffects(context, this.master);
    this.limit();
    const { destination } = context;
    const channels = Math.max(2, destination.maxChannelCount);
    // One that renders has the channels that it was made with, and refuses to be told.
    if (destination.channelCount !== channels) destination.channelCount = channels;
    destination.channelInterpretation = channels > 2 ? 'discrete' : 'speakers';
    this.out = new ChannelMergerNode(context, { numberOfInputs: channels });
    ways.connect(context, { master: this.master, from: this.analyser, out: this.out });
    this.out.connect(destination);
  }

  /** Begins voices that know only these sounds, in place of those before; `failed` is told when they break down. */
  begin(failed: () => void, loaded: readonly (readonly [number, LoadedSound])[] = []): MessagePort {
    this.end();
    const node = new AudioWorkletNode(this.context, 'pentachord-voices', {
      numberOfInputs: 0,
      numberOfOutputs: 1 + BUSES + PAIRS,
      outputChannelCount: new Array<number>(1 + BUSES + PAIRS).fill(2),
      processorOptions: {
        ...{ commands: this.memories.commands, meters: this.memories.meters, loaded },
      },
    });
    // The property: a listener that is added is not called by every browser.
    node.onprocessorerror = failed;
    node.connect(this.master, 0);
    this.ways.connectFrom(node, 1 + BUSES);
    this.effects.connectFrom(node);
    this.voices = node;
    return node.port;
  }

  /** Hears the voices no more. */
  end(): void {
    this.voices?.disconnect();
    this.voices = null;
  }

  private limit(): void {
    const limiter = new AudioWorkletNode(this.context, 'pentachord-limiter', {
      outputChannelCount: [2],
      processorOptions: { back: this.memories.heldBack },
    });
    limiter.onprocessorerror = () => {
      // Better too loud than silent.
      limiter.disconnect();
      this.master.connect(this.analyser);
    };
    this.master.connect(limiter).connect(this.analyser);
  }
}
