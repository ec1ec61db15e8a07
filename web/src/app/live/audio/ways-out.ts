import { LAYER_OUTPUTS, type LayerOutput } from '@pentachord/core/model';

/** Pairs of channels of the output device, counted from 0, by what is heard there; null to be heard with the main pair. */
export type OutputPairs = Readonly<Record<LayerOutput, number | null>>;

/** Everything on the first pair. */
export const ONE_PAIR: OutputPairs = { main: 0, second: null, third: null, fourth: null };

/** Gain of everything on its way out, so that a full mix keeps off the limiter. */
export const OUT_GAIN = 0.9;

/** The pair on which something is heard at a device of so many channels; null for with the main one, which is never nowhere. */
export function pairOf(pairs: OutputPairs, what: LayerOutput, channels: number): number | null {
  const isThere = (pair: number | null): pair is number => pair !== null && pair * 2 + 1 < channels;
  const main = isThere(pairs.main) ? pairs.main : 0;
  if (what === 'main') return main;
  const own = pairs[what];
  return isThere(own) && own !== main ? own : null;
}

/** Takes the main mix, and layers that leave alone, to pairs of the output device. */
export class WaysOut {
  private pairs = ONE_PAIR;
  private out: ChannelMergerNode | null = null;
  private main: ChannelSplitterNode | null = null;
  private master: GainNode | null = null;
  private others: { gain: GainNode; sides: ChannelSplitterNode }[] = [];

  /** Begins on a context: what comes `from` the limiter goes to the main pair of `out`, which takes a channel an input. */
  connect(
    context: BaseAudioContext,
    { master, from, out }: { master: GainNode; from: AudioNode; out: ChannelMergerNode },
  ): void {
    this.out = out;
    this.master = master;
    this.main = new ChannelSplitterNode(context, { numberOfOutputs: 2 });
    from.connect(this.main);
    this.others = LAYER_OUTPUTS.slice(1).map(() => ({
      gain: new GainNode(context, { gain: OUT_GAIN }),
      sides: new ChannelSplitterNode(context, { numberOfOutputs: 2 }),
    }));
    this.route();
  }

  /** Takes layers that leave alone from outputs of the worklet, `first` and the next. */
  connectFrom(worklet: AudioNode, first: number): void {
    this.others.forEach(({ gain }, i) => worklet.connect(gain, first + i));
  }

  /** Follows which pair carries what. */
  set(pairs: OutputPairs): void {
    this.pairs = pairs;
    this.route();
  }

  private route(): void {
    const { out, main, master, pairs } = this;
    if (!out || !main || !master) return;
    const channels = out.numberOfInputs;
    const lead = (sides: ChannelSplitterNode, pair: number) => {
      sides.connect(out, 0, pair * 2);
      sides.connect(out, 1, pair * 2 + 1);
    };
    main.disconnect();
    lead(main, pairOf(pairs, 'main', channels) ?? 0);
    this.others.forEach(({ gain, sides }, i) => {
      gain.disconnect();
      sides.disconnect();
      const pair = pairOf(pairs, LAYER_OUTPUTS[i + 1], channels);
      // With the main pair it goes through the limiter like everything else; the master has the same gain.
      gain.gain.value = pair === null ? 1 : OUT_GAIN;
      if (pair === null) gain.connect(master);
      else {
        gain.connect(sides);
        lead(sides, pair);
      }
    });
  }
}
