import '../zod-setup';
import * as z from 'zod';
import { cornersOf, enclosing, grown, intersection, moved, type Box, type Point } from '../geometry/box';
import { extent } from '../geometry/lengths';
import { clipped } from '../geometry/clip';
import { middleOf, turnedBounds, turnedPoint } from '../geometry/turn';
import type { Frame } from '../graphic/frame';
import type { Graphic, Layer, PictureLayer } from '../graphic/graphic';
import type { ShapeLayer } from '../graphic/shape';
import { heldBox, layerBounds, type Scene } from '../graphic/shape-geometry';
import { newWords } from '../graphic/new-words';
import { limits } from '../limits';
import { plainAppearance } from '../pixels/appearance';
import { bad, good, type Result } from '../problem';
import { safeBoxes } from '../slot/safe';
import type { Slot } from '../slot/slot';
import { AssetHash } from '../values';
import { itemInk, layoutOf, layoutWords } from '../words/layout';
import { outlineData } from '../words/outline';
import type { Shaper } from '../words/shaper';
import { Face, withRuns } from '../words/words';

/** Where a watermark can stand; `room`: in the first of them that has room, what matters on the graphic left free. */
export const watermarkPlaces = [
  'room',
  'top-left',
  'top',
  'top-right',
  'left',
  'middle',
  'right',
  'bottom-left',
  'bottom',
  'bottom-right',
] as const;
export type WatermarkPlace = (typeof watermarkPlaces)[number];

/** Most letters of a watermark. */
export const WATERMARK_LETTERS = 60;

/** A person's own mark over their files: words in white on a soft shade, or a logo as it is. */
export const Watermark = z.object({
  mark: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('words'), text: z.string().min(1).max(WATERMARK_LETTERS), face: Face }),
    z.object({
      kind: z.literal('logo'),
      asset: AssetHash,
      natural: z.object({ width: extent, height: extent }),
      vector: z.boolean(),
      opaque: z.boolean(),
    }),
  ]),
  place: z.enum(watermarkPlaces),
  /** How wide it is, a share of the file's width; less where that would be higher than half of the file. */
  size: z.number().min(0.03).max(1),
  /** Its opacity. */
  strength: z.number().min(0.05).max(1),
  /** Over all of it, at an angle, again and again, rather than once. */
  repeated: z.boolean(),
});
export type Watermark = z.infer<typeof Watermark>;

/** The faces that a watermark is drawn in; without them it is laid out in a substitute. */
export const watermarkFaces = (watermark: Watermark | null): Face[] =>
  watermark?.mark.kind === 'words' ? [watermark.mark.face] : [];

/** Room to the file's edge, a share of its shorter side. Common practice, no source. */
const MARGIN = 0.04;
/** Share of the file's height that a mark has at most. */
const TALLEST = 0.5;
/** How a repeated mark lies, degrees clockwise, and most of them. Common practice, no source. */
const SLANT = -30;
const MOST_MARKS = 60;

type Made = { readonly box: Box; readonly layer: (id: string, box: Box, turn: number) => Layer };

/** A mark as a layer that can be laid anywhere; null where none of its letters can be drawn. */
function made({ mark, size, strength }: Watermark, rect: Box, canvas: Graphic['canvas'], shaper: Shaper): Made | null {
  const sized = (natural: { width: number; height: number }): Box => {
    const scale = Math.min((size * rect.width) / natural.width, (TALLEST * rect.height) / natural.height);
    return { x: 0, y: 0, width: natural.width * scale, height: natural.height * scale };
  };
  const common = { name: 'Watermark', visible: true, locked: true, opacity: strength };
  if (mark.kind === 'logo') {
    const { asset, natural, vector, opaque } = mark;
    const layer = (id: string, b: Box, turn: number): PictureLayer => ({
      ...plainAppearance,
      ...common,
      id,
      role: 'logo',
      asset,
      natural,
      vector,
      opaque,
      crop: null,
      place: { mode: 'free', x: b.x, y: b.y, width: b.width },
      turn,
    });
    return { box: sized(natural), layer };
  }
  const words = withRuns(newWords({ canvas }, mark.text, 'mark'), { face: mark.face, size: 100 });
  const outlines = layoutWords(words, shaper).items.filter((i) => i.kind === 'outline');
  const ink = enclosing(outlines.flatMap((i) => itemInk(i) ?? []));
  if (!ink || ink.width <= 0 || ink.height <= 0) return null;
  const data = outlines.map((i) => outlineData(i.outline, i.scale, i.x - ink.x, i.y - ink.y)).join('');
  if (data.length > limits.path) return null;
  const box = sized(ink);
  const layer = (id: string, b: Box, turn: number): ShapeLayer => ({
    ...common,
    id,
    role: 'shape',
    form: { kind: 'path', data, width: ink.width, height: ink.height },
    place: { mode: 'box', box: b },
    fill: { kind: 'colour', colour: '#ffffff' },
    border: null,
    corners: { kind: 'straight' },
    // Read on any ground: white letters on dark ones, and by the shade around them on pale ones.
    shadow: { distance: 0, angle: 0, blur: Math.max(1, box.height * 0.18), colour: '#000000', strength: 0.85 },
    turn,
  });
  return { box, layer };
}

/** Whether a point of a slot (slot px) is within its outline. */
function within({ shape, width, height }: Pick<Slot, 'shape' | 'width' | 'height'>, p: Point): boolean {
  if (shape.kind === 'rectangle') return true;
  const [rx, ry] = shape.kind === 'ellipse' ? [width / 2, height / 2] : [shape.radius, shape.radius];
  // From the middle of the corner's own quarter.
  const dx = Math.max(0, rx - Math.min(p.x, width - p.x));
  const dy = Math.max(0, ry - Math.min(p.y, height - p.y));
  return dx === 0 || dy === 0 || (dx / rx) ** 2 + (dy / ry) ** 2 <= 1;
}

/** A mark of a size at a place of a slot (slot px), drawn towards the middle until the slot's outline cuts nothing of it. */
function placed(place: WatermarkPlace, { width, height }: Box, slot: Slot): Box {
  const margin = MARGIN * Math.min(slot.width, slot.height);
  const across = place.endsWith('left') ? 0 : place.endsWith('right') ? 1 : 0.5;
  const down = place.startsWith('top') ? 0 : place.startsWith('bottom') ? 1 : 0.5;
  const lay = (a: number, d: number): Box => {
    const x = margin + a * (slot.width - 2 * margin - width);
    const y = margin + d * (slot.height - 2 * margin - height);
    return { x, y, width, height };
  };
  for (let inwards = 0; inwards < 1; inwards += 0.02) {
    const b = lay(across + (0.5 - across) * inwards, down + (0.5 - down) * inwards);
    if (cornersOf(b).every((p) => within(slot, p))) return b;
  }
  return lay(0.5, 0.5);
}

const area = (b: Box | null) => (b ? b.width * b.height : 0);

/** What a mark must not cover: the upright box around it, and what is drawn in that, as convex polygons. Canvas px. */
interface Clear {
  readonly name: string;
  readonly box: Box;
  readonly drawn: readonly (readonly Point[])[];
}

/** What of a graphic a mark must not cover: its words, letter by letter with their outlines, and logos; as they are turned. */
function keepClear(graphic: Scene, shaper: Shaper): Clear[] {
  return graphic.layers.flatMap((l) => {
    if (!l.visible || (l.role !== 'words' && l.role !== 'logo')) return [];
    const held = heldBox(l, graphic, shaper);
    const letters = l.role === 'words' ? layoutOf(l, shaper).items.flatMap((i) => itemInk(i) ?? []) : [];
    const edge = l.role === 'words' ? (l.outline?.width ?? 0) : 0;
    const drawn = (letters.length ? letters.map((b) => grown(b, edge)) : [held]).map((b) =>
      cornersOf(b).map((p) => turnedPoint(p, l.turn, middleOf(held))),
    );
    return { name: l.name, box: layerBounds(l, graphic, shaper), drawn };
  });
}

/** How much of a convex polygon a box covers that is turned about its middle, px². */
function covered(polygon: readonly Point[], box: Box, turn: number): number {
  const about = middleOf(box);
  const seen = clipped(
    polygon.map((p) => turnedPoint(p, -turn, about)),
    box,
  );
  return Math.abs(seen.reduce((n, p, i) => n + p.x * seen.at(i - 1)!.y - seen.at(i - 1)!.x * p.y, 0)) / 2;
}

/** In that order a free place is looked for. Common practice, no source. */
const inOrder: readonly WatermarkPlace[] = [
  'bottom-right',
  'bottom-left',
  'top-right',
  'top-left',
  'bottom',
  'top',
  'right',
  'left',
  'middle',
];

/** Where a single mark goes on the canvas: as it says, or where it covers least of what matters. */
function where(watermark: Watermark, box: Box, graphic: Scene, { rect, slot }: Frame, shaper: Shaper): Box {
  const onCanvas = (b: Box) => moved(b, { x: rect.x, y: rect.y });
  if (watermark.place !== 'room') return onCanvas(placed(watermark.place, box, slot));
  const clear = keepClear(graphic, shaper);
  const safe = safeBoxes(slot);
  const cost = (b: Box) =>
    clear.reduce((n, c) => n + area(intersection(c.box, onCanvas(b))), 0) +
    slot.covered.reduce((n, c) => n + area(intersection(c, b)), 0) +
    // Outside the area that is always shown it may be cut off.
    (area(b) - Math.max(0, ...safe.map((s) => area(intersection(s, b))))) / 4;
  const tried = inOrder.map((p) => placed(p, box, slot)).map((b) => ({ b, cost: cost(b) }));
  return onCanvas(tried.reduce((best, t) => (t.cost < best.cost - 0.5 ? t : best)).b);
}

/** Where a repeated mark goes: in rows at a slant, every other one set off by half, over all of the frame. Canvas px. */
function everywhere(box: Box, rect: Box, most: number): Box[] {
  const turned = turnedBounds(box, SLANT, { x: box.width / 2, y: box.height / 2 });
  const pitch = { x: turned.width * 1.25, y: turned.height * 1.15 };
  const count = (rect.width / pitch.x + 1) * (rect.height / pitch.y + 1);
  const wider = Math.max(1, Math.sqrt(count / most));
  const [px, py] = [pitch.x * wider, pitch.y * wider];
  const boxes: Box[] = [];
  for (let row = 0, y = rect.y + py / 2; y < rect.y + rect.height + py / 2; y += py, row++)
    for (let x = rect.x + (row % 2 ? 0 : px / 2); x < rect.x + rect.width + px / 2; x += px)
      boxes.push({ ...box, x: x - box.width / 2, y: y - box.height / 2 });
  return boxes.slice(0, most);
}

/** A graphic with a watermark over one of its frames, and what of it the mark lies on (names of words and logos). */
export interface Watermarked<G extends Scene> {
  readonly graphic: G;
  readonly covers: readonly string[];
}

/**
 * A graphic as it leaves with a watermark on a frame: layers above all others, canvas px. `shaper` has to have the mark's
 * face. Fails with `nothing-to-draw` and `too-many-layers`.
 */
export function withWatermark<G extends Scene>(
  graphic: G,
  frame: Frame,
  watermark: Watermark,
  shaper: Shaper,
): Result<Watermarked<G>> {
  const { rect } = frame;
  const mark = made(watermark, rect, graphic.canvas, shaper);
  if (!mark) return bad('nothing-to-draw', 'None of the watermark’s letters can be drawn. Write others.');
  const room = limits.layers - graphic.layers.length;
  if (room < 1)
    return bad('too-many-layers', `A graphic of ${limits.layers} layers has no room for a watermark. Take one away.`);
  const boxes = watermark.repeated
    ? everywhere(mark.box, rect, Math.min(MOST_MARKS, room))
    : [where(watermark, mark.box, graphic, frame, shaper)];
  const turn = watermark.repeated ? SLANT : 0;
  const used = new Set(graphic.layers.map((l) => l.id));
  let n = 0;
  const id = () => {
    while (used.has(`watermark-${n}`)) n++;
    return `watermark-${n++}`;
  };
  const layers = boxes.map((b) => mark.layer(id(), b, turn));
  const covers = keepClear(graphic, shaper)
    .filter((c) => boxes.some((b) => c.drawn.some((d) => covered(d, b, turn) > 1)))
    .map((c) => c.name);
  return good({ graphic: { ...graphic, layers: [...graphic.layers, ...layers] }, covers });
}
