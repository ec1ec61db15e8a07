// A timer of a page slows down in the background; a worker's does not.
const scope = globalThis as unknown as {
  postMessage(message: null): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<unknown>) => void): void;
};
/** Milliseconds between ticks. */
const PERIOD = 4;
let timer: ReturnType<typeof setInterval> | null = null;

scope.addEventListener('message', ({ data }) => {
  if (timer !== null) clearInterval(timer);
  timer = data === true ? setInterval(() => scope.postMessage(null), PERIOD) : null;
});
