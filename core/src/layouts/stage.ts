import { contrast } from '../colour/contrast';
import { nearestShade } from '../colour/shade';
import { containBox } from '../geometry/fit';
import { clamp } from '../geometry/clamp';
import { contains, grown, intersection, type Box, type Point, type Size } from '../geometry/box';
import { laidBlock, laidWords } from '../compose/block';
import { coveringPhoto } from '../compose/covering-photo';
import { inCorner, isWordless, leastType, MARGIN, roomIn, safeOf, titleSizes, zonesOf } from '../compose/slot-room';
import { largestClear } from '../compose/ways';
import type { Fill } from '../colour/fill';
import type { Backdrop, Layer, PictureLayer, WordsLayer } from '../graphic/graphic';
import { filling } from '../graphic/cropping';
import { newWords } from '../graphic/new-words';
import type { ShapeLayer, ShapePlace, VeilForm, VeilLayer } from '../graphic/shape';
import { limits } from '../limits';
import { plainAppearance } from '../pixels/appearance';
import type { Slot } from '../slot/slot';
import { nameFrom } from '../text';
import type { Shaper } from '../words/shaper';
import { firstRun, withRuns, type Align, type Face } from '../words/words';
import type { LayoutContents, LayoutLook, PlacedPicture } from '../graphic/contents';
import { inkOn } from './look';

/** Named places: each is a layer of this id, whatever the layout, so that what is put there can be told again. */
export const places = {
  photo: 'place-photo',
  cutout: 'place-cutout',
  logo: 'place-logo',
  title: 'place-title',
  line: 'place-line',
  note: 'place-note',
  veil: 'place-veil',
} as const;
export type Place = keyof typeof places;

/** A slot's shape, as layouts tell them apart: 9.6 : 1 is a strip, 2.7 : 1 wide, 1.9 : 1 broad. */
export type SlotShape = 'strip' | 'wide' | 'broad' | 'square' | 'tall' | 'round';
export function slotShape({ width, height, shape }: Slot): SlotShape {
  const ratio = width / height;
  if (shape.kind === 'ellipse') return 'round';
  return ratio >= 4.4 ? 'strip' : ratio >= 2.2 ? 'wide' : ratio >= 1.3 ? 'broad' : ratio >= 0.77 ? 'square' : 'tall';
}

/** Title and line as they were laid, canvas px. */
export interface Block {
  readonly layers: readonly WordsLayer[];
  readonly box: Box;
  /** The title's type size. */
  readonly size: number;
}

/** How title and line are set. */
export interface Setting {
  readonly align: Align;
  /** Where in its part, 0 at its top to 1 at its foot. */
  readonly down: number;
  readonly ink: string;
  readonly lineInk?: string;
  /** As large as usual, so many times. */
  readonly times?: number;
  /** A line's type to its title's. */
  readonly line?: number;
  readonly run?: Partial<{ case: 'upper'; tracking: number; face: Face }>;
  /** Sheets right behind title and line. */
  readonly grounds?: readonly [string, string];
  readonly lineSpacing?: number;
}

/** What is covered by more than this is not worth showing. Common practice, no source. */
const COVERED = 0.15;
/** Words are so far off the ends of a canvas, to its width. Common practice, no source. */
const END = 0.032;

/** Whether layouts leave words out of a slot: it is shown too small, or the page prints its own title over it. */
export const saysNothing = (slot: Slot): boolean => isWordless(slot) || slot.covered.some((z) => z.kind === 'title');

/** Everything a layout is made with, for one slot. Lengths in canvas px. */
export class Stage {
  readonly canvas: Size;
  readonly all: Box;
  /** Where words and logo may be: safe, and off the edges. */
  readonly room: Box;
  /** What the page lays over it. */
  readonly zones: readonly Box[];
  readonly shape: SlotShape;
  readonly wordless: boolean;
  readonly margin: number;
  /** Words go to the right, since what the page lays over it takes more of the left. */
  private readonly turned: boolean;
  /** Where a note or a logo was put: the other keeps clear of it. */
  private readonly put: Box[] = [];

  constructor(
    readonly slot: Slot,
    readonly contents: LayoutContents,
    readonly look: LayoutLook,
    private readonly shaper: Shaper,
    /** No title is larger, canvas px: where several are to be alike. */
    private readonly most = Infinity,
  ) {
    this.canvas = { width: slot.width, height: slot.height };
    this.all = { x: 0, y: 0, ...this.canvas };
    // A strip's words are further off its ends than off its long sides.
    const ends = Math.max(0, END * slot.width - MARGIN * Math.min(slot.width, slot.height));
    const off = { x: ends, y: 0, width: slot.width - 2 * ends, height: slot.height };
    const room = roomIn(slot);
    this.room = intersection(room, off) ?? room;
    this.zones = zonesOf(slot);
    this.shape = slotShape(slot);
    this.wordless = saysNothing(slot);
    this.margin = MARGIN * Math.min(slot.width, slot.height);
    const half = { ...this.all, width: slot.width / 2 };
    const taken = (b: Box) => this.zones.reduce((n, z) => n + area(intersection(z, b)), 0) / area(b);
    this.turned = taken(half) > 0.18 && taken({ ...half, x: half.width }) < taken(half);
  }

  /** Whether words stand beside a picture, not above or below it. */
  get beside(): boolean {
    return this.shape === 'strip' || this.shape === 'wide' || this.shape === 'broad';
  }

  /** The canvas in two: words in `share` of it, at the left or at the foot; the rest for a picture. */
  halves(share: number): { words: Box; rest: Box; side: 'left' | 'right' | 'bottom' } {
    const { width, height } = this.canvas;
    if (!this.beside) {
      const y = height * (1 - share);
      return { words: { ...this.all, y, height: height - y }, rest: { ...this.all, height: y }, side: 'bottom' };
    }
    // Where only the middle is safe, the words' part reaches into that as far as it would into all of it.
    const { room } = this;
    const w = this.turned ? width - (room.x + room.width * (1 - share)) : room.x + room.width * share;
    return this.turned
      ? { words: { ...this.all, x: width - w, width: w }, rest: { ...this.all, width: width - w }, side: 'right' }
      : { words: { ...this.all, width: w }, rest: { ...this.all, x: w, width: width - w }, side: 'left' };
  }

  /** What of a part is for words: off its own edges too. */
  within(part: Box, margin = this.margin): Box | null {
    return intersection(grown(part, -margin), this.room);
  }

  /** Title and line laid in a part of the canvas; without the line where only the title has room; null where nothing has. */
  block(part: Box, how: Setting): Block | null {
    if (this.wordless) return null;
    const inside = this.within(part);
    const room = inside && largestClear(inside, this.zones);
    const { title, line } = this.contents;
    if (!room || (!title.trim() && !line.trim())) return null;
    const texts = title.trim() ? [title, line] : [line, ''];
    const words = [
      this.words('title', texts[0]!, 100, how),
      ...(texts[1]!.trim() ? [this.words('line', texts[1]!, 100 * (how.line ?? 0.42), how)] : []),
    ];
    const { align, down } = how;
    const sizes = titleSizes(this.slot, how.times);
    // Whole tenths, as type comes.
    const most = Math.min(sizes.most, Math.floor(this.most * 10 + 0.001) / 10);
    const least = Math.min(sizes.least, most);
    return laidWords({ words, room, align, down, least, most }, this.shaper)?.block ?? null;
  }

  /** The line alone, where the logo stands for the title. */
  alone(part: Box, how: Setting): Block | null {
    const room = largestClear(intersection(part, this.room) ?? part, this.zones);
    const { line } = this.contents;
    if (!room || !line.trim() || this.wordless) return null;
    const words = [this.words('line', line, 100, how)];
    const least = leastType(this.slot);
    const most = Math.max(least, titleSizes(this.slot).most * 0.4);
    return laidBlock({ words, room, align: how.align, down: how.down, least, most }, this.shaper);
  }

  /** The title's first letter, as large as the room allows. */
  initial(ink: string): WordsLayer | null {
    const [first] = new Intl.Segmenter().segment(this.contents.title.trim());
    if (!first) return null;
    const how: Setting = { align: 'centre', down: 0.5, ink };
    const words = [this.words('title', first.segment.toUpperCase(), 100, how)];
    const room = largestClear(this.room, this.zones);
    if (!room) return null;
    const [least, most] = [leastType(this.slot), room.height * 0.95];
    return laidBlock({ words, room, align: 'centre', down: 0.5, least, most }, this.shaper)?.layers[0] ?? null;
  }

  private words(place: 'title' | 'line' | 'note', text: string, size: number, how: Setting): WordsLayer {
    const { heading, body } = this.look;
    const title = place === 'title';
    const own = newWords({ canvas: this.canvas }, text.trim(), places[place]);
    const set = withRuns(own, {
      size,
      face: title ? heading : { ...body, weight: clamp(body.weight, 400, 700) },
      colour: title ? how.ink : (how.lineInk ?? how.ink),
      ...(title ? how.run : {}),
    });
    const sheet = how.grounds?.[title ? 0 : 1];
    const ground = sheet
      ? { colour: sheet, opacity: 1, across: size * 0.3, down: size * (title ? 0.1 : 0.22), radius: 0 }
      : null;
    const lineSpacing = title ? (how.lineSpacing ?? 1.08) : 1.25;
    return { ...set, name: placeNames[place], lineSpacing, ground };
  }

  /** A note of its own ground in a corner that is free, the one nearest to `near` (shares of the room). */
  note(taken: readonly Box[], near: Point, fill: string, size: number): Layer[] {
    const { note } = this.contents;
    if (!note.trim() || this.wordless) return [];
    // Whole tenths, as type comes.
    const type = Math.ceil(Math.max(leastType(this.slot), size) * 10) / 10;
    const { ink, paper } = this.look;
    const bare = this.words('note', note, type, { align: 'left', down: 0, ink: inkOn([paper, ink], fill) });
    const ground = { colour: fill, opacity: 1, across: type * 0.55, down: type * 0.28, radius: type * 0.3 };
    const layer = { ...withRuns(bare, { face: { ...this.look.body, weight: 600 } }), ground };
    const room = { ...this.room, y: 0, x: 0 };
    const laid = laidBlock({ words: [layer], room, align: 'left', down: 0, least: type, most: type }, this.shaper);
    const box = laid && inCorner(laid.box, this.room, [...this.zones, ...this.put, ...taken], near);
    if (!laid || !box) return [];
    this.put.push(grown(box, this.margin * 0.3));
    const [words] = laid.layers;
    const by = { x: box.x - laid.box.x, y: box.y - laid.box.y };
    return [{ ...words!, place: { x: words!.place.x + by.x, y: words!.place.y + by.y } }];
  }

  /** The logo in a corner that is free, on a sheet of paper where what is there is something else. */
  logo(taken: readonly Box[], near: Point, on: string | null, within: Box = this.room): Layer[] {
    const { logo } = this.contents;
    if (!logo) return [];
    const { width, height } = this.canvas;
    const most = this.beside
      ? { width: width * 0.2, height: height * (this.shape === 'strip' ? 0.46 : 0.2) }
      : { width: width * 0.34, height: height * 0.13 };
    const size = containBox(logo.natural, { x: 0, y: 0, ...most });
    const plain = on !== null && contrast(on, this.look.paper) < 1.3;
    const pad = plain ? 0 : Math.max(3, size.height * 0.22);
    const sheet = { width: size.width + 2 * pad, height: size.height + 2 * pad };
    const inside = intersection(within, this.room);
    const box = inside && inCorner(sheet, inside, [...this.zones, ...this.put, ...taken], near);
    // Between words and picture of a strip it would be read as one of the words.
    const ended = box && inside && (box.x <= inside.x + 1 || box.x + box.width >= inside.x + inside.width - 1);
    if (this.shape === 'strip' && !ended) return [];
    // Less than two letters high it is a smudge.
    if (!box || size.height < 2 * leastType(this.slot)) return [];
    this.put.push(grown(box, this.margin * 0.3));
    const under = plain
      ? []
      : [this.shapeOf('logo-sheet', 'Logo’s paper', box, this.look.paper, { corners: rounded(pad * 0.6) })];
    return [...under, this.free('logo', logo, grown(box, -pad))];
  }

  /** The logo as large as a part allows. */
  largeLogo(part: Box): Layer[] {
    const { logo } = this.contents;
    const clear = largestClear(part, this.zones);
    return logo && clear ? [this.free('logo', logo, containBox(logo.natural, clear))] : [];
  }

  private picture(place: 'photo' | 'cutout' | 'logo', of: PlacedPicture): Omit<PictureLayer, 'place'> {
    const { asset, name, natural, opaque, vector, focus } = of;
    return {
      id: places[place],
      name: nameFrom(name, limits.name, placeNames[place]),
      visible: true,
      locked: false,
      role: place === 'photo' ? 'photo' : 'logo',
      asset,
      natural,
      opaque,
      vector,
      crop: null,
      ...plainAppearance,
      focus,
    };
  }

  private free(place: 'photo' | 'cutout' | 'logo', of: PlacedPicture, { x, y, width }: Box): PictureLayer {
    return { ...this.picture(place, of), place: { mode: 'free', x, y, width } };
  }

  /** The photo over all of the canvas, its subject clear of some box. */
  photo(words: Box | null, own: Partial<PictureLayer> = {}): Layer[] {
    const { photo } = this.contents;
    if (!photo) return [];
    const layer = { ...this.picture('photo', photo), place: { mode: 'cover' as const, focus: photo.focus, zoom: 1 } };
    return [{ ...coveringPhoto(layer, photo.subject ?? undefined, this.slot, words), ...own }];
  }

  /** The photo filling a box, cropped about its subject. */
  photoIn(box: Box, own: Partial<PictureLayer> = {}): Layer[] {
    const { photo } = this.contents;
    if (!photo) return [];
    const { subject, focus } = photo;
    const about = subject ? { x: subject.x + subject.width / 2, y: subject.y + subject.height / 2 } : focus;
    return [{ ...filling(this.picture('photo', photo), box, about), ...own }];
  }

  /** The cut-out whole in a box: in its middle, or with its foot on the box's. */
  cutout(box: Box, foot = false): Layer[] {
    const { cutout } = this.contents;
    if (!cutout) return [];
    const inside = intersection(box, safeOf(this.slot)) ?? box;
    const fitted = containBox(cutout.natural, inside);
    const at = foot ? { ...fitted, y: inside.y + inside.height - fitted.height } : fitted;
    // Under what the page lays over it there is nothing to see of it.
    if (this.zones.some((z) => area(intersection(z, at)) > COVERED * area(at))) return [];
    const size = Math.max(at.width, at.height);
    const shadow = { distance: size * 0.03, angle: 90, blur: size * 0.07, colour: '#000000', strength: 0.35 };
    return [{ ...this.free('cutout', cutout, at), shadow }];
  }

  /** Something plain; `paint` a colour, or null for nothing inside. */
  shapeOf(id: string, name: string, box: Box, paint: string | null, own: Partial<ShapeLayer> = {}): ShapeLayer {
    const fill: Fill = paint === null ? { kind: 'none' } : { kind: 'colour', colour: paint };
    const place: ShapePlace = {
      mode: 'box',
      box: { ...box, width: Math.max(1, box.width), height: Math.max(1, box.height) },
    };
    return {
      id: `place-${id}`,
      name,
      visible: true,
      locked: false,
      role: 'shape',
      form: { kind: 'rectangle' },
      place,
      fill,
      border: null,
      corners: { kind: 'straight' },
      shadow: null,
      opacity: 1,
      turn: 0,
      ...own,
    };
  }

  /** A veil behind the words, as strong as they need it and no stronger: how strong is found where it is seen. */
  veil(form: VeilForm, ink: string, colour?: string): VeilLayer {
    const dark = contrast(ink, '#000000') >= contrast(ink, '#ffffff');
    return {
      id: places.veil,
      name: 'Veil',
      visible: true,
      locked: false,
      role: 'veil',
      form,
      colour: colour ?? (dark ? this.darkest : '#ffffff'),
      strength: 0,
      words: [],
      justEnough: true,
    };
  }

  /** What words over a photo are in. */
  get pale(): string {
    return contrast(this.look.paper, '#000000') >= 14 ? this.look.paper : '#ffffff';
  }

  /** What a veil is of: the house's own dark where it is dark enough for pale words. */
  get darkest(): string {
    return this.look.colours.concat(this.look.ink).find((c) => contrast(c, '#ffffff') >= 13) ?? '#000000';
  }

  /** The leading colour, so dark that pale words are read on it. */
  get deep(): string {
    return nearestShade(this.look.leading, (_, hex) => contrast(hex, this.pale) >= 8) ?? this.darkest;
  }

  /** A short rule above a block, where there is room for it within a part. */
  rule(block: Block, colour: string, align: Align, part: Box = this.room): Layer[] {
    const { box, size } = block;
    const bar = { width: size * 1.1, height: clamp(size * 0.075, 1.5, 12) };
    const x = align === 'centre' ? box.x + (box.width - bar.width) / 2 : box.x;
    const at = { x, y: box.y - size * 0.34 - bar.height, ...bar };
    const free = contains(this.room, at) && contains(part, at) && !this.zones.some((z) => intersection(z, at));
    return free ? [this.shapeOf('rule', 'Rule', at, colour)] : [];
  }
}

const placeNames = { photo: 'Photo', cutout: 'Cut-out', logo: 'Logo', title: 'Title', line: 'Line', note: 'Note' };
const area = (b: Box | null) => (b ? b.width * b.height : 0);

/** Four corners alike, canvas px. */
export const rounded = (r: number) => ({
  kind: 'rounded' as const,
  radii: [r, r, r, r] as [number, number, number, number],
});

/** A whole canvas of one colour. */
export const sheet = (colour: string): Backdrop => ({ kind: 'colour', colour });

/** What a block's first words are in. */
export const inkOf = (block: Block): string => firstRun(block.layers[0]!).colour;
