import type {
  Graphic,
  PictureLayer,
  PlacedPicture,
  Point,
  Replacement,
  ShapeForm,
  ShapeLayer,
  ShapePlace,
  VeilLayer,
  WordsLayer,
} from '@bright-slot/core';
import { containBox, contrast, limits, nameFrom, newWords, plainAppearance } from '@bright-slot/core';
import type { AssetRecord } from '../storage/database';

const layerId = () => crypto.randomUUID().slice(0, 8);

/**
 * A layer for a picture: a photo covers the canvas in proportion, whatever its
 * size; a logo (a drawing, or a picture with transparent parts or a plain sheet around it) arrives whole.
 */
export function pictureLayer(asset: AssetRecord, graphic: Graphic, as?: 'photo' | 'logo'): PictureLayer {
  const vector = asset.type === 'svg';
  const role = as ?? (vector || !asset.opaque || asset.flatBorder ? 'logo' : 'photo');
  const { canvas } = graphic;
  const natural = { width: asset.width, height: asset.height };
  const common = {
    id: layerId(),
    name: nameFrom(asset.name, limits.name, 'Picture'),
    visible: true,
    locked: false,
    role,
    asset: asset.hash,
    natural,
    opaque: asset.opaque,
    vector,
    crop: null,
    ...plainAppearance,
    focus: asset.focus ?? plainAppearance.focus,
  };
  if (role === 'photo') return { ...common, place: { mode: 'cover', focus: common.focus, zoom: 1 } };
  const room = { width: canvas.width * 0.6, height: canvas.height * 0.64 };
  const box = containBox(natural, {
    x: (canvas.width - room.width) / 2,
    y: (canvas.height - room.height) / 2,
    ...room,
  });
  // A pixel logo is not enlarged on arrival.
  const by = vector ? 1 : Math.min(1, natural.width / box.width);
  const width = box.width * by;
  const height = box.height * by;
  return { ...common, place: { mode: 'free', x: (canvas.width - width) / 2, y: (canvas.height - height) / 2, width } };
}

/** A stored picture as one that takes another's place; `focus` where it has none of its own. */
export function replacement(asset: AssetRecord, focus: Point): Replacement {
  const { hash, name, width, height, opaque, type } = asset;
  return {
    asset: hash,
    name: nameFrom(name, limits.name, 'Picture'),
    natural: { width, height },
    opaque,
    vector: type === 'svg',
    focus: asset.focus ?? focus,
  };
}

/** A stored picture as one that is put in a layout; `about` is what to keep of it in sight, where that was looked at since. */
export function placedPicture(
  asset: AssetRecord,
  about: Pick<PlacedPicture, 'focus' | 'subject'> | null = null,
): PlacedPicture {
  const { hash, name, width, height, opaque, type } = asset;
  return {
    asset: hash,
    name: nameFrom(name, limits.name, 'Picture'),
    natural: { width, height },
    opaque,
    vector: type === 'svg',
    focus: about?.focus ?? asset.focus ?? { x: 0.5, y: 0.5 },
    subject: about?.subject ?? asset.subject ?? null,
  };
}

/** A line of words in the middle of the canvas (see `newWords`). */
export const wordsLayer = (graphic: Graphic, text: string): WordsLayer => newWords(graphic, text, layerId());

/** The shapes that can be added. */
export type ShapeKind = 'rectangle' | 'rounded' | 'ellipse' | 'line' | 'rule' | 'band' | 'note' | 'bubble';

export const shapeNames: Record<ShapeKind, string> = {
  rectangle: 'Rectangle',
  rounded: 'Rounded rectangle',
  ellipse: 'Ellipse',
  line: 'Line',
  rule: 'Rule',
  band: 'Band',
  note: 'Note',
  bubble: 'Speech bubble',
};

const straight = { kind: 'straight' } as const;
const rounded = (r: number) => ({ kind: 'rounded' as const, radii: [r, r, r, r] as [number, number, number, number] });

/** A shape of a kind, of a size that suits the canvas. A note goes around the words that are given. */
export function shapeLayer(graphic: Graphic, kind: ShapeKind, words?: WordsLayer): ShapeLayer {
  const { width, height } = graphic.canvas;
  const own = (w: number, h: number) => ({ x: (width - w) / 2, y: (height - h) / 2, width: w, height: h });
  const box = own(Math.round(width * 0.3), Math.round(height * 0.4));
  const side = Math.round(Math.min(width, height) * 0.5);
  const level = (share: number): ShapePlace => ({
    mode: 'line',
    from: { x: Math.round((width * (1 - share)) / 2), y: Math.round(height / 2) },
    to: { x: Math.round((width * (1 + share)) / 2), y: Math.round(height / 2) },
  });
  const common = {
    id: layerId(),
    name: shapeNames[kind],
    visible: true,
    locked: false,
    role: 'shape' as const,
    form: { kind: 'rectangle' } as ShapeForm,
    place: { mode: 'box', box } as ShapePlace,
    fill: { kind: 'colour', colour: '#f4e7cb' } as const,
    border: null,
    corners: straight,
    shadow: null,
    opacity: 1,
    turn: 0,
  };
  const ink = (thick: number) => ({ width: thick, colour: '#1f2a30', style: 'solid' as const });
  switch (kind) {
    case 'rectangle':
      return common;
    case 'rounded':
      return { ...common, corners: rounded(16) };
    case 'ellipse':
      return { ...common, form: { kind: 'ellipse' }, place: { mode: 'box', box: own(side, side) } };
    case 'line':
      return { ...common, form: { kind: 'line' }, place: level(0.4), fill: { kind: 'none' }, border: ink(3) };
    case 'rule':
      return { ...common, form: { kind: 'line' }, place: level(0.2), fill: { kind: 'none' }, border: ink(1) };
    case 'band':
      return { ...common, place: { mode: 'band', side: 'bottom', size: Math.round(height * 0.2) } };
    case 'note':
      return {
        ...common,
        place: words ? { mode: 'around', words: words.id, across: 20, down: 12, last: box } : common.place,
        fill: { kind: 'colour', colour: '#ffffff' },
        border: ink(1),
        corners: rounded(6),
        shadow: { distance: 3, angle: 90, blur: 8, colour: '#000000', strength: 0.25 },
      };
    case 'bubble':
      return {
        ...common,
        form: { kind: 'bubble', tip: { x: 0.22, y: 1.4 } },
        fill: { kind: 'colour', colour: '#ffffff' },
        corners: rounded(16),
      };
  }
}

/** A path, as large as half the canvas allows. */
export function pathLayer(graphic: Graphic, form: ShapeForm & { kind: 'path' }, name: string): ShapeLayer {
  const { width, height } = graphic.canvas;
  const room = { x: width / 4, y: height / 4, width: width / 2, height: height / 2 };
  return { ...shapeLayer(graphic, 'rectangle'), name, form, place: { mode: 'box', box: containBox(form, room) } };
}

/** A veil over all of the canvas, its strength to be found where there are words for it. */
export function veilLayer(graphic: Graphic): VeilLayer {
  const words = graphic.layers.find((l): l is WordsLayer => l.role === 'words' && l.visible);
  const pale = words ? contrast(words.paragraphs[0]!.runs[0]!.colour, '#000000') >= 7 : true;
  return {
    id: layerId(),
    name: 'Veil',
    visible: true,
    locked: false,
    role: 'veil',
    form: { kind: 'whole' },
    colour: pale ? '#000000' : '#ffffff',
    strength: 102,
    words: [],
    justEnough: words !== undefined,
  };
}
