import { bottom, right } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import { figure, sizeText, topDensity, type Slot } from '../slot/slot';
import { scaledBorder, scaledCorners, scaledShadow } from '../pixels/appearance';
import { movedLayer, scaledShape, scaledWords } from './arrange';
import { isPicture, type Graphic, type Layer, type PictureLayer } from './graphic';
import { pictureGeometry } from './picture-geometry';
import type { VeilLayer } from './shape';
import { coveringAnew } from './swap';

/** What of a slot is only for the book, and no matter to a graphic made for it. */
const bookOnly = ['name', 'site', 'group', 'source', 'dated'] as const;

const shape = (s: Slot) =>
  s.shape.kind === 'rounded'
    ? `rounded by ${figure(s.shape.radius)} px`
    : s.shape.kind === 'ellipse'
      ? 'round'
      : 'straight';
const fits: Record<Slot['fit'], string> = {
  'fills-centre': 'fills it and cuts from the middle',
  'fills-top': 'fills it and cuts from the top',
  'fits-within': 'fits it within',
  stretches: 'stretches it',
  'asks-crop': 'asks for a crop',
  'top-left': 'shows its top left only',
};

/** What the page does to a picture of another size, in words. */
export const fitText = (fit: Slot['fit']): string => fits[fit];

/** How a slot changed, in words, as far as it matters to a graphic; empty where it does not. */
export function slotChanges(from: Slot, to: Slot): string[] {
  const said: string[] = [];
  const differ = (key: keyof Slot) => JSON.stringify(from[key]) !== JSON.stringify(to[key]);
  if (from.width !== to.width || from.height !== to.height) said.push(`${sizeText(to)} instead of ${sizeText(from)}`);
  if (differ('shape')) said.push(`${shape(to)} instead of ${shape(from)}`);
  if (differ('densities')) said.push(`wanted at ${topDensity(to)}×`);
  if (differ('fit')) said.push(`the page ${fitText(to.fit)}`);
  if (differ('darkening')) said.push(to.darkening?.on ? 'darkened by the page' : 'no longer darkened by the page');
  if (differ('formats')) said.push(`takes ${to.formats.join(', ')}`);
  if (differ('keepsTransparency')) said.push(to.keepsTransparency ? 'keeps transparency' : 'keeps no transparency');
  const named = new Set<string>([
    'width',
    'height',
    'shape',
    'densities',
    'fit',
    'darkening',
    'formats',
    'keepsTransparency',
    ...bookOnly,
  ]);
  const rest = (Object.keys(to) as (keyof Slot)[]).filter((k) => !named.has(k) && differ(k));
  // Shown as wide as it is: that goes without saying.
  const plain = to.shownWidth === to.width && from.shownWidth === from.width;
  if (rest.some((k) => k !== 'shownWidth' || !plain))
    said.push(said.length ? 'and more' : 'what the page does around it');
  return said;
}

/** What of a picture's look is measured in canvas px, times `by`. */
const scaledAppearance = (layer: PictureLayer, by: number): PictureLayer => ({
  ...layer,
  corners: scaledCorners(layer.corners, by),
  border: scaledBorder(layer.border, by),
  shadow: scaledShadow(layer.shadow, by),
});

/** A veil on another canvas: its reach in proportion along its way. */
function scaledVeil(layer: VeilLayer, from: Graphic['canvas'], to: Graphic['canvas']): VeilLayer {
  const { form } = layer;
  const [across, down] = [to.width / from.width, to.height / from.height];
  switch (form.kind) {
    case 'whole':
      return layer;
    case 'band': {
      const by = form.way === 'across' ? down : across;
      return {
        ...layer,
        form: { ...form, at: form.at * by, size: form.size * by, soft: Math.min(2000, form.soft * by) },
      };
    }
    case 'side':
      return {
        ...layer,
        form: { ...form, reach: form.reach * (form.side === 'left' || form.side === 'right' ? across : down) },
      };
    case 'behind': {
      const by = Math.min(across, down);
      return { ...layer, form: { ...form, grow: Math.min(2000, form.grow * by), soft: Math.min(500, form.soft * by) } };
    }
  }
}

function scaled(layer: Layer, from: Graphic['canvas'], to: Graphic['canvas']): Layer {
  // No larger than before in either direction, so that what fitted still fits.
  const by = Math.min(to.width / from.width, to.height / from.height);
  const middle = (x: number, width: number, old: number, room: number) =>
    ((x + width / 2) / old) * room - (width * by) / 2;
  if (layer.role === 'words') {
    const { x, y } = layer.place;
    const place = { x: (x / from.width) * to.width, y: (y / from.height) * to.height };
    return { ...scaledWords(layer, by), place };
  }
  if (layer.role === 'shape') {
    // Its middle keeps its place in proportion.
    const { place } = layer;
    const at =
      place.mode === 'box'
        ? middleOf(place.box)
        : place.mode === 'line'
          ? { x: (place.from.x + place.to.x) / 2, y: (place.from.y + place.to.y) / 2 }
          : { x: 0, y: 0 };
    const shift = { x: (at.x / from.width) * to.width - at.x, y: (at.y / from.height) * to.height - at.y };
    return movedLayer(scaledShape(layer, by, at), shift, to);
  }
  if (!isPicture(layer)) return scaledVeil(layer, from, to);
  if (layer.place.mode === 'cover') return coveringAnew(layer, to);
  const grown = scaledAppearance(layer, by);
  if (layer.place.mode === 'contain') return grown;
  const { x, y, width, height } = pictureGeometry(layer, from).shown;
  return {
    ...grown,
    place: {
      ...layer.place,
      x: middle(x, width, from.width, to.width),
      y: middle(y, height, from.height, to.height),
      width: width * by,
    },
  };
}

/**
 * A graphic with a frame for its slot as that is now. One that has no other frame: the canvas takes the slot's size,
 * covering pictures cover it again, everything else keeps its place in proportion and grows or shrinks with the tighter
 * side. One of several keeps its corner and takes the slot's size; the canvas grows where that needs room, and no layer
 * is touched. Lengths in canvas px.
 */
export function adaptToSlot(graphic: Graphic, frame: string, slot: Slot): Graphic {
  const size = { width: slot.width, height: slot.height };
  const alone = graphic.frames.length === 1;
  const frames = graphic.frames.map((f) => {
    if (f.id !== frame) return f;
    const rect = alone ? { x: 0, y: 0, ...size } : { ...f.rect, ...size };
    const takes = slot.formats.includes(f.export.format);
    return { ...f, slot, rect, export: takes ? f.export : { ...f.export, format: slot.formats[0]! } };
  });
  if (!alone) {
    const canvas = {
      width: Math.max(graphic.canvas.width, ...frames.map((f) => right(f.rect))),
      height: Math.max(graphic.canvas.height, ...frames.map((f) => bottom(f.rect))),
    };
    return { ...graphic, canvas, frames };
  }
  const same = size.width === graphic.canvas.width && size.height === graphic.canvas.height;
  return {
    ...graphic,
    canvas: size,
    layers: same ? graphic.layers : graphic.layers.map((l) => scaled(l, graphic.canvas, size)),
    frames,
  };
}
