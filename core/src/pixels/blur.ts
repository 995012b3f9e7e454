import { smoothed, type Field } from './luminance';

/** The two widths (σ, px) at which edges are looked at, and what a central difference adds to their variance. */
const NEAR = 1;
const FAR = 2;
const DIFFERENCE = 1 / 3;
/** An edge rises by so much a px (of 0…1) at the far width, at the least; weaker ones are noise. */
const RISE = 0.02;
/** Of the edges that are seen the sharpest so many count, … */
const SHARPEST = 0.1;
/** … of no fewer than so many. */
const LEAST_EDGES = 40;

/** How much a field rises at a place, a px. */
function rise({ data, width }: Field, at: number): [number, number] {
  return [(data[at + 1]! - data[at - 1]!) / 2, (data[at + width]! - data[at - width]!) / 2];
}

/**
 * How far each edge of a field (lightness or encoded values 0…1) is blurred, as the σ (px) of a Gaussian, told by how much
 * less steep it becomes when it is blurred further: after Zhuo and Sim, "Defocus map estimation from a single image",
 * Pattern Recognition 44 (2011), section 3, with both looks taken at a width, so that noise weighs less.
 */
export function edgeBlurs(field: Field): number[] {
  const found: number[] = [];
  const near = smoothed(field, NEAR);
  const far = smoothed(field, FAR);
  for (let y = 3; y < field.height - 3; y++)
    for (let x = 3; x < field.width - 3; x++) {
      const at = y * field.width + x;
      const [fx, fy] = rise(far, at);
      const steep = Math.hypot(fx, fy);
      if (steep < RISE) continue;
      // Only on the edge itself: steeper than its neighbours across it.
      const step = Math.abs(fx) > Math.abs(fy) ? 1 : field.width;
      const beside = [at - step, at + step].map((p) => Math.hypot(...rise(far, p)));
      if (beside.some((b) => b > steep)) continue;
      const ratio = Math.hypot(...rise(near, at)) / steep;
      const [n, f] = [NEAR ** 2 + DIFFERENCE, FAR ** 2 + DIFFERENCE];
      // steep ∝ 1/√(σ² + width²): solved for σ.
      found.push(ratio > 1.001 ? Math.sqrt(Math.max(0, (f - ratio ** 2 * n) / (ratio ** 2 - 1))) : 40);
    }
  return found;
}

/**
 * How far a picture is blurred (σ, px), of the blurs of its edges: the sharpest tenth decides, since what is out of focus
 * behind something sharp is meant. Null where there are too few edges to go by.
 */
export function sharpestBlur(edges: readonly number[]): number | null {
  if (edges.length < LEAST_EDGES) return null;
  const sorted = [...edges].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length * SHARPEST)]!;
}
