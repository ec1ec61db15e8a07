import {
  BLOCK,
  blockOutput,
  CommandRing,
  Limiter,
  VoiceEngine,
  type EngineOutput,
  type LoadedSound,
  type Stereo,
} from '@pentachord/core/sampler';

// The types of this global scope are in no standard library of the compiler.
declare const sampleRate: number;
declare const currentFrame: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(
  name: string,
  processor: new (options: { processorOptions: never }) => AudioWorkletProcessor,
): void;

/** Memory shared with the page. */
interface WorkletMemory {
  commands: SharedArrayBuffer;
  meters: SharedArrayBuffer;
  /** Sounds that have to be there before the first block, each with its slot. */
  loaded?: readonly (readonly [number, LoadedSound])[];
}

interface LoadMessage {
  slot: number;
  sound: LoadedSound;
}

/** Runs the voice engine on the audio thread: output 0 is the mix, the next go to the shared effects, the last are pairs. */
class VoicesProcessor extends AudioWorkletProcessor {
  private readonly engine: VoiceEngine;
  private readonly output: EngineOutput = blockOutput();

  constructor({ processorOptions }: { processorOptions: WorkletMemory }) {
    super();
    this.engine = new VoiceEngine(
      sampleRate,
      new CommandRing(processorOptions.commands),
      new Float32Array(processorOptions.meters),
    );
    for (const [slot, sound] of processorOptions.loaded ?? []) this.engine.load(slot, sound);
    this.port.onmessage = ({ data }: MessageEvent<LoadMessage>) =>
      this.engine.load(data.slot, data.sound);
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const { mix, buses, pairs } = this.output;
    mix.left = outputs[0][0];
    mix.right = outputs[0][1];
    for (let bus = 0; bus < buses.length; bus++) {
      buses[bus].left = outputs[bus + 1][0];
      buses[bus].right = outputs[bus + 1][1];
    }
    for (let pair = 0; pair < pairs.length; pair++) {
      pairs[pair].left = outputs[1 + buses.length + pair][0];
      pairs[pair].right = outputs[1 + buses.length + pair][1];
    }
    this.engine.render(this.output, currentFrame);
    return true;
  }
}

/** The last thing before the loudspeakers; `back` tells the page what share of the gain is held back. */
class LimiterProcessor extends AudioWorkletProcessor {
  private readonly limiter = new Limiter(sampleRate);
  private readonly back: Float32Array;
  private readonly from: Stereo = blockOutput().mix;
  private readonly into: Stereo = blockOutput().mix;
  private readonly silence = new Float32Array(BLOCK);

  constructor({ processorOptions }: { processorOptions: { back: SharedArrayBuffer } }) {
    super();
    this.back = new Float32Array(processorOptions.back);
  }

  process([input]: Float32Array[][], [output]: Float32Array[][]): boolean {
    // While nothing is connected there is nothing to hear; what was heard still comes out.
    this.from.left = input.at(0) ?? this.silence;
    this.from.right = input.at(1) ?? this.from.left;
    this.into.left = output[0];
    this.into.right = output[1];
    this.back[0] = this.limiter.render(this.from, this.into);
    return true;
  }
}

registerProcessor('pentachord-voices', VoicesProcessor);
registerProcessor('pentachord-limiter', LimiterProcessor);
