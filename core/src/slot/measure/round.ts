import type { Box } from '../../geometry/box';
import type { Raster } from './raster';
import { ellipseCrossings, meanStep, stepAt } from './step';

interface Peak {
  readonly x: number;
  readonly y: number;
  readonly score: number;
}

const RAYS = 180;

/** Numbers that look random and are the same each time: mulberry32, public domain, from memory. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Where rays from the middle cross something like an edge: the three likeliest places on each. */
function peaksOnRays(raster: Raster, rough: Box, reach: number): Peak[][] {
  const [a, b] = [rough.width / 2, rough.height / 2];
  const [cx, cy] = [rough.x + a, rough.y + b];
  return Array.from({ length: RAYS }, (_, i) => {
    const t = (i / RAYS) * 2 * Math.PI;
    const [ux, uy] = [Math.cos(t), Math.sin(t)];
    const rim = 1 / Math.hypot(ux / a, uy / b);
    const found: Peak[] = [];
    const scores: number[] = [];
    const start = Math.max(4, rim - reach);
    for (let d = start; d <= rim + reach; d += 0.5) scores.push(stepAt(raster, cx + ux * d, cy + uy * d, -ux, -uy));
    for (let k = 1; k + 1 < scores.length; k++) {
      const score = scores[k]!;
      if (score < 0.25 || score < scores[k - 1]! || score <= scores[k + 1]!) continue;
      const d = start + k * 0.5;
      found.push({ x: cx + ux * d, y: cy + uy * d, score });
    }
    return found.sort((p, q) => q.score - p.score).slice(0, 3);
  });
}

/** The circle through three points; null where they lie on a line. */
function circle(p: Peak, q: Peak, r: Peak): { x: number; y: number; radius: number } | null {
  const d = 2 * (p.x * (q.y - r.y) + q.x * (r.y - p.y) + r.x * (p.y - q.y));
  if (Math.abs(d) < 1e-6) return null;
  const [pp, qq, rr] = [p, q, r].map((s) => s.x * s.x + s.y * s.y) as [number, number, number];
  const x = (pp * (q.y - r.y) + qq * (r.y - p.y) + rr * (p.y - q.y)) / d;
  const y = (pp * (r.x - q.x) + qq * (p.x - r.x) + rr * (q.x - p.x)) / d;
  return { x, y, radius: Math.hypot(p.x - x, p.y - y) };
}

export interface Round {
  readonly box: Box;
  /** How sure the outline is, 0 to 1. */
  readonly sure: number;
}

/**
 * Snaps a rough box to a circle or an upright ellipse: many guesses through
 * edges that rays from the middle meet, the one that most rays agree with
 * (random sample consensus, Fischler and Bolles 1981), then the whole device px
 * whose outline is most like an edge. Null where nothing round is there.
 */
export function snapRound(raster: Raster, rough: Box, reach: number): Round | null {
  // A rough drag around a small circle can be far from square; a true ellipse fits a circle badly.
  const circle = roundOf(raster, rough, reach, 1);
  const ratio = rough.width / rough.height;
  if (ratio > 0.74 && ratio < 1.35) return circle;
  const ellipse = roundOf(raster, rough, reach, ratio);
  return !circle || (ellipse && ellipse.sure > circle.sure) ? ellipse : circle;
}

/** As `snapRound`, for outlines `k` times as wide as high. */
function roundOf(raster: Raster, rough: Box, reach: number, k: number): Round | null {
  const rays = peaksOnRays(raster, rough, reach);
  const met = rays.flatMap((peaks, i) => (peaks.length ? [i] : []));
  if (met.length < RAYS / 4) return null;
  // An ellipse is a circle in a space that is drawn out by its ratio.
  const random = seeded(20_011);
  const pick = () => {
    const peaks = rays[met[Math.floor(random() * met.length)]!]!;
    return peaks[Math.floor(random() * random() * peaks.length)]!;
  };
  let best: { box: Box; votes: number } | null = null;
  const tolerance = k === 1 ? 1.2 : 2.5;
  for (let i = 0; i < 500; i++) {
    const squeezed = [pick(), pick(), pick()].map((p) => ({ ...p, x: p.x / k }));
    const c = circle(squeezed[0]!, squeezed[1]!, squeezed[2]!);
    if (!c || c.radius < 5) continue;
    const box = { x: (c.x - c.radius) * k, y: c.y - c.radius, width: 2 * c.radius * k, height: 2 * c.radius };
    if (Math.abs(box.width - rough.width) > 2.2 * reach || Math.abs(box.height - rough.height) > 2.2 * reach) continue;
    let votes = 0;
    for (const j of met) {
      const agrees = rays[j]!.find((p) => Math.abs(Math.hypot(p.x / k - c.x, p.y - c.y) - c.radius) < tolerance);
      if (agrees) votes += agrees.score;
    }
    if (!best || votes > best.votes) best = { box, votes };
  }
  if (!best || best.votes < RAYS * 0.18) return null;
  return climb(raster, best.box, k === 1);
}

const edges = (b: Box): [number, number, number, number] => [b.x, b.y, b.x + b.width, b.y + b.height];
const boxed = ([l, t, r, b]: readonly [number, number, number, number]): Box => ({
  x: l,
  y: t,
  width: r - l,
  height: b - t,
});

/** Moves the sides to the whole px at which the outline is most like an edge. */
function climb(raster: Raster, from: Box, isCircle: boolean): Round {
  const sureOf = (box: Box) => (box.width < 6 || box.height < 6 ? 0 : meanStep(raster, ellipseCrossings(box)));
  let now = edges(from).map(Math.round) as [number, number, number, number];
  if (isCircle) now[3] = now[1] + (now[2] - now[0]);
  let sure = sureOf(boxed(now));
  // A circle is moved and grown as a whole, so that it stays one; an ellipse side by side.
  const moves: readonly (readonly [number, number, number, number])[] = isCircle
    ? [
        [1, 0, 1, 0],
        [0, 1, 0, 1],
        [0, 0, 1, 1],
        [-1, -1, 0, 0],
        [0, -1, 1, 0],
        [-1, 0, 0, 1],
      ]
    : [
        [1, 0, 0, 0],
        [0, 1, 0, 0],
        [0, 0, 1, 0],
        [0, 0, 0, 1],
        [1, 0, 1, 0],
        [0, 1, 0, 1],
      ];
  for (let improved = true, turns = 0; improved && turns < 40; turns++) {
    improved = false;
    for (const move of moves)
      for (const sign of [2, 1, -1, -2]) {
        const next = now.map((v, i) => v + sign * move[i]!) as [number, number, number, number];
        const s = sureOf(boxed(next));
        if (s > sure + 1e-9) {
          now = next;
          sure = s;
          improved = true;
        }
      }
  }
  return { box: boxed(now), sure };
}
