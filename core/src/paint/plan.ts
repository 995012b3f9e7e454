import { intersection, outward, scaled, type Box } from '../geometry/box';
import type { Frame, Graphic, Layer, PictureLayer } from '../graphic/graphic';
import { pictureGeometry } from '../graphic/picture-geometry';
import type { Reduction } from '../pixels/reduce';
import { layoutWords, type WordsLayout } from '../words/layout';
import type { Shaper } from '../words/shaper';

/** A prepared piece of picture that painting needs: made in a worker, known by its key. */
export interface SurfaceNeed extends Reduction {
  readonly key: string;
  readonly asset: string;
  readonly natural: { readonly width: number; readonly height: number };
  readonly opaque: boolean;
  readonly vector: boolean;
}

export type PaintOperation =
  | { readonly kind: 'fill'; readonly colour: string }
  | { readonly kind: 'picture'; readonly layer: string; readonly need: SurfaceNeed }
  | { readonly kind: 'words'; readonly layer: string; readonly layout: WordsLayout };

/** What to paint, back to front, for a frame at a scale. Device px = canvas px × scale, from the frame's corner. */
export interface Plan {
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly origin: { readonly x: number; readonly y: number };
  readonly operations: readonly PaintOperation[];
}

export interface PlanOptions {
  /** Paint only what lies below this layer. */
  readonly below?: string;
  /** Paint this layer alone, without the backdrop. */
  readonly only?: string;
}

const layouts = new WeakMap<Layer, { shaper: Shaper; layout: WordsLayout }>();

/** A words layer's layout, kept as long as the layer object lives (layers are never changed in place). */
export function layoutOf(layer: Layer & { role: 'words' }, shaper: Shaper): WordsLayout {
  const known = layouts.get(layer);
  if (known?.shaper === shaper) return known.layout;
  const layout = layoutWords(layer, shaper);
  layouts.set(layer, { shaper, layout });
  return layout;
}

const figure = (n: number) => Math.round(n * 1e4) / 1e4;
const boxKey = (b: Box) => [b.x, b.y, b.width, b.height].map(figure).join(',');

/** The surface a picture layer needs within `bounds` (device px); null where none of it shows. */
export function surfaceFor(
  layer: PictureLayer,
  graphic: Graphic,
  frame: Frame,
  scale: number,
  bounds: Box,
): SurfaceNeed | null {
  const toDevice = (b: Box) => scaled({ ...b, x: b.x - frame.rect.x, y: b.y - frame.rect.y }, scale);
  const geometry = pictureGeometry(layer, graphic.canvas);
  const image = toDevice(geometry.image);
  const shown = toDevice(geometry.shown);
  const visible = intersection(shown, bounds);
  if (!visible) return null;
  const out = outward(visible);
  return {
    key: `${layer.asset}|${boxKey(image)}|${boxKey(shown)}|${boxKey(out)}`,
    asset: layer.asset,
    natural: layer.natural,
    opaque: layer.opaque,
    vector: layer.vector,
    image,
    shown,
    out,
  };
}

/**
 * Phase one of painting: lists the surfaces needed and the operations in order.
 * `scale` is device px per canvas px. The plan's size is the frame's in whole
 * device px, rounded up (see `filePixels`).
 */
export function plan(graphic: Graphic, frame: Frame, scale: number, shaper: Shaper, options: PlanOptions = {}): Plan {
  const width = Math.max(1, Math.ceil(frame.rect.width * scale - 1e-6));
  const height = Math.max(1, Math.ceil(frame.rect.height * scale - 1e-6));
  const bounds = { x: 0, y: 0, width, height };
  // A fractional slot gets whole pixels; the picture bleeds over the last part pixel, so paint a hair larger.
  const bleed = Math.max(width / (frame.rect.width * scale), height / (frame.rect.height * scale));
  const effective = bleed > 1 + 1e-9 ? scale * bleed : scale;
  const operations: PaintOperation[] = [];
  if (graphic.backdrop.kind === 'colour' && !options.only)
    operations.push({ kind: 'fill', colour: graphic.backdrop.colour });
  for (const layer of graphic.layers) {
    if (layer.id === options.below) break;
    if (!layer.visible || (options.only && layer.id !== options.only)) continue;
    if (layer.role === 'words') operations.push({ kind: 'words', layer: layer.id, layout: layoutOf(layer, shaper) });
    else {
      const need = surfaceFor(layer, graphic, frame, effective, bounds);
      if (need) operations.push({ kind: 'picture', layer: layer.id, need });
    }
  }
  return { width, height, scale: effective, origin: { x: frame.rect.x, y: frame.rect.y }, operations };
}

/** The surfaces a plan needs. */
export function surfacesOf(p: Plan): SurfaceNeed[] {
  return p.operations.flatMap((o) => (o.kind === 'picture' ? [o.need] : []));
}
