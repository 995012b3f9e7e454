import { trace, type PathTarget } from '../words/outline';
import type { PlacedFallback, PlacedGlyph, WordsLayout } from '../words/layout';
import type { Plan, SurfaceNeed } from './plan';

/** The part of a 2D context that painting uses; browser, worker and Node contexts all have it. */
export interface PaintContext<Image> extends PathTarget {
  fillStyle: unknown;
  font: string;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: unknown;
  save(): void;
  restore(): void;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  clearRect(x: number, y: number, w: number, h: number): void;
  fillRect(x: number, y: number, w: number, h: number): void;
  beginPath(): void;
  rect(x: number, y: number, w: number, h: number): void;
  clip(): void;
  fill(): void;
  fillText(text: string, x: number, y: number): void;
  drawImage(image: Image, x: number, y: number, w: number, h: number): void;
}

/** Where painting finds its surfaces. */
export interface Surfaces<Image> {
  /** The exact surface for a need, whole pixel for whole pixel. */
  exact(need: SurfaceNeed): Image | undefined;
  /** A whole, roughly scaled picture for first sight and dragging; never used for a file. */
  rough(asset: string): Image | undefined;
}

function paintFallback<Image>(item: PlacedFallback, context: PaintContext<Image>): void {
  context.font = `${item.italic ? 'italic ' : ''}${Math.round(item.weight)} ${item.size}px sans-serif`;
  context.fillStyle = item.colour;
  context.fillText(item.text, item.x, item.y);
}

/** Paints one letter alone, in whatever transform is set; for its mask. */
export function paintLetter<Image>(item: PlacedGlyph | PlacedFallback, context: PaintContext<Image>): void {
  if (item.kind === 'fallback') return paintFallback(item, context);
  context.fillStyle = item.colour;
  context.beginPath();
  trace(item.outline, context, item.scale, item.x, item.y);
  context.fill();
}

/** Fills a block's letters; neighbours of one colour go into one path. */
function paintWords<Image>(layout: WordsLayout, context: PaintContext<Image>): void {
  let colour: string | null = null;
  const flush = () => {
    if (colour !== null) {
      context.fillStyle = colour;
      context.fill();
    }
    colour = null;
  };
  for (const item of layout.items) {
    if (item.kind === 'fallback') {
      flush();
      paintFallback(item, context);
      continue;
    }
    if (item.colour !== colour) {
      flush();
      context.beginPath();
      colour = item.colour;
    }
    trace(item.outline, context, item.scale, item.x, item.y);
  }
  flush();
}

/**
 * Phase two: paints a plan, synchronously, on a context whose canvas has the plan's size.
 * Gives the needs for which there was no exact surface (a rough one was used, or nothing).
 */
export function paint<Image>(p: Plan, surfaces: Surfaces<Image>, context: PaintContext<Image>): SurfaceNeed[] {
  const wanting: SurfaceNeed[] = [];
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, p.width, p.height);
  for (const operation of p.operations) {
    switch (operation.kind) {
      case 'fill':
        context.fillStyle = operation.colour;
        context.fillRect(0, 0, p.width, p.height);
        break;
      case 'picture': {
        const { need } = operation;
        const exact = surfaces.exact(need);
        if (exact !== undefined) {
          context.imageSmoothingEnabled = false;
          context.drawImage(exact, need.out.x, need.out.y, need.out.width, need.out.height);
          break;
        }
        wanting.push(need);
        const rough = surfaces.rough(need.asset);
        if (rough === undefined) break;
        context.save();
        context.imageSmoothingEnabled = true;
        context.imageSmoothingQuality = 'medium';
        context.beginPath();
        context.rect(need.shown.x, need.shown.y, need.shown.width, need.shown.height);
        context.clip();
        context.drawImage(rough, need.image.x, need.image.y, need.image.width, need.image.height);
        context.restore();
        break;
      }
      case 'words':
        context.setTransform(p.scale, 0, 0, p.scale, -p.origin.x * p.scale, -p.origin.y * p.scale);
        paintWords(operation.layout, context);
        context.setTransform(1, 0, 0, 1, 0, 0);
        break;
    }
  }
  return wanting;
}
