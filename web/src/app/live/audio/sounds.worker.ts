import { measureResponse } from '@pentachord/core/loudness';
import { planText, planZones, recipeOf, renderZone, type Zone } from '@pentachord/core/synthesis';
import { SoundCache, type KeptSound } from './sound-cache';
import { renderRequestSchema, type RenderAnswer } from './sound-messages';

// This scope is a worker's; the compiler sees it beside pages and would take `self` for a window.
const scope = globalThis as unknown as {
  postMessage(message: RenderAnswer, transfer?: Transferable[]): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<unknown>) => void): void;
};
/** Sounds are compared at middle C, or as near to it as they were made for. */
const MIDDLE_C = 60;
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
    const kept = await cache.find(hash);
    if (kept) {
      ready(id, kept);
      return;
    }
    const zones: Zone[] = [];
    for (const plan of plans) {
      zones.push(renderZone(plan));
      scope.postMessage({ kind: 'progress', recipe: id, done: zones.length, of: plans.length });
    }
    const { voicing, natural } = recipe;
    const reference = Math.min(natural.high, Math.max(natural.low, MIDDLE_C));
    const response = measureResponse({ voicing, zones }, reference);
    await cache.keep(hash, { zones, response });
    ready(id, { zones, response });
  } catch (error) {
    const problem = error instanceof Error ? error.message : String(error);
    scope.postMessage({ kind: 'failed', recipe: id, problem });
  }
}

function ready(recipe: string, { zones, response }: KeptSound): void {
  scope.postMessage({ kind: 'ready', recipe, zones, response }, buffersOf(zones));
}

async function hashOf(text: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

function buffersOf(zones: Zone[]): ArrayBuffer[] {
  const buffers = new Set(zones.flatMap((zone) => [zone.left.buffer, zone.right.buffer]));
  return [...buffers] as ArrayBuffer[];
}
