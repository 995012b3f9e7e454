import type { Closable } from '../bitmap-cache';

/**
 * Bitmaps that no cache holds any more. A job may still be drawing one, so they are closed when none is under way; and
 * what ties up the graphics memory until someone looks for it does not wait for the garbage collector.
 */
const retired: Closable[] = [];

export const retire = (bitmap: Closable): void => void retired.push(bitmap);

/** Closes what was let go; to be called when no job is under way. */
export function closeRetired(): void {
  for (const bitmap of retired.splice(0)) bitmap.close();
}
