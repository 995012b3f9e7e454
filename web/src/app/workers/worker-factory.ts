/** A new pixel worker; a file of its own so that tests can put another in its place. */
export function createPixelWorker(): Worker {
  return new Worker(new URL('./pixel.worker', import.meta.url), { type: 'module' });
}

/** A worker that packs and unpacks archives; one a task. */
export function createArchiveWorker(): Worker {
  return new Worker(new URL('./archive.worker', import.meta.url), { type: 'module' });
}

/** A worker that reads one drawing. */
export function createDrawingWorker(): Worker {
  return new Worker(new URL('./drawing.worker', import.meta.url), { type: 'module' });
}
