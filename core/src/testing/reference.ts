import type { Pixels } from '../pixels/reduce';
import { encoded } from '../colour/srgb';

/** Global-window SSIM on luma, 8 × 8 blocks. Wang et al. 2004, equation 13, with its constants. */
export function ssim(a: Pixels, b: Pixels): number {
  const luma = (p: Pixels, x: number, y: number) => {
    const i = (y * p.width + x) * 4;
    return 0.2126 * p.data[i]! + 0.7152 * p.data[i + 1]! + 0.0722 * p.data[i + 2]!;
  };
  let total = 0;
  let n = 0;
  for (let by = 0; by + 8 <= a.height; by += 4)
    for (let bx = 0; bx + 8 <= a.width; bx += 4) {
      let ma = 0;
      let mb = 0;
      for (let y = by; y < by + 8; y++)
        for (let x = bx; x < bx + 8; x++) {
          ma += luma(a, x, y) / 64;
          mb += luma(b, x, y) / 64;
        }
      let va = 0;
      let vb = 0;
      let cov = 0;
      for (let y = by; y < by + 8; y++)
        for (let x = bx; x < bx + 8; x++) {
          const da = luma(a, x, y) - ma;
          const db = luma(b, x, y) - mb;
          va += (da * da) / 63;
          vb += (db * db) / 63;
          cov += (da * db) / 63;
        }
      const c1 = 6.5025;
      const c2 = 58.5225;
      total += ((2 * ma * mb + c1) * (2 * cov + c2)) / ((ma * ma + mb * mb + c1) * (va + vb + c2));
      n++;
    }
  return total / n;
}

/** Lanczos-3 in linear light, double precision, pixel by pixel: slow and plain, to compare with. */
export function reference(
  source: Pixels,
  image: { x: number; y: number; width: number; height: number },
  out: { x: number; y: number; width: number; height: number },
): Pixels {
  const lin = (b: number) => (b / 255 <= 0.04045 ? b / 255 / 12.92 : ((b / 255 + 0.055) / 1.055) ** 2.4);
  const kernel = (x: number) =>
    x === 0 ? 1 : Math.abs(x) >= 3 ? 0 : (3 * Math.sin(Math.PI * x) * Math.sin((Math.PI * x) / 3)) / (Math.PI * x) ** 2;
  const taps = (length: number, start: number, extent: number, at: number) => {
    const per = length / extent;
    const stretch = Math.max(1, per);
    const centre = (at + 0.5 - start) * per;
    const list: [number, number][] = [];
    let sum = 0;
    for (let s = Math.ceil(centre - 3 * stretch - 0.5); s <= Math.floor(centre + 3 * stretch - 0.5); s++) {
      const w = kernel((s + 0.5 - centre) / stretch);
      list.push([Math.min(Math.max(s, 0), length - 1), w]);
      sum += w;
    }
    return list.map(([s, w]) => [s, w / sum] as const);
  };
  const linear = Float64Array.from(source.data, lin);
  const columns = Array.from({ length: out.width }, (_, x) => taps(source.width, image.x, image.width, out.x + x));
  const across = new Float64Array(source.height * out.width * 3);
  for (let y = 0; y < source.height; y++)
    for (let x = 0; x < out.width; x++)
      for (let c = 0; c < 3; c++)
        across[(y * out.width + x) * 3 + c] = columns[x]!.reduce(
          (s, [sx, w]) => s + w * linear[(y * source.width + sx) * 4 + c]!,
          0,
        );
  const data = new Uint8ClampedArray(out.width * out.height * 4);
  for (let y = 0; y < out.height; y++) {
    const rows = taps(source.height, image.y, image.height, out.y + y);
    for (let x = 0; x < out.width; x++) {
      for (let c = 0; c < 3; c++) {
        const v = rows.reduce((s, [sy, w]) => s + w * across[(sy * out.width + x) * 3 + c]!, 0);
        data[(y * out.width + x) * 4 + c] = Math.round(
          255 * Math.min(1, Math.max(0, encoded(Math.min(1, Math.max(0, v))))),
        );
      }
      data[(y * out.width + x) * 4 + 3] = 255;
    }
  }
  return { width: out.width, height: out.height, data };
}
