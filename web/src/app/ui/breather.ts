/** For so long work goes on without a pause, ms: a frame has twice that. */
const SLICE = 8;

/** Lets others have their turn; where the browser can, without the 4 ms that timers in a row take at the least. */
const pause = (): Promise<void> => globalThis.scheduler?.yield?.() ?? new Promise((go) => setTimeout(go));

/** To be asked between pieces of long work: pauses once a slice of it is done, so that the page stays at hand. */
export function breather(): () => Promise<void> | undefined {
  let since = performance.now();
  return () => {
    if (performance.now() - since < SLICE) return undefined;
    return pause().then(() => {
      since = performance.now();
    });
  };
}
