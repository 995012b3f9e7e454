import { converter } from 'culori';
import { usualCutout } from '../appearance';
import { at, pixelsBy } from '../../testing/pixels';
import { random } from '../../testing/samples';
import { cutFlat } from './flat';
import { BAND, bandOf, GROUND } from './matte';

/** Those within BAND px of a cut, counted step by step from it: slow, and plain to see. */
function bandByHand(ground: Uint8Array, width: number): number[] {
  const height = ground.length / width;
  const kind = (x: number, y: number) => ground[y * width + x]! & GROUND;
  const beside = (i: number) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return [
      [x - 1, y],
      [x + 1, y],
      [x, y - 1],
      [x, y + 1],
    ].filter(([a, b]) => a! >= 0 && a! < width && b! >= 0 && b! < height) as [number, number][];
  };
  const all = new Set<number>();
  ground.forEach((g, i) => {
    if (beside(i).some(([x, y]) => kind(x, y) !== (g & GROUND))) all.add(i);
  });
  for (let step = 1; step < BAND; step++)
    for (const i of [...all]) for (const [x, y] of beside(i)) all.add(y * width + x);
  return [...all].sort((a, b) => a - b);
}

describe('the band along a cut', () => {
  it('is the same looked for four pixels at a time: 300 random cuts of all widths', () => {
    const r = random(31);
    for (let n = 0; n < 300; n++) {
      const [width, height] = [1 + Math.floor(r() * 23), 1 + Math.floor(r() * 17)];
      const patch = 1 + Math.floor(r() * 6);
      const kinds = Uint8Array.from({ length: 600 }, () => Math.floor(r() * 4));
      const ground = Uint8Array.from({ length: width * height }, (_, i) => {
        const [x, y] = [i % width, Math.floor(i / width)];
        return kinds[Math.floor(y / patch) * 24 + Math.floor(x / patch)]!;
      });
      expect([...bandOf(ground, width)].sort((a, b) => a - b)).toEqual(bandByHand(ground, width));
    }
  });

  it('is empty where all is of one kind', () => {
    for (const kind of [0, 1, 2, 3]) expect(bandOf(new Uint8Array(64).fill(kind), 8)).toHaveLength(0);
  });
});

describe('a flat ground', () => {
  const oklab = converter('oklab');
  const far = (a: readonly number[], b: readonly number[]) => {
    const [p, q] = [a, b].map(([r, g, b]) => oklab({ mode: 'rgb', r: r! / 255, g: g! / 255, b: b! / 255 }));
    return 100 * Math.hypot(p!.l - q!.l, p!.a - q!.a, p!.b - q!.b);
  };

  it('goes as far as the border leads, and nowhere else: 60 random patchworks, OKLab by culori', () => {
    const r = random(32);
    let [gone, stayed, shut] = [0, 0, 0];
    for (let n = 0; n < 60; n++) {
      const [cell, cols, rows] = [12, 3 + Math.floor(r() * 5), 3 + Math.floor(r() * 4)];
      const tolerance = 2 + r() * 14;
      const paper = [200 + r() * 55, 200 + r() * 55, 200 + r() * 55].map(Math.round) as [number, number, number];
      const others = [0, 1, 2, 3].map(() => paper.map((c) => Math.round(c - r() * 90)) as [number, number, number]);
      // So near the limit that rounding decides is no matter of this test.
      const palette = [paper, ...others.filter((c) => Math.abs(far(c, paper) - tolerance) > 0.2)];
      const cells = Array.from({ length: cols * rows }, () => Math.floor(r() * palette.length));
      const picture = pixelsBy(cols * cell, rows * cell, (x, y) => {
        const edge = x === 0 || y === 0 || x === cols * cell - 1 || y === rows * cell - 1;
        return edge ? paper : palette[cells[Math.floor(y / cell) * cols + Math.floor(x / cell)]!]!;
      });
      const like = cells.map((c) => far(palette[c]!, paper) <= tolerance);
      const open = new Set<number>();
      const visit = (x: number, y: number) => {
        const i = y * cols + x;
        if (x < 0 || y < 0 || x >= cols || y >= rows || open.has(i) || !like[i]) return;
        open.add(i);
        for (const [a, b] of [
          [x - 1, y],
          [x + 1, y],
          [x, y - 1],
          [x, y + 1],
        ] as const)
          visit(a, b);
      };
      for (let x = 0; x < cols; x++) for (const y of [0, rows - 1]) visit(x, y);
      for (let y = 0; y < rows; y++) for (const x of [0, cols - 1]) visit(x, y);
      const colour = `#${paper.map((c) => c.toString(16).padStart(2, '0')).join('')}`;
      const cut = cutFlat(picture, { ...usualCutout, colour, tolerance });
      cells.forEach((c, i) => {
        const [x, y] = [((i % cols) + 0.5) * cell, (Math.floor(i / cols) + 0.5) * cell];
        const [red, green, blue, alpha] = at(cut, x, y);
        if (open.has(i)) {
          gone++;
          expect(alpha).toBe(0);
        } else {
          stayed++;
          if (like[i]) shut++;
          expect([red, green, blue, alpha]).toEqual([...palette[c]!, 255]);
        }
      });
    }
    expect(Math.min(gone, stayed, shut)).toBeGreaterThan(30);
  });
});
