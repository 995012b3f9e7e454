import { figure, sizeText, topDensity, type Slot } from '../slot/slot';
import type { Graphic, Layer } from './graphic';

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

function scaled(layer: Layer, from: Graphic['canvas'], to: Graphic['canvas']): Layer {
  // No larger than before in either direction, so that what fitted still fits.
  const by = Math.min(to.width / from.width, to.height / from.height);
  const middle = (x: number, width: number, old: number, room: number) =>
    ((x + width / 2) / old) * room - (width * by) / 2;
  if (layer.role === 'words') {
    const { x, y } = layer.place;
    return {
      ...layer,
      place: { x: (x / from.width) * to.width, y: (y / from.height) * to.height },
      paragraphs: layer.paragraphs.map((p) => ({
        ...p,
        runs: p.runs.map((r) => ({ ...r, size: Math.max(1, Math.round(r.size * by * 10) / 10) })),
      })),
    };
  }
  if (layer.place.mode === 'cover') return layer;
  const shown = layer.crop ?? layer.natural;
  const { x, y, width } = layer.place;
  const height = (width * shown.height) / shown.width;
  return {
    ...layer,
    place: {
      mode: 'free',
      x: middle(x, width, from.width, to.width),
      y: middle(y, height, from.height, to.height),
      width: width * by,
    },
  };
}

/**
 * The graphic for its slot as that is now: the canvas takes its size, covering
 * pictures cover it again, everything else keeps its place in proportion and
 * grows or shrinks with the tighter side. Lengths in canvas px.
 */
export function followSlot(graphic: Graphic, slot: Slot): Graphic {
  const canvas = { width: slot.width, height: slot.height };
  const same = canvas.width === graphic.canvas.width && canvas.height === graphic.canvas.height;
  const { format } = graphic.export;
  return {
    ...graphic,
    canvas,
    layers: same ? graphic.layers : graphic.layers.map((l) => scaled(l, graphic.canvas, canvas)),
    frames: graphic.frames.map((f, i) => (i === 0 ? { ...f, slot, rect: { x: 0, y: 0, ...canvas } } : f)),
    export: slot.formats.includes(format) ? graphic.export : { ...graphic.export, format: slot.formats[0]! },
  };
}
