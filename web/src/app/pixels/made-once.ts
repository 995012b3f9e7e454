import { BitmapCache, type Closable } from './bitmap-cache';

/** What is made by key, and what is being made, so that nothing is made twice at once. */
export class MadeOnce<T extends Closable> {
  private readonly underWay = new Map<string, Promise<T>>();

  constructor(readonly made: BitmapCache<T>) {}

  async of(key: string, make: () => Promise<T>): Promise<T> {
    const known = this.made.get(key);
    if (known) return known;
    const going = this.underWay.get(key) ?? make().finally(() => this.underWay.delete(key));
    this.underWay.set(key, going);
    const found = await going;
    this.made.set(key, found);
    return found;
  }
}
