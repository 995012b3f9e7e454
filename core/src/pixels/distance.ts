/** Stands for "no such pixel"; large, and safe to square and add. */
const FAR = 1e10;

/**
 * Squared distance, in px, of each pixel to the nearest one that `solid` marks.
 * Felzenszwalb and Huttenlocher, "Distance Transforms of Sampled Functions",
 * Theory of Computing 8 (2012), section 2.
 */
export function squaredDistances(solid: Uint8Array, width: number, height: number): Float32Array {
  const grid = Float32Array.from(solid, (s) => (s ? 0 : FAR));
  const n = Math.max(width, height);
  const f = new Float64Array(n);
  const vertex = new Int32Array(n);
  const border = new Float64Array(n + 1);
  const line = (length: number, start: number, step: number) => {
    for (let q = 0; q < length; q++) f[q] = grid[start + q * step]!;
    let k = 0;
    vertex[0] = 0;
    border[0] = -Infinity;
    border[1] = Infinity;
    const meet = (q: number, v: number) => (f[q]! + q * q - f[v]! - v * v) / (2 * (q - v));
    for (let q = 1; q < length; q++) {
      let s = meet(q, vertex[k]!);
      while (s <= border[k]!) {
        k--;
        s = meet(q, vertex[k]!);
      }
      k++;
      vertex[k] = q;
      border[k] = s;
      border[k + 1] = Infinity;
    }
    k = 0;
    for (let q = 0; q < length; q++) {
      while (border[k + 1]! < q) k++;
      const v = vertex[k]!;
      grid[start + q * step] = (q - v) * (q - v) + f[v]!;
    }
  };
  for (let x = 0; x < width; x++) line(height, x, width);
  for (let y = 0; y < height; y++) line(width, y * width, 1);
  return grid;
}
