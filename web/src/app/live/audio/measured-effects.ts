import type { EffectName } from '@pentachord/core/model';
import { SharedEffects } from './shared-effects';

/** What each effect costs on this machine: seconds of rendering per second of sound. */
export async function measureEffects(): Promise<Record<EffectName, number>> {
  const empty = await timeToRender(null);
  const costOf = async (name: EffectName) => Math.max(0, (await timeToRender(name)) - empty);
  return {
    reverb: await costOf('reverb'),
    delay: await costOf('delay'),
    chorus: await costOf('chorus'),
  };
}

/** The quickest of three tries: what else the machine did meanwhile is not the effect's cost. */
async function timeToRender(name: EffectName | null): Promise<number> {
  const seconds = 2;
  let quickest = Infinity;
  for (let tries = 0; tries < 3; tries++) {
    const context = new OfflineAudioContext(2, seconds * 48_000, 48_000);
    const tone = new OscillatorNode(context, { frequency: 220 });
    if (name) tone.connect(new SharedEffects(context, context.destination).inputOf(name));
    else tone.connect(context.destination);
    tone.start();
    const begin = performance.now();
    await context.startRendering();
    quickest = Math.min(quickest, (performance.now() - begin) / 1000 / seconds);
  }
  return quickest;
}
