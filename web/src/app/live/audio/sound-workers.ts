/** Workers that make sounds at the same time. */
export const SOUND_WORKERS = 2;

/** Workers that were started and are not taken yet. */
const started: Worker[] = [];
/** Those that could not start before somebody listened. */
const broken = new Set<Worker>();

/**
 * Starts the workers that make sounds. Called before anything is drawn: a worker begins only when the page has a moment for
 * it, and while the first view is drawn there is none for a second.
 */
export function startSoundWorkers(): void {
  while (started.length < SOUND_WORKERS) started.push(start());
}

/** A worker that makes sounds, one that runs already if there is one. */
export function takeSoundWorker(): Worker {
  const worker = started.pop();
  return worker && !broken.has(worker) ? worker : start();
}

function start(): Worker {
  const worker = new Worker(new URL('./sounds.worker', import.meta.url), { type: 'module' });
  worker.addEventListener('error', () => broken.add(worker), { once: true });
  return worker;
}
