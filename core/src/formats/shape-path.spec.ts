import { readFileSync } from 'node:fs';
import { createCanvas } from '@napi-rs/canvas';
import sharp from 'sharp';
import { shapeOutline } from '../graphic/shape-geometry';
import { ShapeLayer, type ShapeForm } from '../graphic/shape';
import { shape } from '../testing/samples';
import { trace } from '../words/outline';
import { pathOfDrawing } from './shape-path';

const svg = (inner: string, box = '0 0 100 100') =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}">${inner}</svg>`;
const pathOf = (text: string): ShapeForm & { kind: 'path' } => {
  const read = pathOfDrawing(new TextEncoder().encode(text));
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
};

/** Alpha of a path filled in a box of a size, beside the same drawing as librsvg (by sharp) draws it there. */
function compared(inner: string, size: { width: number; height: number }) {
  const form = pathOf(svg(inner));
  const context = createCanvas(size.width, size.height).getContext('2d');
  context.beginPath();
  trace(shapeOutline(shape({ form }), { x: 0, y: 0, ...size })!, context);
  context.fill();
  const ours = context.getImageData(0, 0, size.width, size.height).data;
  return { form, ours };
}

describe('an outline from a drawing', () => {
  it.each([
    ['<path d="M10 10h30v40h-30z"/>', 30, 40],
    ['<path d="m10,10 30,0 0,40 -30,0z"/>', 30, 40],
    ['<rect x="5" y="6" width="20" height="10"/>', 20, 10],
    ['<rect x="5" y="6" width="20" height="10" rx="4"/>', 20, 10],
    ['<circle cx="50" cy="50" r="25"/>', 50, 50],
    ['<ellipse cx="50" cy="50" rx="30" ry="10"/>', 60, 20],
    ['<polygon points="0,0 10,0 10,20"/>', 10, 20],
    ['<g transform="translate(5 5) scale(2)"><rect width="10" height="5"/></g>', 20, 10],
    ['<g transform="rotate(90)"><rect width="10" height="5"/></g>', 5, 10],
    ['<path d="M0 0 A10 10 0 0 1 20 0 L20 10 L0 10 Z"/>', 20, 20],
  ])('%s is as large as it is drawn', (inner, width, height) => {
    const { width: w, height: h } = pathOf(svg(inner));
    expect(w).toBeCloseTo(width, 1);
    expect(h).toBeCloseTo(height, 1);
  });

  it('is filled as librsvg fills it: a pot with a handle, under transforms', async () => {
    // The same drawing by another renderer (librsvg, in sharp).
    const inner =
      '<g transform="translate(12 8) scale(0.7)"><path d="M20 30 Q10 80 30 95 L70 95 C90 80 80 40 75 30 Z"/><path d="M80 45 a18 18 0 1 1 0 30 l0 -8 a10 10 0 1 0 0 -14 z"/></g>';
    const form = pathOf(svg(inner));
    const { ours } = compared(inner, { width: 140, height: 140 });
    // Its own box of the drawing, scaled to the same size.
    const outer = svg(inner, '0 0 100 100');
    const big = await sharp(Buffer.from(outer), { density: 72 * 14 })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { data, info } = big;
    let [left, top, right, bottom] = [info.width, info.height, 0, 0];
    for (let y = 0; y < info.height; y++)
      for (let x = 0; x < info.width; x++)
        if (data[(y * info.width + x) * 4 + 3]! > 127)
          [left, top, right, bottom] = [
            Math.min(left, x),
            Math.min(top, y),
            Math.max(right, x + 1),
            Math.max(bottom, y + 1),
          ];
    const theirs = await sharp(data, { raw: { width: info.width, height: info.height, channels: 4 } })
      .extract({ left, top, width: right - left, height: bottom - top })
      .resize(140, 140, { fit: 'fill' })
      .raw()
      .toBuffer();
    let off = 0;
    for (let i = 3; i < ours.length; i += 4) off += Math.abs(ours[i]! - theirs[i]!) / 255;
    expect(off / (140 * 140)).toBeLessThan(0.02);
    expect(form.width).toBeLessThan(100);
  });

  it('takes the pottery’s own logo', () => {
    const logo = readFileSync(new URL('../../../demo/logos/ottermill.svg', import.meta.url), 'utf8');
    const read = pathOfDrawing(new TextEncoder().encode(logo));
    // Its letters are strokes: what is filled of it has an outline.
    if (read.ok) expect(read.value.width).toBeGreaterThan(0);
    else expect(read.problem.message).toContain('no outline');
  });

  it.each([
    ['', 'cannot be read'],
    ['<svg', 'cannot be read'],
    ['<html/>', 'cannot be read'],
    [svg('<text>Pots</text>'), 'no outline'],
    [svg('<defs><path d="M0 0h9v9z"/></defs>'), 'no outline'],
    [svg('<path display="none" d="M0 0h9v9z"/>'), 'no outline'],
    [svg('<path d="M0 0h9"/>'), 'no outline'],
    [svg('<path d="M0 0 L nonsense"/>'), ''],
    [svg(`<path d="M0 0${' l1 1 l1 -1'.repeat(60_000)}z"/>`), 'more than 60,000 points'],
  ])('%#: what holds none is told, and nothing is added', (text, message) => {
    const read = pathOfDrawing(new TextEncoder().encode(text), 'It');
    expect(read.ok).toBe(false);
    expect(!read.ok && read.problem.message).toContain(message);
  });

  it('brings outlines of millions of px, and of hundredths, to a size to work with', () => {
    const big = pathOf(readFileSync(new URL('../testing/hostile/o-big.svg', import.meta.url), 'utf8'));
    expect([big.width, big.height]).toEqual([10_000, 7500]);
    const small = pathOf(svg('<path d="M0 0L.04 0L.04 .02Z"/>'));
    expect([small.width, small.height].map((n) => Math.round(n * 1e6) / 1e6)).toEqual([10, 5]);
    expect(ShapeLayer.safeParse(shape({ form: big })).success).toBe(true);
  });

  it('takes no script, style or address along', () => {
    const { data } = pathOf(
      svg('<script>alert(1)</script><path onload="alert(1)" style="fill:url(http://x)" d="M0 0h9v9z"/>'),
    );
    expect(data).toMatch(/^[MLQCZ\d .-]+$/);
  });
});
