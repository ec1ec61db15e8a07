import { isWide, type Samples, type Zone } from '../synthesis/zone.js';
import { BLOCK } from './block.js';
import { INNER_LOOP_CODE } from './generated/inner-loop-code.js';

// As much of WebAssembly as is used: the core is compiled without the types of any platform.
declare const WebAssembly: {
  Module: new (code: Uint8Array) => object;
  Instance: new (module: object) => { exports: Exports };
};

/** What the compiled code gives; addresses in bytes. */
interface Exports {
  memory: { buffer: ArrayBuffer };
  WINDOW: { value: number };
  windowLeft: { value: number };
  windowRight: { value: number };
  both: { value: number };
  left: { value: number };
  right: { value: number };
  filters: { value: number };
  way: { value: number };
  run: (wide: boolean, voice: number, from: number, frames: number) => void;
}

/** Where voices are mixed: what is the same left and right, and what is not. */
export interface VoiceMix {
  both: Float32Array;
  left: Float32Array;
  right: Float32Array;
}

/** Places in the way that frames go: where in the recording and how fast, its low-passes (0–1), its strength. */
export const WAY = { position: 0, step: 1, smoothing: 2, envelope: 3, rise: 4, factor: 5 } as const;

/** Frames of four that are worked out at a time, and samples beyond the last that interpolation looks at. */
const SPARE = 4;

/**
 * The innermost loop, compiled to WebAssembly (four frames at a time), and the memory it works in. Recordings stay outside:
 * the few samples that a run plays are copied in, so that a sound of any size is taken up without waiting.
 */
export class InnerLoop {
  readonly mix: VoiceMix;
  /** What the low-passes of each voice keep: two numbers left, two right. */
  readonly filters: Float32Array;
  /** How the frames being rendered go, see {@link WAY}: a fraction that one function hands to another would be an object. */
  readonly way: Float64Array;
  private readonly exports: Exports;
  private readonly windowLeft: Float32Array;
  private readonly windowRight: Float32Array;
  private readonly size: number;

  /** @param voices how many there can be */
  constructor(voices: number) {
    this.exports = new WebAssembly.Instance(new WebAssembly.Module(INNER_LOOP_CODE)).exports;
    const { memory, WINDOW, windowLeft, windowRight, both, left, right, filters, way } =
      this.exports;
    const view = ({ value }: { value: number }, length: number) =>
      new Float32Array(memory.buffer, value, length);
    this.size = WINDOW.value;
    this.windowLeft = view(windowLeft, this.size);
    this.windowRight = view(windowRight, this.size);
    this.mix = { both: view(both, BLOCK), left: view(left, BLOCK), right: view(right, BLOCK) };
    this.filters = view(filters, voices * 4);
    this.way = new Float64Array(memory.buffer, way.value, 6);
  }

  /** The most frames that one run can have with the step in its {@link way}; none of them is more than a block. */
  mostFrames(): number {
    const frames = Math.min(BLOCK, this.size / this.way[WAY.step] - 2 * SPARE);
    return Math.max(0, frames) | 0;
  }

  /**
   * Adds frames of a voice to the mix, all in the midst of its recording, as {@link way} says. Frame n has the strength
   * (envelope + rise · (n + 1)) · factorⁿ.
   */
  run(
    voice: number,
    zone: Pick<Zone, 'left' | 'right' | 'scale'>,
    from: number,
    frames: number,
  ): void {
    const { way } = this;
    const { left, right, scale } = zone;
    const position = way[WAY.position];
    const step = way[WAY.step];
    // Whole numbers that are known to be small are no objects.
    const first = (position | 0) - 1;
    const count = ((position + step * frames) | 0) + SPARE - first;
    const wide = isWide(zone);
    take(left, first, count, this.windowLeft, scale, 0);
    if (wide) take(right, first, count, this.windowRight, scale, 1);
    way[WAY.position] = position - first;
    this.exports.run(wide, voice, from, frames);
  }
}

/** Each kind of samples has a loop of its own, so that each stays a plain one. Whole numbers come with a scale. */
function take(
  samples: Samples,
  first: number,
  count: number,
  window: Float32Array,
  scale: Float64Array | undefined,
  side: 0 | 1,
): void {
  if (!scale) copy(samples as Float32Array, first, count, window);
  else if (samples instanceof Int16Array) copyWhole(samples, first, count, window, scale, side);
  else copyScaled(samples, first, count, window, scale, side);
}

function copyWhole(
  samples: Int16Array,
  first: number,
  count: number,
  window: Float32Array,
  scale: Float64Array,
  side: 0 | 1,
): void {
  const there = Math.min(count, samples.length - first);
  const factor = scale[side];
  for (let i = 0; i < there; i++) window[i] = samples[first + i] * factor;
}

function copyScaled(
  samples: Float32Array,
  first: number,
  count: number,
  window: Float32Array,
  scale: Float64Array,
  side: 0 | 1,
): void {
  const there = Math.min(count, samples.length - first);
  const factor = scale[side];
  for (let i = 0; i < there; i++) window[i] = samples[first + i] * factor;
}

/** Copies samples to the beginning of a window, four at a turn: a third quicker than one by one, and nothing is allocated. */
function copy(samples: Float32Array, first: number, count: number, window: Float32Array): void {
  // Beyond the end there is nothing, which would be an object too; nobody listens to what stands there instead.
  const there = Math.min(count, samples.length - first);
  const fours = there & ~3;
  for (let i = 0; i < fours; i += 4) {
    window[i] = samples[first + i];
    window[i + 1] = samples[first + i + 1];
    window[i + 2] = samples[first + i + 2];
    window[i + 3] = samples[first + i + 3];
  }
  for (let i = fours; i < there; i++) window[i] = samples[first + i];
}
