import { LONGEST_SIDE } from './slot';
import { bad, good, type Result } from '../problem';
import type { Size } from '../geometry/box';

export interface RatioCandidate {
  readonly width: number;
  readonly height: number;
  /** How far its height is from the exact one, as a share: 0.0056 is 0.56 % too tall, negative too flat. */
  readonly error: number;
  /** What a page that fills the slot cuts away, in the slot's px. */
  readonly cut: number;
}

export interface RatioAnswer {
  /** The other side, exactly. */
  readonly exact: number;
  /** Whole pixels at the side that was given, best first. */
  readonly here: readonly RatioCandidate[];
  /** Whole pixels close by that come nearer the ratio, best first. */
  readonly near: readonly RatioCandidate[];
}

function candidate(slot: Size, width: number, height: number): RatioCandidate {
  const scale = Math.max(slot.width / width, slot.height / height);
  return {
    width,
    height,
    error: (height * slot.width) / (width * slot.height) - 1,
    cut: Math.max(width * scale - slot.width, height * scale - slot.height),
  };
}

const byError = (a: RatioCandidate, b: RatioCandidate) => Math.abs(a.error) - Math.abs(b.error);

/**
 * Another working size for the same slot, from its ratio and one side in px.
 * Fails with `ratio` where the side is not above 0 or either side would be beyond 8192 px.
 */
export function atRatio(slot: Size, side: 'width' | 'height', length: number): Result<RatioAnswer> {
  if (!Number.isFinite(length) || length <= 0) return bad('ratio', `The ${side} has to be a number of pixels above 0.`);
  const ratio = slot.width / slot.height;
  const other = (n: number) => (side === 'width' ? n / ratio : n * ratio);
  const exact = other(length);
  if (length > LONGEST_SIDE || exact > LONGEST_SIDE)
    return bad('ratio', `That would be more than ${LONGEST_SIDE} px on one side; browsers cannot paint it reliably.`);
  const pair = (given: number, whole: number) =>
    side === 'width' ? candidate(slot, given, whole) : candidate(slot, whole, given);
  const given = Math.max(1, Math.round(length));
  const around = (n: number) => [Math.floor(n) - 1, Math.floor(n), Math.ceil(n), Math.ceil(n) + 1];
  const wholes = (n: number) => [...new Set(around(n))].filter((w) => w >= 1);
  const here = wholes(other(given))
    .map((w) => pair(given, w))
    .sort(byError);
  const reach = Math.max(4, Math.round(given * 0.03));
  const near: RatioCandidate[] = [];
  for (let g = Math.max(1, given - reach); g <= Math.min(LONGEST_SIDE, given + reach); g++) {
    const best = pair(g, Math.max(1, Math.round(other(g))));
    if (g !== given && Math.abs(best.error) < Math.abs(here[0]!.error)) near.push(best);
  }
  return good({ exact, here, near: near.sort(byError).slice(0, 4) });
}
