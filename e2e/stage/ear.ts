import type { Page } from '@playwright/test';

/** A moment as it was heard. */
export interface Heard {
  /** Seconds of the audio clock. */
  at: number;
  /** Loudness of the last moment, dB below full scale; −120 for silence. */
  level: number;
  /** Largest sample of the last moment, linear. */
  peak: number;
}

interface Listening {
  analyser?: AnalyserNode;
  heard?: Heard[];
  worklet?: AudioWorkletNode;
}

/** Runs in every page before anything else: has an analyser hear whatever goes out to the loudspeakers. */
export function giveEar(): void {
  const connect = Reflect.get(AudioNode.prototype, 'connect') as (...all: unknown[]) => AudioNode;
  const listening = globalThis as unknown as Listening;
  AudioNode.prototype.connect = function (this: AudioNode, ...all: unknown[]) {
    const [to] = all;
    if (this instanceof AudioWorkletNode) listening.worklet = this;
    // What is measured offline goes out to nobody.
    if (to instanceof AudioDestinationNode && to.context instanceof AudioContext) {
      listening.analyser = new AnalyserNode(to.context, { fftSize: 1024 });
      connect.call(this, listening.analyser);
    }
    return connect.apply(this, all);
  };
}

/** Listens to the sound itself, whatever the page shows of it. */
export class Ear {
  constructor(private readonly page: Page) {}

  /** Begins to remember what is heard, frame by frame; over a window of so many samples, a power of two, where that is given. */
  async listen(window?: number): Promise<void> {
    await this.page.evaluate((size) => {
      const listening = globalThis as unknown as Listening;
      const { analyser } = listening;
      if (!analyser) throw new Error('nothing goes out to the loudspeakers');
      if (size) analyser.fftSize = size;
      const samples = new Float32Array(analyser.fftSize);
      const heard: Heard[] = (listening.heard = []);
      const hear = () => {
        analyser.getFloatTimeDomainData(samples);
        const power = samples.reduce((sum, s) => sum + s * s, 0) / samples.length;
        const peak = samples.reduce((most, s) => Math.max(most, Math.abs(s)), 0);
        const level = 10 * Math.log10(power + 1e-12);
        heard.push({ at: analyser.context.currentTime, level, peak });
        if (listening.heard === heard) requestAnimationFrame(hear);
      };
      hear();
    }, window);
  }

  /** Waits until so many seconds of sound have gone by: when the machine stalls, sound stalls with it. */
  async pass(seconds: number): Promise<void> {
    await this.page.evaluate(async (span) => {
      const context = (globalThis as unknown as Listening).analyser?.context;
      if (!context) throw new Error('nothing goes out to the loudspeakers');
      const until = context.currentTime + span;
      while (context.currentTime < until) await new Promise((then) => requestAnimationFrame(then));
    }, seconds);
  }

  /** Gives the audio thread sounds that it must stumble over with the next note. */
  async breakSounds(): Promise<void> {
    await this.page.evaluate(() => {
      const { worklet } = globalThis as unknown as Listening;
      if (!worklet) throw new Error('there is no worklet');
      const all = { low: 0, high: 127 };
      const zone = { rootKey: 60, keys: all, velocities: all, sampleRate: 48_000 };
      const sound = { voicing: {}, zones: [zone] };
      for (let slot = 0; slot < 32; slot++) worklet.port.postMessage({ slot, sound });
    });
  }

  /** All that was heard since {@link listen}. */
  async heard(): Promise<Heard[]> {
    return this.page.evaluate(() => (globalThis as unknown as Listening).heard ?? []);
  }

  /** Waits until it is louder than a level, dB below full scale. */
  async louder(level: number): Promise<void> {
    await this.page.waitForFunction((floor) => {
      const { heard } = globalThis as unknown as Listening;
      return (heard?.at(-1)?.level ?? -120) > floor;
    }, level);
  }

  /** Waits until it is softer than a level, and gives all that was heard since {@link listen}. */
  async softer(level: number): Promise<Heard[]> {
    await this.page.waitForFunction((ceiling) => {
      const { heard } = globalThis as unknown as Listening;
      return (heard?.at(-1)?.level ?? 0) < ceiling;
    }, level);
    return this.heard();
  }
}
