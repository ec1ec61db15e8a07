import {
  blockOutput,
  CommandRing,
  VoiceEngine,
  type EngineOutput,
  type LoadedSound,
} from '@pentachord/core/sampler';

// The types of this global scope are in no standard library of the compiler.
declare const sampleRate: number;
declare const currentFrame: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(
  name: string,
  processor: new (options: { processorOptions: WorkletMemory }) => AudioWorkletProcessor,
): void;

/** Memory shared with the page. */
interface WorkletMemory {
  commands: SharedArrayBuffer;
  meters: SharedArrayBuffer;
}

interface LoadMessage {
  slot: number;
  sound: LoadedSound;
}

/** Runs the voice engine on the audio thread: output 0 is the mix, the others go to the shared effects. */
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
    this.port.onmessage = ({ data }: MessageEvent<LoadMessage>) =>
      this.engine.load(data.slot, data.sound);
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const { mix, buses } = this.output;
    mix.left = outputs[0][0];
    mix.right = outputs[0][1];
    for (let bus = 0; bus < buses.length; bus++) {
      buses[bus].left = outputs[bus + 1][0];
      buses[bus].right = outputs[bus + 1][1];
    }
    this.engine.render(this.output, currentFrame);
    return true;
  }
}

registerProcessor('pentachord-voices', VoicesProcessor);
