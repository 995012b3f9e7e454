import type { Box, Point, Size } from './box';
import { directionOf } from './turn';

/**
 * Where a straight gradient begins and ends over a box, so that its corners get the end colours exactly.
 * CSS Images 3, section 3.1 (`<angle>`): 0° runs upwards, 90° to the right.
 */
export function gradientLine(box: Box, angle: number): { from: Point; to: Point } {
  const { sin, cos } = directionOf(angle);
  const half = (Math.abs(box.width * sin) + Math.abs(box.height * cos)) / 2;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  return { from: { x: x - sin * half, y: y + cos * half }, to: { x: x + sin * half, y: y - cos * half } };
}

/** The same in shares of the box. */
export function gradientEnds(size: Size, angle: number): { from: Point; to: Point } {
  const { from, to } = gradientLine({ x: 0, y: 0, width: size.width, height: size.height }, angle);
  const share = (p: Point) => ({ x: p.x / size.width, y: p.y / size.height });
  return { from: share(from), to: share(to) };
}

/** The angle at which a gradient's ends (shares of a box) lie, as in CSS: degrees, 0 upwards, clockwise. */
export function angleOfEnds(size: Size, from: Point, to: Point): number {
  const [x, y] = [(to.x - from.x) * size.width, (to.y - from.y) * size.height];
  const degrees = Math.round((Math.atan2(x, -y) * 1800) / Math.PI) / 10;
  return (degrees + 360) % 360;
}
