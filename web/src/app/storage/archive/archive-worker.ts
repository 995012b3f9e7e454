/** A worker that packs and unpacks archives; one a task. */
export function createArchiveWorker(): Worker {
  return new Worker(new URL('./archive.worker', import.meta.url), { type: 'module' });
}
