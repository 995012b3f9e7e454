/** A new pixel worker; a file of its own so that tests can put another in its place. */
export function createPixelWorker(): Worker {
  return new Worker(new URL('./pixel.worker', import.meta.url), { type: 'module' });
}
