import type { Box } from '../geometry/box';
import { enclosing, moved } from '../geometry/box';
import type { Run, WordsLayer } from '../graphic/graphic';
import { outlineBox, type Outline } from './outline';
import type { Shaper } from './shaper';

/** One glyph where it stands: its outline is drawn at (`x`, `y`) times `scale`, canvas px. */
export interface PlacedGlyph {
  readonly kind: 'outline';
  /** The characters it began from. */
  readonly text: string;
  readonly outline: Outline;
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  readonly colour: string;
  /** Size and weight of its run, for legibility. */
  readonly size: number;
  readonly weight: number;
}

/** Characters no shipped face has (emoji, other scripts): drawn by the browser's own fonts. */
export interface PlacedFallback {
  readonly kind: 'fallback';
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly weight: number;
  readonly italic: boolean;
  readonly colour: string;
  readonly width: number;
}

export interface WordsLayout {
  readonly items: readonly (PlacedGlyph | PlacedFallback)[];
  /** The block as CSS would lay it: line boxes. Canvas px. */
  readonly box: Box;
  /** What is really drawn: the outlines' extent; null when there is nothing to draw. */
  readonly ink: Box | null;
  readonly lines: number;
}

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

type Item = PlacedGlyph | PlacedFallback;

/** Shapes one run on the baseline at (0, 0). Gives its items and its advance. */
function layRun(run: Run, shaper: Shaper): { items: Item[]; advance: number } {
  const items: Item[] = [];
  const { unitsPerEm } = shaper.metrics(run.face);
  const scale = run.size / unitsPerEm;
  let x = 0;
  let missingTo = -1;
  const segments = graphemes.segment(run.text);
  for (const g of shaper.shape(run.text, run.face)) {
    const segment = segments.containing(g.cluster);
    const text = segment?.segment ?? '';
    if (g.glyph === 0) {
      if (g.cluster < missingTo) continue;
      missingTo = (segment?.index ?? g.cluster) + text.length;
      // Core has no measure for the browser's own fonts: a letter wide, or an em for what is wider than a letter.
      const width = run.size * (/\p{Emoji_Presentation}/u.test(text) ? 1.25 : /\p{L}/u.test(text) ? 0.62 : 1);
      items.push({
        kind: 'fallback',
        text,
        x,
        y: 0,
        size: run.size,
        weight: run.face.weight,
        italic: run.face.italic,
        colour: run.colour,
        width,
      });
      x += width;
      continue;
    }
    const outline = shaper.outline(run.face, g.glyph);
    if (outline.length)
      items.push({
        kind: 'outline',
        text,
        outline,
        x: x + g.dx * scale,
        y: -g.dy * scale,
        scale,
        colour: run.colour,
        size: run.size,
        weight: run.face.weight,
      });
    x += g.advance * scale;
  }
  return { items, advance: x };
}

/** The box of what an item draws, canvas px; null for a blank. */
export function itemInk(item: Item): Box | null {
  if (item.kind === 'fallback')
    return { x: item.x, y: item.y - item.size, width: item.width, height: item.size * 1.25 };
  const b = outlineBox(item.outline);
  return (
    b && {
      x: item.x + b.x * item.scale,
      y: item.y + b.y * item.scale,
      width: b.width * item.scale,
      height: b.height * item.scale,
    }
  );
}

/**
 * Lays a words layer out; the same on screen, in a worker and in the file.
 * Lines are as high as `lineSpacing` × the greatest size in them, the type's own
 * ascent and descent centred in that (CSS Inline Layout 3, section 4.2, half-leading).
 */
export function layoutWords(layer: WordsLayer, shaper: Shaper): WordsLayout {
  const items: Item[] = [];
  const boxes: Box[] = [];
  let top = layer.place.y;
  for (const paragraph of layer.paragraphs) {
    const laid = paragraph.runs.map((run) => ({ run, ...layRun(run, shaper) }));
    const width = laid.reduce((sum, l) => sum + l.advance, 0);
    const height = layer.lineSpacing * Math.max(...paragraph.runs.map((r) => r.size));
    const measure = laid.map(({ run }) => {
      const m = shaper.metrics(run.face);
      return { up: (m.ascender / m.unitsPerEm) * run.size, down: (-m.descender / m.unitsPerEm) * run.size };
    });
    const up = Math.max(...measure.map((m) => m.up));
    const down = Math.max(...measure.map((m) => m.down));
    const baseline = top + (height - up - down) / 2 + up;
    const share = paragraph.align === 'left' ? 0 : paragraph.align === 'centre' ? 0.5 : 1;
    let x = layer.place.x - width * share;
    boxes.push({ x, y: top, width, height });
    for (const l of laid) {
      for (const item of l.items) items.push({ ...item, x: item.x + x, y: item.y + baseline });
      x += l.advance;
    }
    top += height;
  }
  const ink = enclosing(items.map(itemInk).filter((b) => b !== null));
  return { items, box: enclosing(boxes)!, ink, lines: layer.paragraphs.length };
}

/** What the selection encloses: line boxes and everything drawn beyond them. */
export function wordsBounds(layout: WordsLayout): Box {
  return layout.ink ? enclosing([layout.box, layout.ink])! : layout.box;
}

/** A layer moved by whole or part pixels. */
export function movedWords(layer: WordsLayer, by: { x: number; y: number }): WordsLayer {
  const { x, y } = moved({ ...layer.place, width: 0, height: 0 }, by);
  return { ...layer, place: { x, y } };
}
