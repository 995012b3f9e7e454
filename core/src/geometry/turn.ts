import type { Box, Point, Size } from './box';

const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Sine and cosine of an angle in degrees, exact at quarter turns. */
export function directionOf(degrees: number): { sin: number; cos: number } {
  const quarter = degrees / 90;
  if (Number.isInteger(quarter)) {
    const q = ((quarter % 4) + 4) % 4;
    return { sin: [0, 1, 0, -1][q]!, cos: [1, 0, -1, 0][q]! };
  }
  return { sin: Math.sin(radians(degrees)), cos: Math.cos(radians(degrees)) };
}

/** A point turned clockwise (y points down) about another. */
export function turnedPoint(p: Point, degrees: number, about: Point): Point {
  if (degrees === 0) return p;
  const { sin, cos } = directionOf(degrees);
  const x = p.x - about.x;
  const y = p.y - about.y;
  return { x: about.x + x * cos - y * sin, y: about.y + x * sin + y * cos };
}

export const middleOf = (b: Box): Point => ({ x: b.x + b.width / 2, y: b.y + b.height / 2 });

/** A box of a size about a point. */
export const boxAbout = (p: Point, size: Size): Box => ({
  x: p.x - size.width / 2,
  y: p.y - size.height / 2,
  width: size.width,
  height: size.height,
});

/** How wide and high something is once turned. */
export function turnedSize(size: Size, degrees: number): Size {
  const { sin, cos } = directionOf(degrees);
  return {
    width: size.width * Math.abs(cos) + size.height * Math.abs(sin),
    height: size.width * Math.abs(sin) + size.height * Math.abs(cos),
  };
}

/** The upright box around a box turned about a point; exact for quarter turns. */
export function turnedBounds(b: Box, degrees: number, about: Point): Box {
  return boxAbout(turnedPoint(middleOf(b), degrees, about), turnedSize(b, degrees));
}

/** An angle between -180 (not included) and 180. */
export function plainAngle(degrees: number): number {
  const a = ((degrees % 360) + 360) % 360;
  return a > 180 ? a - 360 : a;
}
