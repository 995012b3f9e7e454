import { hitchhikersSSIM } from '@blazediff/ssim/hitchhikers-ssim';
import { converter } from 'culori';
import { linearOf } from '../colour/srgb';
import type { Box } from '../geometry/box';
import type { Pixels } from '../pixels/reduce';

/** Side of the parts that are looked at one by one, file px: about what the eye rests on at arm's length. */
export const PART = 32;
/** Side of a spot whose colour is averaged, file px: the eye mixes colours that lie closer together. */
const SPOT = 4;
/** Side of a window of the structure's measure, px of the halved picture. */
const WINDOW = 8;

/**
 * A part's structure is seen to differ below this SSIM. Common practice, no source: held against photographs and words
 * at qualities that are and are not told from the original (docs/decisions.md).
 */
export const SEEN_STRUCTURE = 0.975;
/**
 * A part's colours are seen to differ above this ΔE*ab, on average over its spots. Mahy, Van Eycken, Oosterlinck,
 * “Evaluation of uniform color spaces developed after the adoption of CIELAB and CIELUV”, 1994 (2.3; from memory).
 */
export const SEEN_COLOUR = 2.3;

/** Where a file differs from what it was made from, and how much. */
export interface PartDifference {
  /** The part, file px. */
  readonly box: Box;
  /** 1 where it can just be seen at 100 %, more where it is plainer. */
  readonly weight: number;
  /** SSIM of the part, 0 to 1. */
  readonly structure: number;
  /** ΔE*ab of its colours on average. */
  readonly colour: number;
}

/** How a file differs from the canvas. */
export interface FileDifference {
  /** SSIM over all of it, 1 where nothing differs. */
  readonly ssim: number;
  /** Whether it can be seen at 100 %, at any part. */
  readonly seen: boolean;
  /** The parts that differ most, the plainest first; none where nothing differs. At most three. */
  readonly worst: readonly PartDifference[];
}

const toLab = converter('lab65');

/** Luma (encoded sRGB, straight alpha gone) of each 2 × 2 px as grey RGBA, its sides filled up to whole windows. */
function halved({ width, height, data }: Pixels): Pixels {
  const half = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) };
  const whole = (n: number) => Math.ceil(n / WINDOW) * WINDOW;
  const out = { width: whole(half.width), height: whole(half.height) };
  const grey = new Uint8ClampedArray(out.width * out.height * 4).fill(255);
  for (let y = 0; y < out.height; y++)
    for (let x = 0; x < out.width; x++) {
      const [x0, y0] = [Math.min(2 * x, width - 1), Math.min(2 * y, height - 1)];
      const [x1, y1] = [Math.min(x0 + 1, width - 1), Math.min(y0 + 1, height - 1)];
      let sum = 0;
      for (const i of [y0 * width + x0, y0 * width + x1, y1 * width + x0, y1 * width + x1])
        sum += 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
      const at = 4 * (y * out.width + x);
      grey[at] = grey[at + 1] = grey[at + 2] = sum / 4;
    }
  return { ...out, data: grey };
}

/** CIELAB (D65) of the mean light of each spot: L, a, b one after the other. */
function spots({ width, height, data }: Pixels): { readonly across: number; readonly lab: Float32Array } {
  const [across, down] = [Math.ceil(width / SPOT), Math.ceil(height / SPOT)];
  const lab = new Float32Array(across * down * 3);
  for (let sy = 0; sy < down; sy++)
    for (let sx = 0; sx < across; sx++) {
      let [r, g, b, n] = [0, 0, 0, 0];
      for (let y = sy * SPOT; y < Math.min(height, (sy + 1) * SPOT); y++)
        for (let x = sx * SPOT; x < Math.min(width, (sx + 1) * SPOT); x++, n++) {
          const i = 4 * (y * width + x);
          r += linearOf[data[i]!]!;
          g += linearOf[data[i + 1]!]!;
          b += linearOf[data[i + 2]!]!;
        }
      const found = toLab({ mode: 'lrgb', r: r / n, g: g / n, b: b / n });
      lab.set([found.l, found.a, found.b], 3 * (sy * across + sx));
    }
  return { across, lab };
}

/** What of the canvas a file is held against, worked out once for all files of it. */
export interface Comparable {
  readonly width: number;
  readonly height: number;
  readonly grey: Pixels;
  readonly colours: ReturnType<typeof spots>;
}

/** Opaque pixels (encoded sRGB) made ready to be held against others of the same size. */
export function comparable(pixels: Pixels): Comparable {
  return { width: pixels.width, height: pixels.height, grey: halved(pixels), colours: spots(pixels) };
}

/**
 * How a file's pixels differ from those of the canvas, both opaque (encoded sRGB) and of one size. Structure is SSIM of
 * luma averaged over 2 × 2 px (Wang, Bovik, Sheikh, Simoncelli 2004, whose own program averages before it compares),
 * in windows as by Venkataramanan et al., “A Hitchhiker’s Guide to Structural Similarity”, 2021. Colour is ΔE*ab
 * (CIE 15, 1976) of spots. It can be seen where either passes its threshold in any part of 32 × 32 px.
 */
export function fileDifference(canvas: Comparable, file: Comparable): FileDifference {
  const { width, height, grey } = canvas;
  const map = new Uint8ClampedArray(grey.data.length);
  const ssim = hitchhikersSSIM(grey.data, file.grey.data, map, grey.width, grey.height, {
    windowSize: WINDOW,
    windowStride: WINDOW,
    covPooling: false,
  });
  // The map is in whole bytes, rounded down.
  const window = (wx: number, wy: number) => {
    const byte = map[4 * (wy * WINDOW * grey.width + wx * WINDOW)]!;
    return byte === 255 ? 1 : (byte + 0.5) / 255;
  };
  const perPart = PART / 2 / WINDOW;
  const perSide = PART / SPOT;
  const parts: PartDifference[] = [];
  for (let y = 0; y < height; y += PART)
    for (let x = 0; x < width; x += PART) {
      const box = { x, y, width: Math.min(PART, width - x), height: Math.min(PART, height - y) };
      const mean = (across: number, down: number, of: (i: number, j: number) => number) => {
        let sum = 0;
        for (let j = 0; j < down; j++) for (let i = 0; i < across; i++) sum += of(i, j);
        return sum / (across * down);
      };
      const windows = (side: number) => Math.min(perPart, Math.ceil(side / 2 / WINDOW));
      const structure = mean(windows(box.width), windows(box.height), (i, j) =>
        window((x / PART) * perPart + i, (y / PART) * perPart + j),
      );
      const { across, lab } = canvas.colours;
      const other = file.colours.lab;
      const inSpots = (side: number) => Math.min(perSide, Math.ceil(side / SPOT));
      const colour = mean(inSpots(box.width), inSpots(box.height), (i, j) => {
        const at = 3 * ((y / SPOT + j) * across + x / SPOT + i);
        return Math.hypot(lab[at]! - other[at]!, lab[at + 1]! - other[at + 1]!, lab[at + 2]! - other[at + 2]!);
      });
      const weight = Math.max((1 - structure) / (1 - SEEN_STRUCTURE), colour / SEEN_COLOUR);
      if (weight > 0) parts.push({ box, weight, structure, colour });
    }
  parts.sort((a, b) => b.weight - a.weight);
  return { ssim: Math.min(1, ssim), seen: (parts[0]?.weight ?? 0) > 1, worst: apart(parts) };
}

/** Rows that are compared at once: whole parts, so that a picture of any size takes little memory. */
export function bandRows(width: number): number {
  return Math.max(1, Math.floor(2e6 / width / PART)) * PART;
}

/** The difference of a picture from those of its bands, each `y` px from its top and so many rows high. */
export function joinedDifference(
  bands: readonly { readonly y: number; readonly rows: number; readonly difference: FileDifference }[],
): FileDifference {
  const rows = bands.reduce((n, b) => n + b.rows, 0);
  const parts = bands.flatMap(({ y, difference }) =>
    difference.worst.map((p) => ({ ...p, box: { ...p.box, y: p.box.y + y } })),
  );
  parts.sort((a, b) => b.weight - a.weight);
  return {
    ssim: bands.reduce((n, b) => n + b.difference.ssim * b.rows, 0) / rows,
    seen: bands.some((b) => b.difference.seen),
    worst: apart(parts),
  };
}

/** The first three that do not touch each other: three looks at one place show no more than one. */
function apart(parts: readonly PartDifference[]): PartDifference[] {
  const found: PartDifference[] = [];
  for (const p of parts) {
    const far = (q: PartDifference) => Math.max(Math.abs(p.box.x - q.box.x), Math.abs(p.box.y - q.box.y)) > PART;
    if (found.length < 3 && found.every(far)) found.push(p);
  }
  return found;
}

/** What a difference is for people, with the figures it was decided by. */
export function fileDifferenceText({ seen, ssim, worst }: FileDifference): string {
  const [most] = worst;
  if (!most || (ssim === 1 && most.weight === 0)) return 'The same as the canvas';
  const why =
    most.colour / SEEN_COLOUR > (1 - most.structure) / (1 - SEEN_STRUCTURE)
      ? `colours off by ΔE ${most.colour.toFixed(1)} where most`
      : `structure ${(most.structure * 100).toFixed(1)} % where least`;
  return seen ? `Can be seen at 100 %: ${why}` : `Looks the same: ${why}`;
}
