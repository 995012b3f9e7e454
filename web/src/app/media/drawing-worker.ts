/** A worker that reads one drawing. */
export function createDrawingWorker(): Worker {
  return new Worker(new URL('./drawing.worker', import.meta.url), { type: 'module' });
}
