/** Where files of ours are kept for when the server is gone; code stands in the browser's own cache, under names with a digest. */
export const AHEAD = 'bright-slot-ahead';

/**
 * A file of Bright Slot's own: from the server, or as it was fetched ahead where that does not answer. Rejects where
 * neither has it.
 */
export async function ownFile(path: string): Promise<Response> {
  const address = new URL(path, self.location.origin);
  try {
    return await fetch(address);
  } catch (error) {
    const kept =
      'caches' in self ? await caches.match(address, { cacheName: AHEAD }).catch(() => undefined) : undefined;
    if (kept) return kept;
    throw error;
  }
}
