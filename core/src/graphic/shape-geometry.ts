import { bottom, enclosing, grown, intersection, right, type Box, type Point } from '../geometry/box';
import { middleOf, turnedBounds } from '../geometry/turn';
import { layoutOf, wordsBounds, wordsExtent } from '../words/layout';
import { CLOSE, CUBIC, LINE, MOVE, QUAD, type Outline } from '../words/outline';
import type { Shaper } from '../words/shaper';
import type { SideName } from '../pixels/appearance';
import type { Change } from './edit';
import type { Graphic, Layer, WordsLayer } from './graphic';
import { isPicture } from './graphic';
import { pictureBounds, placedBox } from './picture-geometry';
import type { ShapeForm, ShapeLayer, VeilLayer } from './shape';

/** What boxes are derived from. */
export interface Scene extends Pick<Graphic, 'canvas'> {
  readonly layers: readonly Layer[];
}

/** A strip of the canvas along one side, canvas px. */
export function alongSide(side: SideName, size: number, { width, height }: Graphic['canvas']): Box {
  switch (side) {
    case 'left':
      return { x: 0, y: 0, width: size, height };
    case 'right':
      return { x: width - size, y: 0, width: size, height };
    case 'top':
      return { x: 0, y: 0, width, height: size };
    case 'bottom':
      return { x: 0, y: height - size, width, height: size };
  }
}

/** The box a shape is made from, canvas px, before its turn; for a line the box around its ends. */
export function shapeBox(layer: ShapeLayer, scene: Scene, shaper: Shaper): Box {
  const { place } = layer;
  switch (place.mode) {
    case 'box':
      return place.box;
    case 'line': {
      const { from, to } = place;
      const [x, y] = [Math.min(from.x, to.x), Math.min(from.y, to.y)];
      return { x, y, width: Math.max(from.x, to.x) - x, height: Math.max(from.y, to.y) - y };
    }
    case 'band':
      return alongSide(place.side, place.size, scene.canvas);
    case 'around': {
      const words = scene.layers.find((l): l is WordsLayer => l.role === 'words' && l.id === place.words);
      if (!words) return place.last;
      const layout = layoutOf(words, shaper);
      const within =
        words.turn === 0 ? layout.box : turnedBounds(layout.box, words.turn, middleOf(wordsExtent(words, layout)));
      return {
        x: within.x - place.across,
        y: within.y - place.down,
        width: within.width + 2 * place.across,
        height: within.height + 2 * place.down,
      };
    }
  }
}

/** The control distance with which a cubic follows a quarter of a circle; common practice, no source. */
const QUARTER = 0.5522847498;

/**
 * A rounded box with a tail to a point, one way round, canvas px. The tail leaves the side that the point lies
 * furthest beyond; a point within the box has none.
 */
function bubbleOutline(b: Box, tip: Point, radius: number): Outline {
  const r = Math.min(radius, b.width / 2, b.height / 2);
  const beyond = { top: b.y - tip.y, right: tip.x - right(b), bottom: tip.y - bottom(b), left: b.x - tip.x };
  const side = (Object.keys(beyond) as (keyof typeof beyond)[]).reduce((a, c) => (beyond[c] > beyond[a] ? c : a));
  const along = side === 'top' || side === 'bottom';
  const [from, length] = along ? [b.x + r, b.width - 2 * r] : [b.y + r, b.height - 2 * r];
  const foot = beyond[side] > 0 ? Math.min(length, Math.max(10, Math.min(b.width, b.height) * 0.4)) : 0;
  const middle = Math.min(from + length - foot / 2, Math.max(from + foot / 2, along ? tip.x : tip.y));
  const tail = (name: keyof typeof beyond): number[] => {
    if (name !== side || foot <= 0) return [];
    // Clockwise: left to right along the top, downwards at the right.
    const [first, second] =
      side === 'top' || side === 'right'
        ? [middle - foot / 2, middle + foot / 2]
        : [middle + foot / 2, middle - foot / 2];
    const at = { top: b.y, right: right(b), bottom: bottom(b), left: b.x }[side];
    const [p, q] = along
      ? [
          [first, at],
          [second, at],
        ]
      : [
          [at, first],
          [at, second],
        ];
    return [LINE, ...p, LINE, tip.x, tip.y, LINE, ...q];
  };
  const k = r * (1 - QUARTER);
  const [l, t, e, d] = [b.x, b.y, right(b), bottom(b)];
  return [
    ...[MOVE, l + r, t, ...tail('top'), LINE, e - r, t, CUBIC, e - k, t, e, t + k, e, t + r],
    ...[...tail('right'), LINE, e, d - r, CUBIC, e, d - k, e - k, d, e - r, d],
    ...[...tail('bottom'), LINE, l + r, d, CUBIC, l + k, d, l, d - k, l, d - r],
    ...[...tail('left'), LINE, l, t + r, CUBIC, l, t + k, l + k, t, l + r, t, CLOSE],
  ];
}

const commands: Record<string, number> = { M: MOVE, L: LINE, Q: QUAD, C: CUBIC, Z: CLOSE };

/** Path data of absolute M, L, C, Q and Z as an outline, its sheet laid into a box. */
function pathOutline({ data, width, height }: ShapeForm & { kind: 'path' }, b: Box): Outline {
  const outline: number[] = [];
  let x = true;
  for (const [token] of data.matchAll(/[MLQCZ]|-?[\d.]+(?:e-?\d+)?/g)) {
    const command = commands[token];
    if (command !== undefined) {
      outline.push(command);
      x = true;
      continue;
    }
    outline.push(x ? b.x + (Number(token) / width) * b.width : b.y + (Number(token) / height) * b.height);
    x = !x;
  }
  return outline;
}

/** The outline of a bubble or a path in its box, canvas px, before its turn; null for the forms a context draws itself. */
export function shapeOutline(layer: ShapeLayer, box: Box): Outline | null {
  const { form, corners } = layer;
  if (form.kind === 'path') return pathOutline(form, box);
  if (form.kind !== 'bubble') return null;
  const tip = { x: box.x + form.tip.x * box.width, y: box.y + form.tip.y * box.height };
  const radius =
    corners.kind === 'straight' ? 0 : corners.kind === 'rounded' ? corners.radii[0] : Math.min(box.width, box.height);
  return bubbleOutline(box, tip, radius);
}

/** How far a shape's border reaches over its box, canvas px: it lies within but where there is nothing to lie within. */
const overEdge = ({ form, border }: ShapeLayer): number =>
  border && (form.kind === 'line' || form.kind === 'bubble' || form.kind === 'path') ? border.width / 2 : 0;

/** The upright box around what a shape draws but its shadow, canvas px. */
export function shapeBounds(layer: ShapeLayer, scene: Scene, shaper: Shaper): Box {
  const box = shapeBox(layer, scene, shaper);
  if (layer.form.kind === 'line') return grown(box, overEdge(layer));
  const tip =
    layer.form.kind === 'bubble'
      ? { x: box.x + layer.form.tip.x * box.width, y: box.y + layer.form.tip.y * box.height, width: 0, height: 0 }
      : box;
  return turnedBounds(grown(enclosing([box, tip])!, overEdge(layer)), layer.turn, middleOf(box));
}

/** What takes a layer away: notes around words that go stay where they are seen. */
export function removing(layer: Layer, scene: Scene, shaper: Shaper | null): Change {
  const notes = scene.layers.filter(
    (l): l is ShapeLayer => l.role === 'shape' && l.place.mode === 'around' && l.place.words === layer.id,
  );
  const remove: Change = { type: 'remove-layer', id: layer.id };
  if (!notes.length || !shaper) return remove;
  const kept = notes.map((note): Change => {
    const place = { mode: 'box' as const, box: shapeBox(note, scene, shaper) };
    return { type: 'replace-layer', layer: { ...note, place } };
  });
  return { type: 'together', edits: [...kept, remove] };
}

/** The words a veil is for: those named, or all that are to be seen in front of it. */
export function veiledWords(layer: VeilLayer, layers: readonly Layer[]): WordsLayer[] {
  const words = layers.filter((l): l is WordsLayer => l.role === 'words' && l.visible);
  if (layer.words.length) return words.filter((l) => layer.words.includes(l.id));
  const at = layers.findIndex((l) => l.id === layer.id);
  return words.filter((l) => layers.indexOf(l) > at);
}

/**
 * The boxes whose blurred edges (σ half of `soft`) are a veil behind words, canvas px: so far out that it is whole up to
 * `grow` around them.
 */
export function behindBoxes(layer: VeilLayer, scene: Scene, shaper: Shaper): Box[] {
  if (layer.form.kind !== 'behind') return [];
  const { grow, soft } = layer.form;
  return veiledWords(layer, scene.layers).map((w) => grown(wordsBounds(w, layoutOf(w, shaper)), grow + soft));
}

/** What of the canvas lies within the border of a photo that covers it, below a layer: a veil leaves a frame as it is. */
function withinFrame(layer: Layer, { layers, canvas }: Scene): Box {
  const whole = { x: 0, y: 0, ...canvas };
  const below = layers.slice(
    0,
    Math.max(
      0,
      layers.findIndex((l) => l.id === layer.id),
    ),
  );
  const photo = below.findLast((l) => isPicture(l) && l.visible && l.place.mode === 'cover');
  const width = photo && isPicture(photo) && photo.turn % 90 === 0 ? (photo.border?.width ?? 0) : 0;
  return 2 * width < Math.min(canvas.width, canvas.height) ? grown(whole, -width) : whole;
}

/** The box a veil lies in, canvas px; null where it has no words to lie behind, or lies wholly on a frame. */
export function veilBox(layer: VeilLayer, scene: Scene, shaper: Shaper): Box | null {
  const box = veilReach(layer, scene, shaper);
  return box && layer.form.kind !== 'behind' ? intersection(box, withinFrame(layer, scene)) : box;
}

/** The box a veil would lie in on an endless canvas, canvas px: over which it goes from whole to gone. */
export function veilReach(layer: VeilLayer, scene: Scene, shaper: Shaper): Box | null {
  const { form } = layer;
  const { width, height } = scene.canvas;
  switch (form.kind) {
    case 'whole':
      return { x: 0, y: 0, width, height };
    case 'band':
      return form.way === 'across'
        ? { x: 0, y: form.at, width, height: form.size }
        : { x: form.at, y: 0, width: form.size, height };
    case 'side':
      return alongSide(form.side, form.reach, scene.canvas);
    case 'behind': {
      const all = enclosing(behindBoxes(layer, scene, shaper));
      return all && grown(all, form.soft);
    }
  }
}

const nothing: Box = { x: 0, y: 0, width: 0, height: 0 };

/** What the selection encloses: the upright box around all that a layer draws but its shadow. Canvas px. */
export function layerBounds(layer: Layer, scene: Scene, shaper: Shaper): Box {
  if (isPicture(layer)) return pictureBounds(layer, scene.canvas);
  if (layer.role === 'words') return wordsBounds(layer, layoutOf(layer, shaper));
  return layer.role === 'shape' ? shapeBounds(layer, scene, shaper) : (veilBox(layer, scene, shaper) ?? nothing);
}

/** The box that handles hold, to be turned about its middle. Canvas px. */
export function heldBox(layer: Layer, scene: Scene, shaper: Shaper): Box {
  if (isPicture(layer)) return placedBox(layer, scene.canvas);
  if (layer.role === 'words') return wordsExtent(layer, layoutOf(layer, shaper));
  return layer.role === 'shape' ? shapeBox(layer, scene, shaper) : (veilBox(layer, scene, shaper) ?? nothing);
}
