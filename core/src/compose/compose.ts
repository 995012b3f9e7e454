import { clamp } from '../geometry/clamp';
import { containBox } from '../geometry/fit';
import { contains, grown, intersection, type Box, type Size } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import { contrast } from '../colour/contrast';
import { adaptToSlot } from '../graphic/adapt-to-slot';
import { isPicture, type Graphic, type Layer, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { pictureBounds } from '../graphic/picture-geometry';
import type { ShapeLayer, VeilForm, VeilLayer } from '../graphic/shape';
import { layerBounds } from '../graphic/shape-geometry';
import { thresholds } from '../report/thresholds';
import type { Slot } from '../slot/slot';
import { smallestScale } from '../slot/shown';
import type { Shaper } from '../words/shaper';
import { layoutOf, wordsBounds } from '../words/layout';
import { firstRun } from '../words/words';
import { laidBlock, laidWords, type LaidBlock, type LaidWords } from './block';
import { coveringPhoto } from './covering-photo';
import { typeSize, type ComposeRole } from './roles';
import { inCorner, isWordless, leastType, MARGIN, roomIn, safeOf, titleSizes, zonesOf } from './slot-room';
import { largestClear, roomFor, ways, type Way } from './ways';

/** What is composed anew: a graphic, what its layers are for, and where its photos' subjects are (shares of each, by layer). */
export interface Source {
  readonly graphic: Graphic;
  readonly roles: ReadonlyMap<string, ComposeRole>;
  readonly subjects: ReadonlyMap<string, Box>;
}

/** A layer that has no place in a composition, and why, as a person reads it. */
export interface LeftOut {
  readonly layer: string;
  readonly name: string;
  readonly why: string;
}

/** A graphic composed for a slot. Canvas px of that slot. */
export interface Composition {
  readonly way: Way;
  readonly graphic: Graphic;
  readonly left: readonly LeftOut[];
  /** The box around title and lines; null where there are none. */
  readonly words: Box | null;
}

/** Keys of what a composition adds of its own. */
export const ADDED = { veil: 'carried-veil', band: 'carried-band' } as const;

/** What of the canvas is left beside the words in a way, canvas px. */
function restOf(way: Way, words: Box | null, { width, height }: Size): Box {
  const all = { x: 0, y: 0, width, height };
  if (!words) return all;
  const gap = 0.04 * width;
  switch (way) {
    case 'left': {
      const x = Math.min(width * 0.8, words.x + words.width + gap);
      return { ...all, x, width: width - x };
    }
    case 'right':
      return { ...all, width: Math.max(width * 0.2, words.x - gap) };
    case 'foot':
    case 'band':
      return { ...all, height: Math.max(height * 0.2, words.y - 0.04 * height) };
    default:
      return all;
  }
}

/** A veil from a side reaches so many times as far as the words: at their far edge half of it is left. */
const REACH = 2;

/** A veil's form that is behind the words of a way, canvas px. */
function veilForm(way: Way, words: Box, { width, height }: Size, own: VeilForm | undefined): VeilForm {
  switch (way) {
    case 'left':
      return { kind: 'side', side: 'left', reach: Math.min(1.5 * width, (words.x + words.width) * REACH) };
    case 'right':
      return { kind: 'side', side: 'right', reach: Math.min(1.5 * width, (width - words.x) * REACH) };
    case 'foot':
      return { kind: 'side', side: 'bottom', reach: Math.min(1.5 * height, (height - words.y) * REACH) };
    default:
      return own?.kind === 'behind' ? own : { kind: 'whole' };
  }
}

/** Words, as large as their room lets them be: all of them, else the title with fewer lines. */
function wordsOf(words: readonly WordsLayer[], way: Way, slot: Slot, shaper: Shaper): LaidWords | null {
  const found = roomFor(way, roomIn(slot), zonesOf(slot));
  return found && laidWords({ words, ...found, ...titleSizes(slot) }, shaper);
}

const INK = '#1f2a30';
const PLASTER = '#f7f4ee';

/** The source's layers that have a role, back to front. */
const withRole = ({ graphic, roles }: Source, ...wanted: ComposeRole[]) =>
  graphic.layers.filter((l) => wanted.includes(roles.get(l.id)!));

/** A source composed for a slot in one way; null where that way has no room there. */
export function composed(source: Source, slot: Slot, way: Way, shaper: Shaper): Composition | null {
  const { graphic, roles } = source;
  const canvas: Size = { width: slot.width, height: slot.height };
  const room = roomIn(slot);
  const zones = zonesOf(slot);
  const left: LeftOut[] = [];
  const leave = (layer: Layer, why: string) => left.push({ layer: layer.id, name: layer.name, why });
  // Everything in proportion first: what is not composed stays so.
  const base = adaptToSlot(graphic, graphic.frames[0]!.id, slot);
  const plainOf = (layer: Layer) => base.layers.find((l) => l.id === layer.id)!;

  const titles = withRole(source, 'title').filter((l): l is WordsLayer => l.role === 'words');
  const lines = withRole(source, 'line').filter((l): l is WordsLayer => l.role === 'words');
  const all = [...titles, ...lines].sort((a, b) => typeSize(b, shaper) - typeSize(a, shaper));
  const words = [...all.filter((w) => roles.get(w.id) === 'title'), ...all.filter((w) => roles.get(w.id) !== 'title')];
  const small = isWordless(slot);
  const laid = way === 'bare' || small ? null : words.length ? wordsOf(words, way, slot, shaper) : null;
  if (way !== 'bare' && !laid) return null;
  if (!laid) for (const w of words) leave(w, small ? 'too small to read there' : 'the picture is to stand alone');
  for (const w of laid?.without ?? []) leave(w, 'no room');
  const block = laid?.block ?? null;
  const next = new Map<string, Layer>(block?.layers.map((l) => [l.id, l]));
  const taken: Box[] = [...zones, ...(block ? [grown(block.box, 0.03 * Math.min(canvas.width, canvas.height))] : [])];

  const photos = withRole(source, 'photo').filter(isPicture);
  for (const photo of photos)
    next.set(photo.id, coveringPhoto(photo, source.subjects.get(photo.id), slot, block?.box ?? null));
  const rest = restOf(way, block?.box ?? null, canvas);
  const things = withRole(source, 'subject').filter(isPicture);
  for (const [i, thing] of things.entries()) {
    const share = { ...rest, x: rest.x + (rest.width * i) / things.length, width: rest.width / things.length };
    const safe = intersection(share, grown(room, 0.6 * MARGIN * Math.min(canvas.width, canvas.height)));
    const inside = slot.shape.kind === 'ellipse' || !safe ? (intersection(share, room) ?? room) : safe;
    const clear = largestClear(intersection(inside, safeOf(slot)) ?? room, zones) ?? room;
    const bounds = pictureBounds(thing, graphic.canvas);
    const box = containBox(bounds, clear);
    next.set(thing.id, movedTo(scaledPicture(thing, box.width / bounds.width, graphic.canvas), box, canvas));
  }
  for (const logo of withRole(source, 'logo').filter(isPicture)) {
    const bounds = pictureBounds(logo, graphic.canvas);
    const near = {
      x: clamp(middleOf(bounds).x / graphic.canvas.width, 0, 1),
      y: clamp(middleOf(bounds).y / graphic.canvas.height, 0, 1),
    };
    const alone = !photos.length && !things.length && way === 'bare';
    const asLarge = Math.sqrt((canvas.width * canvas.height) / (graphic.canvas.width * graphic.canvas.height));
    const most = alone ? room : { ...room, width: room.width * 0.32, height: room.height * 0.34 };
    const fits = Math.min(most.width / bounds.width, most.height / bounds.height, alone ? Infinity : asLarge);
    const size = { width: bounds.width * fits, height: bounds.height * fits };
    const box = alone
      ? containBox(size, largestClear(room, zones) ?? room)
      : size.height * smallestScale(slot) >= thresholds.letterHeight.value
        ? inCorner(size, room, taken, near)
        : null;
    if (!box) {
      leave(logo, 'no room');
      continue;
    }
    next.set(logo.id, movedTo(scaledPicture(logo, box.width / bounds.width, graphic.canvas), box, canvas));
    taken.push(grown(box, 2));
  }
  laidNotes(source, slot, block, taken, room, next, leave, shaper);
  for (const layer of graphic.layers) {
    if (layer.role !== 'shape' || layer.place.mode !== 'around' || next.has(layer.id) || !layer.visible) continue;
    const { words: of, across, down } = layer.place;
    const [before, after] = [graphic.layers.find((l) => l.id === of), next.get(of)];
    if (before?.role !== 'words' || after?.role !== 'words' || left.some((l) => l.layer === layer.id)) continue;
    const by = typeSize(after, shaper) / typeSize(before, shaper);
    const bounds = wordsBounds(after, layoutOf(after, shaper));
    const pad = { x: Math.min(2000, across * by), y: Math.min(2000, down * by) };
    const box = {
      x: bounds.x - pad.x,
      y: bounds.y - pad.y,
      width: bounds.width + 2 * pad.x,
      height: bounds.height + 2 * pad.y,
    };
    const others = [...next.values()].filter((l) => l.role === 'words' && l.id !== of);
    const free = ![...zones, ...others.map((l) => layerBounds(l, base, shaper))].some((t) => intersection(t, box));
    if (free && contains({ x: 0, y: 0, ...canvas }, box))
      next.set(layer.id, { ...layer, place: { ...layer.place, across: pad.x, down: pad.y, last: box } });
    else leave(layer, 'no room around its words');
  }
  for (const layer of withRole(source, 'ornament')) {
    const plain = plainOf(layer);
    const box = layerBounds(plain, base, shaper);
    const inside = contains({ x: 0, y: 0, ...canvas }, box, 1);
    if (!inside || taken.some((t) => intersection(t, box)))
      leave(layer, inside ? 'in the way of the words' : 'no room');
    else next.set(layer.id, plain);
  }
  const [band, ...bands] = withRole(source, 'band').filter((l): l is ShapeLayer => l.role === 'shape');
  for (const b of way === 'band' ? bands : [...(band ? [band] : []), ...bands]) leave(b, 'the words stand elsewhere');
  const [veil, ...veils] = withRole(source, 'veil').filter((l): l is VeilLayer => l.role === 'veil');
  for (const v of veils) leave(v, 'one veil is enough');
  const under: Layer[] = [];
  if (block && way === 'band') {
    if (veil) leave(veil, 'the words stand on a band');
    under.push(bandFor(band, block, room, canvas));
  } else if (block && (photos.length || veil)) {
    const ink = firstRun(block.layers[0]!).colour;
    under.push({
      ...(veil ?? newVeil(contrast(ink, '#000000') >= contrast(ink, '#ffffff') ? '#000000' : '#ffffff')),
      form: veilForm(way, block.box, canvas, veil?.form),
      words: [],
      // Found once it is seen what it lies on.
      strength: 0,
      justEnough: true,
    });
  } else if (veil && !block) leave(veil, 'there are no words');

  const layers: Layer[] = [];
  const first = graphic.layers.findIndex((l) => l.role === 'words' && next.has(l.id));
  for (const [i, layer] of graphic.layers.entries()) {
    if (i === first) layers.push(...under);
    const placed = next.get(layer.id);
    if (placed) layers.push(placed);
  }
  for (const layer of graphic.layers) if (!layer.visible) leave(layer, 'hidden');
  return { way, graphic: { ...base, layers }, left, words: block?.box ?? null };
}

/** Small words with a ground of their own, in a corner that is free. */
function laidNotes(
  source: Source,
  slot: Slot,
  block: LaidBlock | null,
  taken: Box[],
  room: Box,
  next: Map<string, Layer>,
  leave: (layer: Layer, why: string) => void,
  shaper: Shaper,
): void {
  const { graphic } = source;
  const notes = withRole(source, 'note').filter((l): l is WordsLayer => l.role === 'words');
  for (const note of notes) {
    const around = graphic.layers.find(
      (l): l is ShapeLayer => l.role === 'shape' && l.place.mode === 'around' && l.place.words === note.id,
    );
    const out = (why: string) => {
      leave(note, why);
      if (around) leave(around, why);
    };
    if (!block) {
      out('there are no other words');
      continue;
    }
    const own = typeSize(note, shaper);
    const title = withRole(source, 'title').find((l): l is WordsLayer => l.role === 'words');
    const wanted = Math.max(leastType(slot), (own * block.size) / (title ? typeSize(title, shaper) : own * 2));
    const by = wanted / own;
    const laid = laidBlock({ words: [note], room, align: 'left', down: 0, least: wanted, most: wanted }, shaper);
    const [words] = laid?.layers ?? [];
    const pad =
      around?.place.mode === 'around' ? { x: around.place.across * by, y: around.place.down * by } : { x: 0, y: 0 };
    const size = laid && { width: laid.box.width + 2 * pad.x, height: laid.box.height + 2 * pad.y };
    const bounds = layerBounds(around ?? note, graphic, shaper);
    const near = { x: middleOf(bounds).x / graphic.canvas.width, y: middleOf(bounds).y / graphic.canvas.height };
    const box = size && inCorner(size, room, taken, near);
    if (!words || !box) {
      out('no room');
      continue;
    }
    const off = { x: box.x + pad.x - laid.box.x, y: box.y + pad.y - laid.box.y };
    next.set(note.id, { ...words, place: { x: words.place.x + off.x, y: words.place.y + off.y } });
    if (around?.place.mode === 'around')
      next.set(around.id, {
        ...around,
        place: { ...around.place, across: Math.min(2000, pad.x), down: Math.min(2000, pad.y), last: box },
      });
    taken.push(grown(box, 2));
  }
}

/** A picture's lengths times `by`, as its shown part lies on its own canvas. */
function scaledPicture(layer: PictureLayer, by: number, canvas: Size): PictureLayer {
  const { width } = pictureBoundsUnturned(layer, canvas);
  return { ...layer, place: { mode: 'free', x: 0, y: 0, width: width * by, ...stretchIn(layer) } };
}
const stretchIn = ({ place }: PictureLayer) =>
  place.mode === 'free' && place.stretch !== undefined ? { stretch: place.stretch } : {};
const pictureBoundsUnturned = (layer: PictureLayer, canvas: Size) => pictureBounds({ ...layer, turn: 0 }, canvas);

/** A free picture moved so that what it draws is about the middle of a box. */
function movedTo(layer: PictureLayer, box: Box, canvas: Size): PictureLayer {
  const now = middleOf(pictureBounds(layer, canvas));
  const to = middleOf(box);
  const { place } = layer;
  return place.mode === 'free'
    ? { ...layer, place: { ...place, x: place.x + to.x - now.x, y: place.y + to.y - now.y } }
    : layer;
}

function newVeil(colour: string): VeilLayer {
  return {
    id: ADDED.veil,
    name: 'Veil',
    visible: true,
    locked: false,
    role: 'veil',
    form: { kind: 'whole' },
    colour,
    strength: 0,
    words: [],
    justEnough: true,
  };
}

/** A band on which the words of a block are read: the source's own, or one of ink or plaster. */
function bandFor(own: ShapeLayer | undefined, block: LaidBlock, room: Box, { width, height }: Size): ShapeLayer {
  const words = block.box;
  const ink = firstRun(block.layers[0]!).colour;
  const pad = Math.min(words.y - room.y, height - (words.y + words.height), 0.06 * height);
  const size = height - words.y + Math.max(pad, 0.04 * height);
  const fill = { kind: 'colour' as const, colour: contrast(ink, INK) >= contrast(ink, PLASTER) ? INK : PLASTER };
  const paint = own?.fill.kind === 'colour' ? own.fill.colour : null;
  const read =
    paint !== null && block.layers.every((l) => contrast(firstRun(l).colour, paint) >= thresholds.contrast.value);
  return {
    id: ADDED.band,
    name: 'Band',
    visible: true,
    locked: false,
    role: 'shape',
    form: { kind: 'rectangle' },
    border: null,
    corners: { kind: 'straight' },
    shadow: null,
    opacity: 1,
    ...own,
    turn: 0,
    fill: read ? { kind: 'colour', colour: paint } : fill,
    ...(read ? {} : { opacity: 1 }),
    place: { mode: 'band', side: 'bottom', size: clamp(size, 1, width * height) },
  };
}

/** All ways in which a source can be composed for a slot, in the order of `ways`. */
export function compositions(source: Source, slot: Slot, shaper: Shaper): Composition[] {
  const found = ways.flatMap((way) => composed(source, slot, way, shaper) ?? []);
  // The picture alone says less than any words: only where there is one, and nothing else fits or the slot is small.
  const bare = (c: Composition) => c.way === 'bare';
  const pictures = source.graphic.layers.some((l) => isPicture(l) && source.roles.has(l.id));
  return found.filter((c) => !bare(c) || pictures || found.every(bare));
}
