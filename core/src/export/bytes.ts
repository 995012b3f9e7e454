export type Bytes = Uint8Array<ArrayBuffer>;

/** Parts of a file one after the other. */
export function joined(...parts: (Uint8Array | readonly number[])[]): Bytes {
  const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    all.set(p, at);
    at += p.length;
  }
  return all;
}

/** The bytes of letters of ASCII. */
export const ascii = (text: string): Bytes => Uint8Array.from(text, (c) => c.charCodeAt(0));

/** Whole numbers as bytes, the highest or the lowest first. */
export const be16 = (n: number): number[] => [(n >> 8) & 255, n & 255];
export const be32 = (n: number): number[] => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
export const le32 = (n: number): number[] => be32(n).reverse();

/** A whole number out of four bytes, the lowest first. */
export const readLe32 = (b: Uint8Array, at: number): number =>
  (b[at]! | (b[at + 1]! << 8) | (b[at + 2]! << 16) | (b[at + 3]! << 24)) >>> 0;
