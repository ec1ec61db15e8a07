import type { Page } from '@playwright/test';
import {
  BUSES,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  METER,
  METERS,
  PAIRS,
} from '@pentachord/core/sampler';
import type { Result } from './table.js';

const VOICES = 64;
const SECONDS = 20;
const RATE = 48_000;

/** What a page needs to render the same notes in both ways. */
interface Trial {
  voices: number;
  seconds: number;
  rate: number;
  /** The commands that begin all voices, as the engine reads them. */
  ring: number[];
  meters: number;
  voiceMeter: number;
  outputs: number;
}

/**
 * The voice engine against the browser’s own buffer players, each with a low-pass and an envelope, rendering the same notes of
 * one mono recording offline: as the ratio of their times.
 */
export async function comparePlayers(page: Page): Promise<Result> {
  const memory = new ArrayBuffer(COMMAND_RING_BYTES);
  const ring = new CommandRing(memory);
  for (let voice = 0; voice < VOICES; voice++) {
    ring.write(COMMAND.level, 0, voice % 16, -18, 0);
    ring.write(COMMAND.start, 0, voice + 1, voice % 16, 0, 1, 0, 36 + (voice % 48), 100, 0.2, 0);
  }
  const trial: Trial = {
    voices: VOICES,
    seconds: SECONDS,
    rate: RATE,
    ring: [...new Uint8Array(memory)],
    meters: METERS,
    voiceMeter: METER.voices,
    outputs: 1 + BUSES + PAIRS,
  };
  const ratios: number[] = [];
  for (let run = 0; run < 5; run++) {
    const { ours, theirs, sounded } = await page.evaluate(renderBoth, trial);
    if (sounded !== VOICES) throw new Error(`${sounded} voices of the engine sounded`);
    ratios.push(ours / theirs);
  }
  ratios.sort((a, b) => a - b);
  return {
    what: `voice engine against the browser’s buffer players, ${VOICES} mono voices, median ratio`,
    value: ratios[2],
    goal: 0.6,
    unit: '',
  };
}

/** Runs in the page. */
async function renderBoth({ voices, seconds, rate, ring, meters, voiceMeter, outputs }: Trial) {
  const recording = Float32Array.from(
    { length: rate },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * 262 * i) / rate),
  );
  const timed = async (context: OfflineAudioContext) => {
    const begun = performance.now();
    await context.startRendering();
    return performance.now() - begun;
  };

  const engine = new OfflineAudioContext(2, rate * seconds, rate);
  await engine.audioWorklet.addModule('/worklet/voices.js');
  const commands = new SharedArrayBuffer(ring.length);
  new Uint8Array(commands).set(ring);
  const meterMemory = new SharedArrayBuffer(meters * 4);
  const node = new AudioWorkletNode(engine, 'pentachord-voices', {
    numberOfInputs: 0,
    numberOfOutputs: outputs,
    outputChannelCount: new Array<number>(outputs).fill(2),
    processorOptions: { commands, meters: meterMemory },
  });
  node.connect(engine.destination, 0);
  node.port.postMessage({
    slot: 0,
    sound: {
      voicing: { attack: 0.005, release: 0.2, dynamics: 20, brightness: 8000, darkening: 1 },
      zones: [
        {
          rootKey: 60,
          keys: { low: 0, high: 127 },
          velocities: { low: 1, high: 127 },
          sampleRate: rate,
          left: recording,
          right: recording,
          loopStart: 100,
          loopEnd: rate - 100,
          loopDecay: 0,
        },
      ],
    },
  });
  // The recording has to be there before the first block is rendered.
  await new Promise((then) => setTimeout(then, 200));
  const ours = await timed(engine);
  const sounded = new Float32Array(meterMemory)[voiceMeter];

  const native = new OfflineAudioContext(2, rate * seconds, rate);
  const buffer = new AudioBuffer({ length: rate, sampleRate: rate });
  buffer.copyToChannel(recording, 0);
  for (let voice = 0; voice < voices; voice++) {
    const source = new AudioBufferSourceNode(native, {
      buffer,
      loop: true,
      loopStart: 100 / rate,
      loopEnd: 1 - 100 / rate,
      playbackRate: 2 ** ((36 + (voice % 48) - 60) / 12),
    });
    const filter = new BiquadFilterNode(native, { type: 'lowpass', frequency: 6000, Q: 0 });
    const envelope = new GainNode(native, { gain: 0 });
    envelope.gain.setValueAtTime(0, 0);
    envelope.gain.linearRampToValueAtTime(0.2, 0.005);
    source.connect(filter).connect(envelope).connect(native.destination);
    source.start();
  }
  return { ours, theirs: await timed(native), sounded };
}
