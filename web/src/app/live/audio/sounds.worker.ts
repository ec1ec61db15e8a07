import { planText, planZones, recipeOf, renderZone, type Zone } from '@pentachord/core/synthesis';
import { SoundCache } from './sound-cache';
import { renderRequestSchema, type RenderAnswer } from './sound-messages';

// This scope is a worker's; the compiler sees it beside pages and would take `self` for a window.
const scope = globalThis as unknown as {
  postMessage(message: RenderAnswer, transfer?: Transferable[]): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<unknown>) => void): void;
};
const cache = new SoundCache();
let queue = Promise.resolve();

scope.addEventListener('message', (event) => {
  const request = renderRequestSchema.safeParse(event.data);
  if (request.success) queue = queue.then(() => provide(request.data.recipe));
});

async function provide(id: string): Promise<void> {
  try {
    const recipe = recipeOf(id);
    if (!recipe) throw new Error(`there is no house sound “${id}”`);
    const plans = planZones(recipe);
    const hash = await hashOf(planText(plans));
    let zones = await cache.find(hash);
    if (!zones) {
      zones = [];
      for (const plan of plans) {
        zones.push(renderZone(plan));
        scope.postMessage({ kind: 'progress', recipe: id, done: zones.length, of: plans.length });
      }
      await cache.keep(hash, zones);
    }
    scope.postMessage({ kind: 'ready', recipe: id, zones }, buffersOf(zones));
  } catch (error) {
    const problem = error instanceof Error ? error.message : String(error);
    scope.postMessage({ kind: 'failed', recipe: id, problem });
  }
}

async function hashOf(text: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

function buffersOf(zones: Zone[]): ArrayBuffer[] {
  const buffers = new Set(zones.flatMap((zone) => [zone.left.buffer, zone.right.buffer]));
  return [...buffers] as ArrayBuffer[];
}
