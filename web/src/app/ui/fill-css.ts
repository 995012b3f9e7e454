import { angleOfEnds, channelsOf, gradientLine, type Fill, type Size } from '@bright-slot/core';

const stopCss = (colour: string, opacity: number) => `rgb(${channelsOf(colour).join(' ')} / ${opacity})`;

/** A fill as a CSS background of an element of a size; CSS mixes premultiplied by itself. Empty for none. */
export function fillCss(fill: Fill, size: Size): string {
  if (fill.kind === 'none') return '';
  if (fill.kind === 'colour') return fill.colour;
  const { from, to, stops } = fill;
  const at = (p: { x: number; y: number }) => ({ x: p.x * size.width, y: p.y * size.height });
  const [a, b] = [at(from), at(to)];
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  if (fill.form === 'radial') {
    const list = stops.map((s) => `${stopCss(s.colour, s.opacity)} ${s.at * length}px`).join(', ');
    return `radial-gradient(circle at ${a.x}px ${a.y}px, ${list})`;
  }
  // CSS measures from where its own line begins: the ends are laid on that.
  const angle = angleOfEnds(size, from, to);
  const line = gradientLine({ x: 0, y: 0, width: size.width, height: size.height }, angle);
  const reach = Math.hypot(line.to.x - line.from.x, line.to.y - line.from.y) || 1;
  const along = (p: { x: number; y: number }) =>
    ((p.x - line.from.x) * (line.to.x - line.from.x) + (p.y - line.from.y) * (line.to.y - line.from.y)) / reach;
  const [begin, end] = [along(a), along(b)];
  const list = stops.map((s) => `${stopCss(s.colour, s.opacity)} ${begin + (end - begin) * s.at}px`).join(', ');
  return `linear-gradient(${angle}deg, ${list})`;
}
