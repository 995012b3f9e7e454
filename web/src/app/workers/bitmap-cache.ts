/** Bitmaps by key, within a budget of pixels: what was used longest ago goes first, never what came last. */
export class BitmapCache {
  private readonly held = new Map<string, ImageBitmap>();

  constructor(private readonly budget: number) {}

  has(key: string): boolean {
    return this.held.has(key);
  }

  /** A bitmap, which counts as used now. */
  get(key: string): ImageBitmap | undefined {
    const found = this.held.get(key);
    if (found) {
      this.held.delete(key);
      this.held.set(key, found);
    }
    return found;
  }

  set(key: string, bitmap: ImageBitmap): void {
    this.held.delete(key);
    this.held.set(key, bitmap);
    let pixels = 0;
    for (const [other, b] of [...this.held].reverse()) {
      pixels += b.width * b.height;
      if (pixels > this.budget && other !== key) this.held.delete(other);
    }
  }
}
