import { enclosing, grown, intersection, moved, outward, scaled, type Box, type Point } from '../geometry/box';
import { middleOf, turnedBounds, turnedPoint } from '../geometry/turn';
import type { Cutout, SideName } from '../pixels/appearance';
import { isPicture, type Backdrop, type Graphic, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import type { CanvasWindow } from '../graphic/frame';
import type { Fill } from '../colour/fill';
import type { ShapeBorder, ShapeForm, ShapeLayer, VeilLayer } from '../graphic/shape';
import { behindBoxes, shapeBox, shapeOutline, veilBox, veilReach, type Scene } from '../graphic/shape-geometry';
import { coverFrame, pictureGeometry } from '../graphic/picture-geometry';
import type { Reduction } from '../pixels/reduce';
import { groundBox, layoutOf, wordsExtent, type WordsLayout } from '../words/layout';
import type { Outline } from '../words/outline';
import type { Shaper } from '../words/shaper';
import {
  fadeLine,
  isPlainLook,
  shadowOf,
  shadowReach,
  type FadeLine,
  type Finish,
  type ShadowFinish,
} from '../pixels/finishing';

/** How a picture is taken from its file: mirrored first, then turned clockwise by quarters. */
export interface Orient {
  readonly across: boolean;
  readonly down: boolean;
  readonly quarters: number;
}

/**
 * A prepared piece of picture that painting needs: made in a worker, known by its key. The boxes of the reduction
 * are in the surface's own directions, `place` is where the finished surface lies on the frame. Device px.
 */
export interface SurfaceNeed extends Reduction {
  readonly key: string;
  /** Names the reduction alone, before anything was done to it. */
  readonly base: string;
  readonly asset: string;
  readonly natural: { readonly width: number; readonly height: number };
  readonly opaque: boolean;
  readonly vector: boolean;
  readonly orient: Orient;
  readonly cutout: Cutout | null;
  /** Null: painted as it was reduced. */
  readonly finish: Finish | null;
  readonly place: Box;
}

/** How a rough picture stands in for a surface: its boxes upright, then turned about the pivot. Device px. */
export interface RoughPlace {
  readonly image: Box;
  readonly shown: Box;
  readonly degrees: number;
  readonly pivot: Point;
  readonly flip: PictureLayer['flip'];
  readonly finish: Finish;
}

export type PaintOperation =
  | { readonly kind: 'fill'; readonly fill: Exclude<Backdrop, { kind: 'none' }> }
  | {
      readonly kind: 'picture';
      readonly layer: string;
      readonly need: SurfaceNeed;
      readonly opacity: number;
      readonly rough: RoughPlace;
    }
  | {
      readonly kind: 'words';
      readonly layer: string;
      readonly layout: WordsLayout;
      readonly look: WordsLook;
      /** Only what stands under the letters: their ground, shadow and outline. */
      readonly under: boolean;
    }
  | ({ readonly kind: 'shape'; readonly layer: string } & ShapeLook)
  | {
      readonly kind: 'veil';
      readonly layer: string;
      readonly sheet: VeilSheet;
      readonly colour: string;
      readonly strength: number;
    };

/** A shape as it is painted. Canvas px, but for the shadow, which is in device px. */
export interface ShapeLook {
  readonly form: ShapeForm['kind'];
  readonly box: Box;
  /** A bubble or a path. */
  readonly outline: Outline | null;
  /** A line. */
  readonly ends: { readonly from: Point; readonly to: Point } | null;
  readonly corners: Finish['corners'];
  readonly fill: Fill;
  readonly border: ShapeBorder | null;
  readonly shadow: ShadowFinish | null;
  readonly opacity: number;
  readonly turn: { readonly degrees: number; readonly about: Point } | null;
  /** To be painted on a sheet of its own first: parts of it overlap, and all of it lets through what is below. */
  readonly apart: boolean;
}

/**
 * Where a veil lies, canvas px: a box of one opacity; a box along whose line it comes up over a share of the way
 * (`rise`) and gives way over another (`fall`); soft boxes behind words.
 */
export type VeilSheet =
  | { readonly kind: 'even'; readonly box: Box }
  | { readonly kind: 'fade'; readonly box: Box; readonly line: FadeLine; readonly rise: number; readonly fall: number }
  | { readonly kind: 'behind'; readonly boxes: readonly Box[]; readonly blur: number };

/** What is around letters and how all of it is turned. Canvas px, but for the shadow, which is in device px. */
export interface WordsLook {
  readonly outline: WordsLayer['outline'];
  readonly ground: WordsLayer['ground'];
  readonly groundBox: Box | null;
  readonly shadow: ShadowFinish | null;
  readonly turn: { readonly degrees: number; readonly about: Point } | null;
}

/** What to paint, back to front, for a frame at a scale. Device px = canvas px × scale, from the frame's corner. */
export interface Plan {
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly origin: { readonly x: number; readonly y: number };
  readonly operations: readonly PaintOperation[];
}

export interface PlanOptions {
  /** Paint only what lies below this layer, */
  readonly below?: string;
  /** … and, where it is words, what of it stands under its letters. */
  readonly withGround?: boolean;
  /** Paint only what lies above this layer, without the backdrop. */
  readonly above?: string;
  /** Paint this layer alone, without the backdrop. */
  readonly only?: string;
}

const figure = (n: number) => Math.round(n * 1e4) / 1e4;
const boxKey = (b: Box) => [b.x, b.y, b.width, b.height].map(figure).join(',');

/** Room that resampling at an angle looks at around each pixel, device px. */
const TURN_ROOM = 4;

function cornersOf(layer: PictureLayer, scale: number, quarters: number): Finish['corners'] {
  const { corners } = layer;
  if (corners.kind === 'straight') return null;
  if (corners.kind === 'round') return 'round';
  const r = corners.radii.map((n) => n * scale);
  // Turned clockwise, what was bottom left comes to the top left.
  return [0, 1, 2, 3].map((i) => r[(i - quarters + 8) % 4]!) as [number, number, number, number];
}

/** What a picture's frame lacks to the whole canvas, seen in the surface's own directions; null where it lies askew. */
function beyondOf(layer: PictureLayer, bounds: Box, askew: boolean): Finish['beyond'] {
  return layer.beyond && !askew ? { style: layer.beyond.style, box: bounds } : null;
}

const isPlain = (f: Finish): boolean =>
  !f.look && !f.tint && !f.corners && !f.border && !f.fades.length && !f.beyond && !f.turn && !f.shadow;

/** The surface a picture layer needs within `bounds` (device px), and its rough stand-in; null where none of it shows. */
export function surfaceFor(
  layer: PictureLayer,
  graphic: Graphic,
  frame: CanvasWindow,
  scale: number,
  bounds: Box,
): { need: SurfaceNeed; rough: RoughPlace } | null {
  const toDevice = (b: Box) => scaled({ ...b, x: b.x - frame.rect.x, y: b.y - frame.rect.y }, scale);
  const geometry = pictureGeometry(layer, graphic.canvas);
  const pivot = { x: (geometry.pivot.x - frame.rect.x) * scale, y: (geometry.pivot.y - frame.rect.y) * scale };
  // A frame goes around what is seen of a covering picture, not around what lies past the canvas.
  const framed = layer.place.mode === 'cover' && (layer.border !== null || layer.corners.kind !== 'straight');
  const seen = framed ? intersection(geometry.shown, coverFrame(layer, graphic.canvas)) : null;
  const upright = { image: toDevice(geometry.image), shown: toDevice(seen ?? geometry.shown) };
  // Quarter turns are taken with the pixels themselves; only what is left has to be resampled.
  const quarters = ((Math.round(layer.turn / 90) % 4) + 4) % 4;
  const rest = layer.turn - Math.round(layer.turn / 90) * 90;
  const image = turnedBounds(upright.image, quarters * 90, pivot);
  const shown = turnedBounds(upright.shown, quarters * 90, pivot);
  const fades: FadeLine[] = layer.fades.map((fade) => fadeLine(fade, upright.shown));
  const common = {
    look: isPlainLook(layer.look) ? null : layer.look,
    tint: layer.tint,
    border: layer.border && { width: layer.border.width * scale, colour: layer.border.colour },
    beyond: beyondOf(layer, bounds, rest !== 0 || layer.corners.kind !== 'straight'),
    shadow: shadowOf(layer, scale),
  };
  const finish: Finish = {
    ...common,
    frame: shown,
    corners: cornersOf(layer, scale, quarters),
    fades: fades.map(({ from, to }) => ({
      from: turnedPoint(from, quarters * 90, pivot),
      to: turnedPoint(to, quarters * 90, pivot),
    })),
    turn: rest === 0 ? null : { degrees: rest, about: pivot },
  };
  const { shadow } = common;
  // What lies off the frame can still throw its shadow onto it.
  const reach = shadow ? shadowReach(shadow) : 0;
  const caster = shadow ? grown(moved(bounds, { x: -shadow.x, y: -shadow.y }), reach) : bounds;
  const wanted = enclosing([bounds, caster])!;
  const visible = intersection(shown, rest === 0 ? wanted : grown(turnedBounds(wanted, -rest, pivot), TURN_ROOM));
  if (!visible) return null;
  const out = outward(visible);
  let drawn = rest === 0 ? out : turnedBounds(out, rest, pivot);
  if (common.beyond) drawn = bounds;
  if (shadow) drawn = enclosing([drawn, grown(moved(drawn, shadow), reach)])!;
  const onFrame = intersection(drawn, bounds);
  if (!onFrame) return null;
  const plain = isPlain(finish);
  const place = plain ? out : outward(onFrame);
  const orient = { ...layer.flip, quarters };
  const cut = layer.cutout ? JSON.stringify(layer.cutout) : '';
  const oriented = `${Number(orient.across)}${Number(orient.down)}${quarters}`;
  const base = `${layer.asset}|${cut}|${oriented}|${boxKey(image)}|${boxKey(shown)}|${boxKey(out)}`;
  return {
    need: {
      key: plain ? base : `${base}|${JSON.stringify(finish)}|${boxKey(place)}`,
      base,
      asset: layer.asset,
      natural: layer.natural,
      opaque: layer.opaque && !layer.cutout,
      vector: layer.vector,
      orient,
      cutout: layer.cutout,
      image,
      // At an angle the frame's edges are covered in part only once turned.
      shown: rest === 0 ? shown : outward(shown),
      out,
      finish: plain ? null : finish,
      place,
    },
    rough: {
      ...upright,
      degrees: layer.turn,
      pivot,
      flip: layer.flip,
      finish: { ...common, frame: upright.shown, corners: cornersOf(layer, scale, 0), fades, turn: null },
    },
  };
}

function wordsOperation(layer: WordsLayer, shaper: Shaper, scale: number, under: boolean): PaintOperation {
  const layout = layoutOf(layer, shaper);
  const { outline, ground, turn } = layer;
  return {
    kind: 'words',
    layer: layer.id,
    layout,
    under,
    look: {
      outline,
      ground,
      groundBox: groundBox(layer, layout),
      shadow: shadowOf(layer, scale),
      turn: turn === 0 ? null : { degrees: turn, about: middleOf(wordsExtent(layer, layout)) },
    },
  };
}

/** A line's ends, shifted by less than a device px where it runs level or upright, so that its edge is sharp. Canvas px. */
function sharpEnds({ from, to }: { from: Point; to: Point }, width: number, scale: number): { from: Point; to: Point } {
  const onPixel = (n: number) => Math.round((n - width / 2) * scale) / scale + width / 2;
  if (from.y === to.y) return { from: { ...from, y: onPixel(from.y) }, to: { ...to, y: onPixel(to.y) } };
  if (from.x === to.x) return { from: { ...from, x: onPixel(from.x) }, to: { ...to, x: onPixel(to.x) } };
  return { from, to };
}

function shapeOperation(layer: ShapeLayer, scene: Scene, shaper: Shaper, scale: number): PaintOperation {
  const { form, place, corners, fill, border, opacity, turn } = layer;
  const box = shapeBox(layer, scene, shaper);
  return {
    kind: 'shape',
    layer: layer.id,
    form: form.kind,
    box,
    outline: shapeOutline(layer, box),
    ends: place.mode === 'line' ? sharpEnds(place, border?.width ?? 0, scale) : null,
    corners: corners.kind === 'rounded' ? corners.radii : corners.kind === 'round' ? 'round' : null,
    fill,
    border,
    shadow: shadowOf(layer, scale),
    opacity,
    turn: turn === 0 || place.mode === 'line' ? null : { degrees: turn, about: middleOf(box) },
    apart: opacity < 1 && border !== null && fill.kind !== 'none',
  };
}

/** The sheet of a veil; null where it has nothing to lie behind. */
function veilSheet(layer: VeilLayer, scene: Scene, shaper: Shaper): VeilSheet | null {
  const { form } = layer;
  const box = veilBox(layer, scene, shaper);
  // Where it reaches past the canvas it fades as if that went on.
  const reach = veilReach(layer, scene, shaper);
  if (!box || !reach) return null;
  switch (form.kind) {
    case 'whole':
      return { kind: 'even', box };
    case 'behind':
      return { kind: 'behind', boxes: behindBoxes(layer, scene, shaper), blur: form.soft };
    case 'side':
      return {
        kind: 'fade',
        box,
        line: fadeLine({ kind: 'side', side: opposite[form.side], length: 1 }, reach),
        rise: 0,
        fall: 1,
      };
    case 'band': {
      const soft = Math.min(0.5, form.soft / form.size);
      if (soft <= 0) return { kind: 'even', box };
      const side = form.way === 'across' ? 'bottom' : 'right';
      return { kind: 'fade', box, line: fadeLine({ kind: 'side', side, length: 1 }, reach), rise: soft, fall: soft };
    }
  }
}

const opposite: Record<SideName, SideName> = { left: 'right', right: 'left', top: 'bottom', bottom: 'top' };

/**
 * Phase one of painting: lists the surfaces needed and the operations in order.
 * `scale` is device px per canvas px. The plan's size is the frame's in whole
 * device px, rounded up (see `filePixels`).
 */
export function plan(
  graphic: Graphic,
  frame: CanvasWindow,
  scale: number,
  shaper: Shaper,
  options: PlanOptions = {},
): Plan {
  const width = Math.max(1, Math.ceil(frame.rect.width * scale - 1e-6));
  const height = Math.max(1, Math.ceil(frame.rect.height * scale - 1e-6));
  const bounds = { x: 0, y: 0, width, height };
  // A fractional slot gets whole pixels; the picture bleeds over the last part pixel, so paint a hair larger.
  const bleed = Math.max(width / (frame.rect.width * scale), height / (frame.rect.height * scale));
  const effective = bleed > 1 + 1e-9 ? scale * bleed : scale;
  const operations: PaintOperation[] = [];
  if (graphic.backdrop.kind !== 'none' && !options.only && !options.above)
    operations.push({ kind: 'fill', fill: graphic.backdrop });
  const from = options.above ? graphic.layers.findIndex((l) => l.id === options.above) + 1 : 0;
  for (const layer of graphic.layers.slice(from)) {
    if (layer.id === options.below) {
      if (options.withGround && layer.role === 'words') operations.push(wordsOperation(layer, shaper, effective, true));
      break;
    }
    if (!layer.visible || (options.only && layer.id !== options.only)) continue;
    if (layer.role === 'words') operations.push(wordsOperation(layer, shaper, effective, false));
    else if (layer.role === 'shape') {
      if (layer.opacity > 0) operations.push(shapeOperation(layer, graphic, shaper, effective));
    } else if (layer.role === 'veil') {
      const { colour, strength } = layer;
      const sheet = strength > 0 ? veilSheet(layer, graphic, shaper) : null;
      if (sheet) operations.push({ kind: 'veil', layer: layer.id, sheet, colour, strength });
    } else if (isPicture(layer) && layer.opacity > 0) {
      const surface = surfaceFor(layer, graphic, frame, effective, bounds);
      if (surface) operations.push({ kind: 'picture', layer: layer.id, opacity: layer.opacity, ...surface });
    }
  }
  return { width, height, scale: effective, origin: { x: frame.rect.x, y: frame.rect.y }, operations };
}

/** The surfaces a plan needs. */
export function surfacesOf(p: Plan): SurfaceNeed[] {
  return p.operations.flatMap((o) => (o.kind === 'picture' ? [o.need] : []));
}

/** Names a whole picture as it looks before it is placed: for its rough stand-in. */
export function roughKey(need: Pick<SurfaceNeed, 'asset' | 'cutout' | 'finish'>): string {
  const { cutout, finish } = need;
  const look = finish && (finish.look || finish.tint) ? JSON.stringify([finish.look, finish.tint]) : '';
  return `${need.asset}|${cutout ? JSON.stringify(cutout) : ''}|${look}`;
}
