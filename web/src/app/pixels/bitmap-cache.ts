import { LRUCache } from 'lru-cache';

/** What holds memory until it is closed. */
export interface Closable {
  readonly width: number;
  readonly height: number;
  close(): void;
}

/**
 * Bitmaps, or what else holds pixels, by key, within a budget of pixels: what was used longest ago goes first, never what came last. What goes is
 * given to `retire`, which closes it when nobody can be using it any more; at once unless told otherwise.
 */
export class BitmapCache<T extends Closable = ImageBitmap> {
  private readonly held: LRUCache<string, T>;
  /** The bitmap that is being taken out by someone who goes on using it. */
  private taken: T | undefined;

  constructor(
    budget: number,
    private readonly retire: (bitmap: T) => void = (bitmap) => bitmap.close(),
  ) {
    this.held = new LRUCache<string, T>({
      maxSize: budget,
      // One that is larger than all of the budget takes all of it.
      sizeCalculation: (b) => Math.max(1, Math.min(budget, b.width * b.height)),
      dispose: (bitmap) => {
        if (bitmap !== this.taken) this.retire(bitmap);
      },
    });
  }

  has(key: string): boolean {
    return this.held.has(key);
  }

  /** A bitmap, which counts as used now. */
  get(key: string): T | undefined {
    return this.held.get(key);
  }

  set(key: string, bitmap: T): void {
    if (this.held.peek(key) !== bitmap) this.held.set(key, bitmap);
  }

  /** Takes a bitmap out without closing it. */
  take(key: string): T | undefined {
    const found = this.held.get(key);
    if (!found) return undefined;
    this.taken = found;
    this.held.delete(key);
    this.taken = undefined;
    return found;
  }

  clear(): void {
    this.held.clear();
  }
}
