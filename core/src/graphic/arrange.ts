import { clamp } from '../geometry/clamp';
import { moved, type Box, type Point, type Size } from '../geometry/box';
import { boxAbout, middleOf, plainAngle } from '../geometry/turn';
import { movedWords } from '../words/layout';
import { isPicture, type Layer, type PictureLayer, type WordsLayer } from './graphic';
import { freePlace, placedBox, placeFor } from './picture-geometry';
import { scaledBorder, scaledCorners, scaledShadow } from '../pixels/appearance';
import type { ShapeLayer } from './shape';
import { alignShare } from '../words/words';

/** A shape moved by an offset; one that keeps to a side of the canvas or to its words stays. */
function movedShape(layer: ShapeLayer, by: Point): ShapeLayer {
  const { place } = layer;
  const to = (p: Point) => ({ x: p.x + by.x, y: p.y + by.y });
  if (place.mode === 'box') return { ...layer, place: { ...place, box: moved(place.box, by) } };
  return place.mode === 'line' ? { ...layer, place: { ...place, from: to(place.from), to: to(place.to) } } : layer;
}

/** A layer moved by an offset (canvas px), its intent kept where it can be; a veil lies as it is set to. */
export function movedLayer<L extends Layer>(layer: L, by: Point, canvas: Size): L {
  if (layer.role === 'words') return movedWords(layer, by) as L;
  if (layer.role === 'shape') return movedShape(layer, by) as L;
  if (!isPicture(layer)) return layer;
  const box = placedBox(layer, canvas);
  return { ...layer, place: placeFor(layer, { ...box, x: box.x + by.x, y: box.y + by.y }, canvas) };
}

/** Room around words, canvas px, as far as it can be set. */
const room = (n: number) => clamp(n, 0, 2000);

/** A words layer with every size times `by`, to tenths of a px, and all that is around it; its anchor stays. */
export function scaledWords(layer: WordsLayer, by: number): WordsLayer {
  const size = (n: number) => clamp(Math.round(n * by * 10) / 10, 1, 4000);
  const { outline, shadow, ground, sizing } = layer;
  return {
    ...layer,
    sizing:
      sizing.kind === 'grow'
        ? sizing
        : sizing.kind === 'wrap'
          ? { ...sizing, width: sizing.width * by }
          : { ...sizing, width: sizing.width * by, height: sizing.height * by },
    outline: outline && { ...outline, width: clamp(outline.width * by, 0.1, 200) },
    shadow: scaledShadow(shadow, by),
    ground: ground && {
      ...ground,
      across: room(ground.across * by),
      down: room(ground.down * by),
      radius: room(ground.radius * by),
    },
    paragraphs: layer.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, size: size(r.size) })) })),
  };
}

/** A shape with every length times `by`, about a point (canvas px). */
export function scaledShape(layer: ShapeLayer, by: number, about: Point): ShapeLayer {
  const { place, border, shadow, corners } = layer;
  const to = (p: Point) => ({ x: about.x + (p.x - about.x) * by, y: about.y + (p.y - about.y) * by });
  const boxTo = (b: Box) => boxAbout(to(middleOf(b)), { width: b.width * by, height: b.height * by });
  const common = {
    ...layer,
    border: scaledBorder(border, by),
    shadow: scaledShadow(shadow, by),
    corners: scaledCorners(corners, by),
  };
  switch (place.mode) {
    case 'box':
      return { ...common, place: { ...place, box: boxTo(place.box) } };
    case 'line':
      return { ...common, place: { ...place, from: to(place.from), to: to(place.to) } };
    case 'band':
      return { ...common, place: { ...place, size: place.size * by } };
    case 'around':
      return {
        ...common,
        place: { ...place, across: room(place.across * by), down: room(place.down * by), last: boxTo(place.last) },
      };
  }
}

/** A shape laid into another box, canvas px; one that keeps to a side takes its depth there, one around words its room. */
export function shapeInBox(layer: ShapeLayer, from: Box, to: Box): ShapeLayer {
  const { place } = layer;
  switch (place.mode) {
    case 'box':
      return { ...layer, place: { ...place, box: to } };
    case 'line': {
      const share = (n: number, a: number, length: number, b: number, room: number) =>
        length > 0 ? b + ((n - a) / length) * room : b + (n - a);
      const lay = (p: Point) => ({
        x: share(p.x, from.x, from.width, to.x, to.width),
        y: share(p.y, from.y, from.height, to.y, to.height),
      });
      return { ...layer, place: { ...place, from: lay(place.from), to: lay(place.to) } };
    }
    case 'band': {
      const across = place.side === 'left' || place.side === 'right';
      return { ...layer, place: { ...place, size: Math.max(1, across ? to.width : to.height) } };
    }
    case 'around':
      return {
        ...layer,
        place: {
          ...place,
          across: room(place.across + (to.width - from.width) / 2),
          down: room(place.down + (to.height - from.height) / 2),
          last: to,
        },
      };
  }
}

/** A block of words that wraps or fills laid into another box, canvas px; only what fills takes its height. */
export function blockInBox(layer: WordsLayer, to: Box): WordsLayer {
  const { sizing } = layer;
  const share = alignShare[layer.paragraphs[0]!.align];
  const place = { x: to.x + to.width * share, y: to.y };
  if (sizing.kind === 'grow') return { ...layer, place };
  const width = Math.max(1, to.width);
  return {
    ...layer,
    place,
    sizing: sizing.kind === 'wrap' ? { ...sizing, width } : { ...sizing, width, height: Math.max(1, to.height) },
  };
}

/** What moves when a layer is moved: a note's words, since it goes where they are; else the layer itself. */
export function carriedBy(layer: Layer, { layers }: { readonly layers: readonly Layer[] }): Layer {
  if (layer.role !== 'shape' || layer.place.mode !== 'around') return layer;
  const { words } = layer.place;
  return layers.find((l) => l.id === words) ?? layer;
}

/** A layer made `by` times as large, in proportion; a picture about its middle, words about their anchor. */
export function scaledLayer<L extends Layer>(layer: L, by: number, canvas: Size): L {
  if (layer.role === 'words') return scaledWords(layer, by) as L;
  if (layer.role === 'shape') {
    const about =
      layer.place.mode === 'box' ? middleOf(layer.place.box) : { x: canvas.width / 2, y: canvas.height / 2 };
    return scaledShape(layer, by, about) as L;
  }
  if (!isPicture(layer)) return layer;
  const b = placedBox(layer, canvas);
  const box = {
    x: b.x + (b.width * (1 - by)) / 2,
    y: b.y + (b.height * (1 - by)) / 2,
    width: b.width * by,
    height: b.height * by,
  };
  return { ...layer, place: placeFor(layer, box, canvas) };
}

/** A layer turned to an angle (degrees clockwise) about its own middle; a picture that covers the canvas goes on covering it. */
export function turnedLayer<L extends Layer>(layer: L, degrees: number): L {
  if (layer.role === 'veil' || (layer.role === 'shape' && layer.form.kind === 'line')) return layer;
  return { ...layer, turn: plainAngle(degrees) };
}

/** A picture mirrored where it stands, as in a mirror beside it: the same part of it the other way round. */
export function flippedLayer(layer: PictureLayer, axis: 'across' | 'down'): PictureLayer {
  return { ...layer, flip: { ...layer.flip, [axis]: !layer.flip[axis] }, turn: plainAngle(-layer.turn) };
}

/**
 * A picture drawn wider than true by `stretch` (1 is true), its width kept: a deliberate choice, never a
 * by-product of anything.
 */
export function stretchedLayer(layer: PictureLayer, stretch: number, canvas: Size): PictureLayer {
  return { ...layer, place: freePlace(placedBox(layer, canvas), stretch) };
}

/** A canvas at least so many times as wide as high has ends. */
const WIDE = 2.2;

/** Share of a wide canvas that is an end of it. */
const END = 0.28;

/**
 * A picture that was let go at an end of a wide canvas stands there: a photo as high as the canvas, at its edge; a logo
 * as large as it is, off the edge by as much as above it. Elsewhere it stays as it was. Canvas px.
 */
export function atEnd(layer: PictureLayer, at: Point, canvas: Size): PictureLayer {
  const share = at.x / canvas.width;
  if (canvas.width < WIDE * canvas.height || share < 0 || share > 1 || (share > END && share < 1 - END)) return layer;
  const photo = layer.role === 'photo';
  const { natural } = layer;
  const box = photo
    ? { width: (natural.width * canvas.height) / natural.height, height: canvas.height }
    : placedBox(layer, canvas);
  const off = photo ? 0 : Math.max(0, Math.min((canvas.height - box.height) / 2, canvas.width / 8));
  const x = share < 0.5 ? off : canvas.width - box.width - off;
  return { ...layer, place: freePlace({ x, y: (canvas.height - box.height) / 2, width: box.width }, 1) };
}
