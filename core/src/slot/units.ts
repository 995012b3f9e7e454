import jsep, { type Expression } from 'jsep';
import { bad, good, type Result } from '../problem';
import { figure } from './slot';

export const lengthUnits = ['px', 'in', 'cm', 'mm', 'pt'] as const;
export type LengthUnit = (typeof lengthUnits)[number];

/** Lengths in one inch. CSS Values and Units Level 4, section 6.2: 1in = 2.54cm = 25.4mm = 72pt (and 96px, where ppi is 96). */
const inAnInch: Record<Exclude<LengthUnit, 'px'>, number> = { in: 1, cm: 2.54, mm: 25.4, pt: 72 };

/** Pixels per inch that are taken seriously. */
export const PPI = { least: 1, most: 10_000, css: 96 } as const;

/** A length in px, at so many pixels an inch; fractions kept. */
export function toPx(length: number, unit: LengthUnit, ppi: number = PPI.css): number {
  return unit === 'px' ? length : (length / inAnInch[unit]) * ppi;
}

/** A length in px as another unit, at so many pixels an inch; fractions kept. */
export function fromPx(px: number, unit: LengthUnit, ppi: number = PPI.css): number {
  return unit === 'px' ? px : (px / ppi) * inAnInch[unit];
}

/**
 * A number as a person types it, or null where it is none: a comma may be the
 * decimal point; with both, the last one is; spaces between digits are left out.
 */
export function readNumber(text: string): number | null {
  let plain = text.trim().replace(/(?<=\d)[\s\u00a0\u202f’'](?=\d)/g, '');
  const comma = plain.lastIndexOf(',');
  const dot = plain.lastIndexOf('.');
  if (comma >= 0 && dot >= 0) plain = plain.replaceAll(comma > dot ? '.' : ',', '');
  plain = plain.replace(',', '.');
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : null;
}

/** The worth of a sum as it was read: numbers, + − × ÷ and brackets; null for anything else. */
function worth(e: Expression): number | null {
  if (e.type === 'Literal') return typeof e['value'] === 'number' ? e['value'] : null;
  if (e.type === 'UnaryExpression') {
    const n = worth(e['argument'] as Expression);
    return n === null ? null : e['operator'] === '-' ? -n : e['operator'] === '+' ? n : null;
  }
  if (e.type !== 'BinaryExpression') return null;
  const [a, b] = [worth(e['left'] as Expression), worth(e['right'] as Expression)];
  if (a === null || b === null) return null;
  switch (e['operator']) {
    case '+':
      return a + b;
    case '-':
      return a - b;
    case '*':
      return a * b;
    case '/':
      return b === 0 ? null : a / b;
    default:
      return null;
  }
}

/** A typed number or sum: "940/2", "(940 - 2 × 24) / 3", "12,5 + 3"; null where it is none, or no finite number. */
export function readSum(text: string): number | null {
  const plain = readNumber(text);
  if (plain !== null || text.length > 200) return plain;
  const sum = text
    .replace(/[×x]/gi, '*')
    .replace(/[÷:]/g, '/')
    .replace(/[−–]/g, '-')
    .replace(/(?<=\d),(?=\d)/g, '.');
  if (!/^[\d\s.+\-*/()]+$/.test(sum)) return null;
  try {
    const n = worth(jsep(sum));
    return n !== null && Number.isFinite(n) ? n : null;
  } catch {
    return null;
  }
}

/**
 * A typed length in px: "16.67 in", "16,67in" or a bare number in the unit given.
 * Fails with `length` for anything that is no length above 0 and below a million px.
 */
export function readLength(text: string, unit: LengthUnit, ppi: number = PPI.css): Result<number> {
  const own = /^(.*?)\s*(px|in|cm|mm|pt)\.?$/i.exec(text.trim());
  const n = readNumber(own ? own[1]! : text);
  if (n === null)
    return bad('length', `“${text.trim().slice(0, 40)}” is no length. Type a number, such as 940 or 16.67.`);
  const px = toPx(n, (own?.[2]?.toLowerCase() as LengthUnit | undefined) ?? unit, ppi);
  if (!(px > 0)) return bad('length', 'A length has to be above 0.');
  if (px > 1e6) return bad('length', `${figure(px)} px is larger than any page. Check the unit.`);
  return good(px);
}

/** What whole file pixels cost: by how many CSS px the file runs over an exact side at a density. */
export interface Rounding {
  readonly exact: number;
  readonly file: number;
  readonly over: number;
}

/** An exact side in CSS px, its whole file px at a density, and the CSS px by which these run over it. */
export function roundingOf(exact: number, density: number): Rounding {
  const file = Math.max(1, Math.ceil(exact * density - 1e-6));
  return { exact, file, over: Math.max(0, file / density - exact) };
}

/** A ratio, width ÷ height, as typed: "3:2", "16/9", "940 x 198" or "1.5"; null where it is none. */
export function readRatio(text: string): number | null {
  const sides = text.trim().split(/\s*[:/×x*]\s*/i);
  if (sides.length > 2) return null;
  const [w, h] = [readNumber(sides[0]!), sides.length === 2 ? readNumber(sides[1]!) : 1];
  if (w === null || h === null || !(w > 0) || !(h > 0)) return null;
  const ratio = w / h;
  return ratio >= 0.01 && ratio <= 100 ? ratio : null;
}
