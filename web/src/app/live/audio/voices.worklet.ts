import {
  CommandRing,
  VoiceEngine,
  type EngineOutput,
  type LoadedSound,
} from '@pentachord/core/sampler';

// The types of this global scope are in no standard library of the compiler.
declare const sampleRate: number;
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

/** Runs the voice engine on the audio thread: output 0 is the mix, output 1 goes to the reverb. */
class VoicesProcessor extends AudioWorkletProcessor {
  private readonly engine: VoiceEngine;
  private readonly output: EngineOutput;

  constructor({ processorOptions }: { processorOptions: WorkletMemory }) {
    super();
    const empty = new Float32Array(128);
    this.output = { left: empty, right: empty, reverbLeft: empty, reverbRight: empty };
    this.engine = new VoiceEngine(
      sampleRate,
      new CommandRing(processorOptions.commands),
      new Float32Array(processorOptions.meters),
    );
    this.port.onmessage = ({ data }: MessageEvent<LoadMessage>) =>
      this.engine.load(data.slot, data.sound);
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    this.output.left = outputs[0][0];
    this.output.right = outputs[0][1];
    this.output.reverbLeft = outputs[1][0];
    this.output.reverbRight = outputs[1][1];
    this.engine.render(this.output);
    return true;
  }
}

registerProcessor('pentachord-voices', VoicesProcessor);
