/** For so long work goes on without a pause, ms: a frame has twice that. */
const SLICE = 8;

/** Lets what waits have its turn and goes on before frames do: for work that what is on screen waits for. */
export const yieldTurn = (): Promise<void> => globalThis.scheduler?.yield?.() ?? framesFirst();

/** Lets frames come first; timers in a row leave 4 ms between them at the least. */
export const framesFirst = (): Promise<void> => new Promise((go) => setTimeout(go));

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
