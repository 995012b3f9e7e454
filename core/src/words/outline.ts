/**
 * Outlines as flat numbers, cheap to send and to walk: 0 x y (move), 1 x y (line),
 * 2 cx cy x y (quadratic), 3 c1x c1y c2x c2y x y (cubic), 4 (close).
 */
export type Outline = readonly number[];

export const MOVE = 0;
export const LINE = 1;
export const QUAD = 2;
export const CUBIC = 3;
export const CLOSE = 4;

/** How many coordinates follow each command. */
export const ARITY = [2, 2, 4, 6, 0] as const;

/** What an outline can be drawn into: a canvas context or a path. */
export interface PathTarget {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(cx: number, cy: number, x: number, y: number): void;
  bezierCurveTo(ax: number, ay: number, bx: number, by: number, x: number, y: number): void;
  closePath(): void;
}

/** Adds an outline to a path, each point times `scale` plus (`dx`, `dy`). */
export function trace(outline: Outline, to: PathTarget, scale = 1, dx = 0, dy = 0): void {
  const o = outline;
  const x = (i: number) => o[i]! * scale + dx;
  const y = (i: number) => o[i]! * scale + dy;
  for (let i = 0; i < o.length;) {
    const command = o[i]!;
    switch (command) {
      case MOVE:
        to.moveTo(x(i + 1), y(i + 2));
        break;
      case LINE:
        to.lineTo(x(i + 1), y(i + 2));
        break;
      case QUAD:
        to.quadraticCurveTo(x(i + 1), y(i + 2), x(i + 3), y(i + 4));
        break;
      case CUBIC:
        to.bezierCurveTo(x(i + 1), y(i + 2), x(i + 3), y(i + 4), x(i + 5), y(i + 6));
        break;
      default:
        to.closePath();
    }
    i += 1 + (ARITY[command] ?? 0);
  }
}

/** An outline as SVG path data of absolute M, L, Q, C and Z (SVG 2, section 9.3), to hundredths; each point times `scale` plus (`dx`, `dy`). */
export function outlineData(outline: Outline, scale = 1, dx = 0, dy = 0): string {
  const parts: string[] = [];
  const add =
    (letter: string) =>
    (...at: number[]) =>
      void parts.push(letter + at.map((n) => Math.round(n * 100) / 100).join(' '));
  const [moveTo, lineTo, quadraticCurveTo, bezierCurveTo, closePath] = ['M', 'L', 'Q', 'C', 'Z'].map(add);
  trace(
    outline,
    {
      moveTo: moveTo!,
      lineTo: lineTo!,
      quadraticCurveTo: quadraticCurveTo!,
      bezierCurveTo: bezierCurveTo!,
      closePath: closePath!,
    },
    scale,
    dx,
    dy,
  );
  return parts.join('');
}

/** Box of an outline's points, control points included (so never smaller than what is drawn); null when empty. */
export function outlineBox(outline: Outline): { x: number; y: number; width: number; height: number } | null {
  let left = Infinity;
  let top = Infinity;
  let rightmost = -Infinity;
  let lowest = -Infinity;
  for (let i = 0; i < outline.length;) {
    const points = (ARITY[outline[i]!] ?? 0) / 2;
    for (let p = 0; p < points; p++) {
      const x = outline[i + 1 + 2 * p]!;
      const y = outline[i + 2 + 2 * p]!;
      left = Math.min(left, x);
      rightmost = Math.max(rightmost, x);
      top = Math.min(top, y);
      lowest = Math.max(lowest, y);
    }
    i += 1 + 2 * points;
  }
  return left > rightmost ? null : { x: left, y: top, width: rightmost - left, height: lowest - top };
}
