import type { Point, Size } from '../geometry/box';
import { movedWords } from '../words/layout';
import type { Layer, WordsLayer } from './graphic';
import { pictureGeometry, placeFor } from './picture-geometry';

/** A layer moved by an offset (canvas px), its intent kept where it can be. */
export function movedLayer<L extends Layer>(layer: L, by: Point, canvas: Size): L {
  if (layer.role === 'words') return movedWords(layer, by) as L;
  const { shown } = pictureGeometry(layer, canvas);
  return { ...layer, place: placeFor(layer, { ...shown, x: shown.x + by.x, y: shown.y + by.y }, canvas) };
}

/** A words layer with every size times `by`, to tenths of a px; its anchor stays. */
export function scaledWords(layer: WordsLayer, by: number): WordsLayer {
  const size = (n: number) => Math.min(4000, Math.max(1, Math.round(n * by * 10) / 10));
  return {
    ...layer,
    paragraphs: layer.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, size: size(r.size) })) })),
  };
}

/** A layer made `by` times as large, in proportion; a picture about its middle, words about their anchor. */
export function scaledLayer<L extends Layer>(layer: L, by: number, canvas: Size): L {
  if (layer.role === 'words') return scaledWords(layer, by) as L;
  const { shown: b } = pictureGeometry(layer, canvas);
  const box = {
    x: b.x + (b.width * (1 - by)) / 2,
    y: b.y + (b.height * (1 - by)) / 2,
    width: b.width * by,
    height: b.height * by,
  };
  return { ...layer, place: placeFor(layer, box, canvas) };
}
