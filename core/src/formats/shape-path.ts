import type { SaxesTagNS } from 'saxes';
import { Bezier } from 'bezier-js';
import svgpath from 'svgpath';
import { bad, good, type Result } from '../problem';
import { limits } from '../limits';
import type { PathForm } from '../geometry/path-form';
import { drawingText, isSvg, pointCounter, refusedDrawing, walkDrawing } from './svg-source';

/** What is never drawn where it stands. SVG 2, section 5.3. */
const UNDRAWN = new Set(['defs', 'clippath', 'mask', 'symbol', 'marker', 'pattern', 'metadata', 'title', 'desc']);
const valueOf = (e: SaxesTagNS, name: string): string | null => e.attributes[name]?.value ?? null;

const number = (e: SaxesTagNS, name: string, otherwise = 0) => {
  const n = parseFloat(valueOf(e, name) ?? '');
  return Number.isFinite(n) ? n : otherwise;
};

/** A basic shape as path data. SVG 2, section 10 (the equivalent paths). */
function dataOf(e: SaxesTagNS): string | null {
  const n = (name: string, otherwise = 0) => number(e, name, otherwise);
  switch (e.local.toLowerCase()) {
    case 'path':
      return valueOf(e, 'd');
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
      return `M${valueOf(e, 'points') ?? ''}z`;
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

/** A sheet's longer side, canvas px: outlines of a million px, or of a thousandth, are brought to a size to work with. */
const [LEAST_SIDE, MOST_SIDE] = [10, 10_000];

/**
 * The outlines of a drawing (its bytes) as one path in a sheet that just holds it, for a shape that is filled anew. Only
 * its geometry is taken: nothing of it runs, fetches or keeps its own colours. Outlines are filled by the nonzero rule.
 */
export function pathOfDrawing(bytes: Uint8Array, name = 'The drawing'): Result<PathForm> {
  const text = drawingText(bytes, name);
  if (!text.ok) return text;
  const found: Segments = { text: [], box: { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity } };
  const transforms: (readonly string[])[] = [[]];
  const points = pointCounter();
  /** How deep within something that is not drawn where it stands. */
  let undrawn = 0;
  try {
    walkDrawing(text.value, {
      open(tag) {
        if (undrawn || !isSvg(tag) || UNDRAWN.has(tag.local.toLowerCase()) || valueOf(tag, 'display') === 'none') {
          undrawn++;
          return;
        }
        const own = valueOf(tag, 'transform');
        const above = transforms.at(-1)!;
        const all = own ? [own, ...above] : above;
        transforms.push(all);
        const data = dataOf(tag);
        if (!data) return;
        points(data);
        add(found, data, all);
      },
      close() {
        if (undrawn) undrawn--;
        else transforms.pop();
      },
    });
  } catch (error) {
    return refusedDrawing(error, name);
  }
  const { left, top, right, bottom } = found.box;
  const own = { width: right - left, height: bottom - top };
  const nothing = bad('unreadable', `${name} holds no outline to make a shape of. Words and pictures in it are none.`);
  const longest = Math.max(own.width, own.height);
  if (!(own.width > 0 && own.height > 0) || !Number.isFinite(longest)) return nothing;
  const by = longest > MOST_SIDE ? MOST_SIDE / longest : longest < LEAST_SIDE ? LEAST_SIDE / longest : 1;
  const [width, height] = [own.width * by, own.height * by];
  // Thinner than a thousandth of a px it cannot be written down.
  if (width < 0.001 || height < 0.001) return nothing;
  const pieces: string[] = [];
  svgpath(found.text.join(''))
    .translate(-left, -top)
    .scale(by)
    .iterate(([command, ...values]) => {
      pieces.push(`${command.toUpperCase()}${values.map((v) => figure(v)).join(' ')}`);
    });
  const data = pieces.join('');
  if (data.length > limits.path)
    return bad('too-large', `${name} has too many points for a shape. Add it as a picture instead.`);
  return good({ kind: 'path', data, width, height });
}
