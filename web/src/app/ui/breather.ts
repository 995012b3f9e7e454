/** For so long work goes on without a pause, ms: a frame has twice that. */
const SLICE = 8;

/** Timers in a row leave 4 ms between them at the least. */
const timer = (): Promise<void> => new Promise((go) => setTimeout(go));

/** Lets what waits have its turn and goes on before frames do: for work that what is on screen waits for. */
export const yieldTurn = (): Promise<void> => globalThis.scheduler?.yield?.() ?? timer();

/** Whether there is a page that is not seen. */
const outOfSight = () => (globalThis as { document?: { hidden: boolean } }).document?.hidden === true;

/** Lets frames come first, where there are any: out of sight a browser holds timers back by a second and more. */
export const framesFirst = (): Promise<void> => (outOfSight() ? yieldTurn() : timer());

/** To be asked between pieces of long work: pauses once a slice of it is done, so that the page stays at hand. */
export function breather(pause: () => Promise<unknown>): () => Promise<void> | undefined {
  let since = performance.now();
  return () => {
    if (performance.now() - since < SLICE) return undefined;
    return pause().then(() => {
      since = performance.now();
    });
  };
}
