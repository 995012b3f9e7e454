import { DOMParser, type Element } from '@xmldom/xmldom';
import { Bezier } from 'bezier-js';
import svgpath from 'svgpath';
import { bad, good, type Result } from '../problem';
import type { ShapeForm } from '../graphic/shape';

/** What is never drawn where it stands. SVG 2, section 5.3. */
const UNDRAWN = new Set(['defs', 'clippath', 'mask', 'symbol', 'marker', 'pattern', 'metadata', 'title', 'desc']);
const MOST_LETTERS = 200_000;

const number = (e: Element, name: string, otherwise = 0) => {
  const n = parseFloat(e.getAttribute(name) ?? '');
  return Number.isFinite(n) ? n : otherwise;
};

/** A basic shape as path data. SVG 2, section 10 (the equivalent paths). */
function dataOf(e: Element): string | null {
  const n = (name: string, otherwise = 0) => number(e, name, otherwise);
  switch ((e.localName ?? '').toLowerCase()) {
    case 'path':
      return e.getAttribute('d');
    case 'rect': {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      if (w <= 0 || h <= 0) return null;
      const rx = Math.min(n('rx', n('ry')), w / 2);
      const ry = Math.min(n('ry', n('rx')), h / 2);
      if (rx <= 0 || ry <= 0) return `M${x} ${y}h${w}v${h}h${-w}z`;
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}z`;
    }
    case 'circle':
    case 'ellipse': {
      const rx = n('rx', n('r'));
      const ry = n('ry', n('r'));
      if (rx <= 0 || ry <= 0) return null;
      return `M${n('cx') - rx} ${n('cy')}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`;
    }
    case 'polygon':
      return `M${e.getAttribute('points') ?? ''}z`;
    default:
      return null;
  }
}

interface Segments {
  readonly text: string[];
  readonly box: { left: number; top: number; right: number; bottom: number };
}

const figure = (n: number) => String(Math.round(n * 1000) / 1000);

/** Adds a path under its transforms (nearest first) to what there is, as absolute M, L, C, Q and Z. */
function add(to: Segments, data: string, transforms: readonly string[]): void {
  let path = svgpath(data);
  for (const t of transforms) path = path.transform(t);
  path = path.abs().unarc().unshort();
  path.iterate((segment, _, x, y) => {
    const [command, ...values] = segment as [string, ...number[]];
    const points = command === 'H' ? [values[0]!, y] : command === 'V' ? [x, values[0]!] : values;
    if (points.some((p) => !Number.isFinite(p))) throw new Error('A number of the path cannot be read.');
    // What a curve reaches, not the points that lead it.
    const curved = command === 'C' || command === 'Q';
    const reached = curved ? new Bezier([x, y, ...points]).bbox() : null;
    const xs = reached ? [reached.x.min, reached.x.max] : points.filter((_, i) => i % 2 === 0);
    const ys = reached ? [reached.y.min, reached.y.max] : points.filter((_, i) => i % 2 === 1);
    const { box } = to;
    [box.left, box.right] = [Math.min(box.left, ...xs), Math.max(box.right, ...xs)];
    [box.top, box.bottom] = [Math.min(box.top, ...ys), Math.max(box.bottom, ...ys)];
    to.text.push((command === 'H' || command === 'V' ? 'L' : command.toUpperCase()) + points.join(' '));
  });
}

/**
 * The outlines of a drawing (SVG text) as one path in a sheet that just holds it, for a shape that is filled anew. Only
 * its geometry is taken: nothing of it runs, fetches or keeps its own colours. Outlines are filled by the nonzero rule.
 */
export function pathOfDrawing(text: string, name = 'The drawing'): Result<ShapeForm & { kind: 'path' }> {
  const found: Segments = { text: [], box: { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity } };
  const walk = (e: Element, above: readonly string[]): void => {
    const local = (e.localName ?? '').toLowerCase();
    if (UNDRAWN.has(local) || e.getAttribute('display') === 'none') return;
    const own = e.getAttribute('transform');
    const transforms = own ? [own, ...above] : above;
    const data = dataOf(e);
    if (data) add(found, data, transforms);
    for (const child of Array.from(e.childNodes)) if (child.nodeType === 1) walk(child as Element, transforms);
  };
  try {
    const stop = (level: string, message: string) => {
      if (level !== 'warning') throw new Error(message);
    };
    const root = new DOMParser({ onError: stop }).parseFromString(
      text.replace(/^\uFEFF/, ''),
      'image/svg+xml',
    ).documentElement;
    if (root?.localName === 'svg') walk(root, []);
  } catch {
    return bad('unreadable', `${name} is no SVG that can be read; it may be damaged. Nothing was added.`);
  }
  const { left, top, right, bottom } = found.box;
  const [width, height] = [right - left, bottom - top];
  if (!(width > 0 && height > 0))
    return bad('unreadable', `${name} holds no outline to make a shape of. Words and pictures in it are none.`);
  const pieces: string[] = [];
  svgpath(found.text.join(''))
    .translate(-left, -top)
    .iterate(([command, ...values]) => {
      pieces.push(`${command.toUpperCase()}${values.map((v) => figure(v)).join(' ')}`);
    });
  const data = pieces.join('');
  if (data.length > MOST_LETTERS)
    return bad('too-large', `${name} has too many points for a shape. Add it as a picture instead.`);
  return good({ kind: 'path', data, width, height });
}
