// The types of this global scope are in no standard library of the compiler.
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

/** Frames that are handed over together. */
const PART = 1536;

/** Hands what comes in over to the page, in parts. */
class RecorderProcessor extends AudioWorkletProcessor {
  private parts: Float32Array[] = [];
  private filled = 0;

  process([input]: Float32Array[][]): boolean {
    if (input.length === 0) return true;
    if (this.filled === 0) this.parts = input.map(() => new Float32Array(PART));
    input.forEach((samples, side) => this.parts.at(side)?.set(samples, this.filled));
    this.filled += input[0].length;
    if (this.filled < PART) return true;
    this.port.postMessage(this.parts);
    this.filled = 0;
    return true;
  }
}

registerProcessor('pentachord-recorder', RecorderProcessor);
