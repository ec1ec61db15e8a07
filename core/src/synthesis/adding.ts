import { PARTIALS_CODE } from './generated/partials-code.js';

// As much of WebAssembly as is used: the core is compiled without the types of any platform.
declare const WebAssembly: {
  Module: new (code: Uint8Array) => object;
  Instance: new (module: object) => { exports: Exports };
};

/** What the compiled code gives; addresses in bytes. */
interface Exports {
  memory: { buffer: ArrayBuffer; grow: (pages: number) => number };
  recording: { value: number };
  add: (
    right: number,
    from: number,
    to: number,
    toLeft: number,
    toRight: number,
    y0: number,
    y1: number,
    twice: number,
    square: number,
    twiceOfFour: number,
  ) => void;
}

/** A sine from one sample to before another, which falls by a factor a sample. */
export interface Run {
  from: number;
  to: number;
  /** At sample 0, if it went that far back. */
  strength: number;
  /** Factor a sample, in (0, 1]. */
  fall: number;
  /** Radians at sample 0, and a sample. */
  phase: number;
  turning: number;
  toLeft: number;
  toRight: number;
}

const PAGE = 65536;
const BYTES = Float32Array.BYTES_PER_ELEMENT;
/** Samples that are worked out at a time; what is behind the end of a recording is worked out with its last. */
const FOUR = 4;

let exports: Exports | null = null;

/** Adds sines up, compiled to WebAssembly. Both sides are one array for a mono recording. */
export function addUp(
  runs: readonly Run[],
  length: number,
  stereo: boolean,
): [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] {
  exports ??= new WebAssembly.Instance(new WebAssembly.Module(PARTIALS_CODE)).exports;
  const { memory, recording, add } = exports;
  const side = Math.ceil(length / FOUR) * FOUR * BYTES;
  const needed = recording.value + side * (stereo ? 2 : 1);
  const missing = Math.ceil((needed - memory.buffer.byteLength) / PAGE);
  if (missing > 0) memory.grow(missing);
  const samples = (from: number) => new Float32Array(memory.buffer, recording.value + from, length);
  samples(0).fill(0);
  if (stereo) samples(side).fill(0);
  for (const { from, to, strength, fall, phase, turning, toLeft, toRight } of runs) {
    if (to <= from) continue;
    const first = from - (from % FOUR);
    const at = (n: number) => strength * fall ** n * Math.sin(phase + turning * n);
    add(
      stereo ? side : 0,
      from,
      to,
      toLeft,
      toRight,
      at(first),
      at(first + 1),
      2 * fall * Math.cos(turning),
      fall * fall,
      2 * fall ** FOUR * Math.cos(FOUR * turning),
    );
  }
  const left = samples(0).slice();
  return [left, stereo ? samples(side).slice() : left];
}
