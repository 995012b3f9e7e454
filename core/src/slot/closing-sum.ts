import { figure } from './slot';

const PLACES = 3;
const SCALE = 10 ** PLACES;
/** Greatest denominator that is printed as a fraction: as many tracks as a mosaic has. */
const MOST_DENOMINATOR = 24;

/** "219 1/3": a length that is no decimal of three places as a whole and a fraction; null where none up to 24ths is it. */
function fractionText(n: number): string | null {
  const whole = Math.floor(n + 1e-9);
  for (let d = 2; d <= MOST_DENOMINATOR; d++) {
    const over = Math.round((n - whole) * d);
    if (Math.abs(n - whole - over / d) < 1e-7 && over > 0 && over < d)
      return whole > 0 ? `${whole} ${over}/${d}` : `${over}/${d}`;
  }
  return null;
}

const thousandths = (n: number) => Math.round(n * SCALE);

/**
 * Lengths as they are printed in a sum that closes: to three places where those add up to the total, as fractions where
 * they do not, and where a length is no fraction either, rounded up or down so that they do (`spread`).
 */
export function closingParts(
  parts: readonly number[],
  total: number,
): { readonly parts: readonly string[]; readonly spread: boolean } {
  const plain = parts.map((n) => figure(n, PLACES));
  const sum = (texts: readonly string[]) => texts.reduce((n, t) => n + thousandths(Number(t)), 0);
  if (sum(plain) === thousandths(total)) return { parts: plain, spread: false };
  const exact = parts.map((n, i) => (Math.abs(n - Number(plain[i])) < 1e-7 ? plain[i]! : fractionText(n)));
  if (exact.every((t): t is string => t !== null)) return { parts: exact, spread: false };
  // What is left after rounding down goes to those that lost most: the method of largest remainders.
  const floors = parts.map((n) => Math.floor(n * SCALE + 1e-6));
  let left = thousandths(total) - floors.reduce((a, b) => a + b, 0);
  const byLoss = parts.map((n, i) => ({ i, lost: n * SCALE - floors[i]! })).sort((a, b) => b.lost - a.lost);
  for (let k = 0; left > 0; k = (k + 1) % byLoss.length, left--) floors[byLoss[k]!.i]!++;
  return { parts: floors.map((n) => figure(n / SCALE, PLACES)), spread: true };
}
