import type { ClickSink } from '@pentachord/core/clock';
import type { ClickOutput, ShowClockSettings } from '@pentachord/core/model';
import { renderClick } from '@pentachord/core/synthesis';
import { gainFromDb, type Frame, type Seconds } from '@pentachord/core/units';

/** Channels of the way out on which a click is heard, counted from 0. */
const CHANNELS: Readonly<Record<ClickOutput, readonly number[]>> = {
  both: [0, 1],
  left: [0],
  right: [1],
  '3-4': [2, 3],
  '5-6': [4, 5],
  '7-8': [6, 7],
};

/** The click, on the outputs that were chosen for it. What is asked for before sound is on is not heard. */
export class ClickTrack implements ClickSink {
  private context: BaseAudioContext | null = null;
  private gain: GainNode | null = null;
  private out: ChannelMergerNode | null = null;
  private buffers: { first: AudioBuffer; other: AudioBuffer } | null = null;
  private wanted: ShowClockSettings['click'] | null = null;
  /** Clicks that have not ended yet, each with when it begins, seconds of the audio clock. */
  private readonly coming = new Map<AudioBufferSourceNode, Seconds>();

  /** @param frameAt the frame of the audio clock at a time; 0 while it is not known */
  constructor(private readonly frameAt: (time: Seconds) => Frame) {}

  /** Begins on a context; `out` takes one channel an input. */
  connect(context: BaseAudioContext, out: ChannelMergerNode): void {
    this.context = context;
    this.out = out;
    this.gain = new GainNode(context);
    const made = (isFirst: boolean) => {
      const samples = renderClick(context.sampleRate, isFirst);
      const buffer = context.createBuffer(1, samples.length, context.sampleRate);
      buffer.copyToChannel(Float32Array.from(samples), 0);
      return buffer;
    };
    this.buffers = { first: made(true), other: made(false) };
    this.route();
  }

  /** Follows how loud and where it is to be heard. */
  set(wanted: ShowClockSettings['click']): void {
    if (this.wanted === wanted) return;
    this.wanted = wanted;
    this.route();
  }

  click(at: Seconds, isFirst: boolean): void {
    const { context, gain, buffers } = this;
    const frame = this.frameAt(at);
    if (!context || !gain || !buffers || frame === 0) return;
    const buffer = isFirst ? buffers.first : buffers.other;
    const source = new AudioBufferSourceNode(context, { buffer });
    source.connect(gain);
    const when = frame / context.sampleRate;
    this.coming.set(source, when);
    source.onended = () => this.coming.delete(source);
    source.start(when);
  }

  callOff(): void {
    const now = this.context?.currentTime ?? 0;
    for (const [source, when] of this.coming) {
      // What sounds already dies away by itself.
      if (when <= now) continue;
      source.stop();
      this.coming.delete(source);
    }
  }

  private route(): void {
    const { gain, out, wanted } = this;
    if (!gain || !out || !wanted) return;
    gain.disconnect();
    gain.gain.value = gainFromDb(wanted.level);
    // A pair that this machine does not have is heard on both sides: a click in the hall is found, silence is not.
    const channels = CHANNELS[wanted.output].every((channel) => channel < out.numberOfInputs)
      ? CHANNELS[wanted.output]
      : CHANNELS.both;
    for (const channel of channels) gain.connect(out, 0, channel);
  }
}
