import { words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { families, faceFile } from './families';
import { layoutWords, wordsBounds } from './layout';
import { outlineBox, trace } from './outline';
import type { Shaper } from './shaper';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

describe('layoutWords', () => {
  // Chromium's measureText gives 550.115 px for this line (measured, shared/stack.md); the browser test measures again.
  it('is as wide as Chromium measures the same line, within 0.1 px', () => {
    const layout = layoutWords(
      words('Notes from the Wheel', {}, { face: { family: 'Bricolage Grotesque', weight: 640, italic: false } }),
      shaper,
    );
    expect(layout.box.width).toBeCloseTo(550.1, 1);
  });
  it.each(['left', 'centre', 'right'] as const)('aligned %s it stands by its anchor', (align) => {
    const base = words('Anchor');
    const layer = { ...base, paragraphs: base.paragraphs.map((p) => ({ ...p, align })) };
    const { box } = layoutWords(layer, shaper);
    const anchor = align === 'left' ? box.x : align === 'centre' ? box.x + box.width / 2 : box.x + box.width;
    expect(anchor).toBeCloseTo(470, 6);
  });
  it('stacks lines by size times spacing', () => {
    const { box, lines } = layoutWords(words('One\nTwo\nThree'), shaper);
    expect(lines).toBe(3);
    expect(box.height).toBeCloseTo(3 * 52 * 1.2, 6);
  });
  it('doubles with the size', () => {
    const a = layoutWords(words('Kiln diary'), shaper);
    const b = layoutWords(words('Kiln diary', {}, { size: 104 }), shaper);
    expect(b.box.width).toBeCloseTo(2 * a.box.width, 6);
  });
  it('has a box and no ink for nothing at all', () => {
    const layout = layoutWords(words(''), shaper);
    expect(layout.ink).toBeNull();
    expect(layout.box.width).toBe(0);
  });
  it('leaves what no face has to the browser, once per character', () => {
    const { items } = layoutWords(words('Pots 😀👩‍👧 x'), shaper);
    const fallback = items.filter((i) => i.kind === 'fallback').map((i) => i.text);
    expect(fallback).toEqual(['😀', '👩‍👧']);
  });
  it('takes ten thousand letters', () => {
    expect(layoutWords(words('abcde fghi '.repeat(1000).slice(0, 10_000)), shaper).items.length).toBeGreaterThan(8000);
  });
  it('encloses what is drawn beyond the line boxes', () => {
    const layer = words('fjÅ', { lineSpacing: 0.5 });
    const layout = layoutWords(layer, shaper);
    const bounds = wordsBounds(layer, layout);
    expect(bounds.y).toBeLessThan(layout.box.y);
  });
});

it('every shipped family has its files, and its weights differ in width', () => {
  for (const f of families) {
    const width = (weight: number) =>
      shaper.shape('Hamburg', { family: f.name, weight, italic: false }).reduce((s, g) => s + g.advance, 0);
    expect(width(f.weights[0])).toBeGreaterThan(0);
    // A monospaced family is as wide in every weight.
    if (f.kind !== 'mono') expect(width(f.weights[0])).not.toBe(width(f.weights[1]));
    expect(faceFile(f, true)).toBe(f.italic ? `${f.file}-italic` : f.file);
  }
});

describe('outlines', () => {
  const square = [0, 0, 0, 1, 10, 0, 1, 10, 10, 1, 0, 10, 4];
  it('have a box', () => expect(outlineBox(square)).toEqual({ x: 0, y: 0, width: 10, height: 10 }));
  it('are walked with scale and offset', () => {
    const calls: string[] = [];
    const target = new Proxy(
      {},
      {
        get:
          (_t, name) =>
          (...a: number[]) =>
            calls.push(`${String(name)} ${a.join(' ')}`),
      },
    );
    trace(square, target as never, 2, 5, 7);
    expect(calls).toEqual(['moveTo 5 7', 'lineTo 25 7', 'lineTo 25 27', 'lineTo 5 27', 'closePath ']);
  });
});
