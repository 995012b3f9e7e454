import { limits } from '../limits';
import { cutText } from '../text';
import { textOf } from '../words/words';
import { contentLetters, wordPlaces, picturePlaces, type LayoutContents, type PlacedPicture } from './contents';
import { isPicture, type Follows, type Graphic, type Layer, type WordsLayer } from './graphic';
import { withText } from './runs';
import { swapped } from './swap';

/** What is used in graphics and can be replaced in all of them: a picture, a colour (`#rrggbb`), or words. */
export type Used =
  | { readonly kind: 'picture'; readonly asset: string }
  | { readonly kind: 'colour'; readonly colour: string }
  | { readonly kind: 'words'; readonly text: string };

/** What takes its place. */
export type Instead =
  | { readonly kind: 'picture'; readonly picture: PlacedPicture }
  | { readonly kind: 'colour'; readonly colour: string }
  | { readonly kind: 'words'; readonly text: string };

const HEX = /^#[0-9a-f]{6}$/i;

/** A stretch of a text, its UTF-16 units. */
interface Found {
  readonly at: number;
  readonly length: number;
}

/** Where words stand in a text, whatever their case and over however many lines, not as a part of longer words. */
function placesIn(text: string, words: string): Found[] {
  const parts = words.trim().split(/\s+/).filter(Boolean);
  if (!parts.length) return [];
  const pattern = parts.map((p) => p.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')).join('\\s+');
  // No letter before it where it begins with one, none after it where it ends with one.
  const letter = '[\\p{L}\\p{N}\\p{M}]';
  const begins = new RegExp(`^${letter}`, 'u').test(parts[0]!);
  const ends = new RegExp(`${letter}$`, 'u').test(parts.at(-1)!);
  const whole = new RegExp(`${begins ? `(?<!${letter})` : ''}${pattern}${ends ? `(?!${letter})` : ''}`, 'giu');
  return [...text.matchAll(whole)].map((m) => ({ at: m.index, length: m[0].length }));
}

function replacedText(text: string, words: string, by: string): string {
  let out = text;
  for (const { at, length } of placesIn(text, words).reverse()) out = out.slice(0, at) + by + out.slice(at + length);
  return out;
}

/** In how many places a graphic uses something: layers and its ground, of words each place; hidden layers count. */
export function placesUsed({ layers, backdrop }: Pick<Graphic, 'layers' | 'backdrop'>, what: Used): number {
  switch (what.kind) {
    case 'picture':
      return layers.filter((l) => isPicture(l) && l.asset === what.asset).length;
    case 'colour':
      return [...layers, backdrop].filter((part) => coloursIn(part).includes(what.colour.toLowerCase())).length;
    case 'words':
      return layers.reduce((n, l) => n + (l.role === 'words' ? placesIn(textOf(l), what.text).length : 0), 0);
  }
}

/** The colours that are in a part of a graphic, lower case, each once. */
export function coloursIn(part: unknown): string[] {
  const found = new Set<string>();
  JSON.stringify(part, (key, v: unknown) => {
    if (typeof v === 'string' && HEX.test(v) && !NOT_COLOURS.has(key)) found.add(v.toLowerCase());
    return v;
  });
  return [...found];
}

/** Words are no colours, whatever they say. */
const NOT_COLOURS = new Set(['text', 'name', 'id', 'asset', 'data']);

/** A value with a colour (lower case) for another; what does not have it is shared. */
function recoloured<T>(value: T, from: string, to: string, key = ''): T {
  if (typeof value === 'string')
    return (HEX.test(value) && value.toLowerCase() === from && !NOT_COLOURS.has(key) ? to : value) as T;
  if (Array.isArray(value)) {
    const next = value.map((v: unknown) => recoloured(v, from, to, key));
    return next.every((v, i) => v === value[i]) ? value : (next as T);
  }
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([k, v]) => [k, recoloured(v as unknown, from, to, k)] as const);
  const same = entries.every(([k, v]) => v === (value as Record<string, unknown>)[k]);
  return same ? value : (Object.fromEntries(entries) as T);
}

function saying(layer: WordsLayer, words: string, by: string): WordsLayer {
  let next = layer;
  // From the last to the first, one after the other, so that each keeps the look of what stood there.
  for (const { at, length } of placesIn(textOf(layer), words).reverse()) {
    const text = textOf(next);
    next = withText(next, text.slice(0, at) + by + text.slice(at + length));
  }
  return next;
}

/** A ground or a look with something replaced: only a colour can be in it. */
export const colouredWith = <T>(part: T, what: Used, by: Instead): T =>
  what.kind === 'colour' && by.kind === 'colour'
    ? recoloured(part, what.colour.toLowerCase(), by.colour.toLowerCase())
    : part;

function layerWith(layer: Layer, what: Used, by: Instead, canvas: Graphic['canvas']): Layer {
  if (what.kind === 'picture' && by.kind === 'picture')
    return isPicture(layer) && layer.asset === what.asset ? swapped(layer, by.picture, canvas) : layer;
  if (what.kind === 'words' && by.kind === 'words')
    return layer.role === 'words' ? saying(layer, what.text, by.text) : layer;
  return colouredWith(layer, what, by);
}

/** What a graphic follows, with the same replaced in it: nobody changed that by hand. */
function followsWith(follows: Follows, what: Used, by: Instead, canvas: Graphic['canvas']): Follows {
  const { last, layout, ...rest } = follows;
  return {
    ...rest,
    last: {
      layers: last.layers.map((l) => layerWith(l, what, by, canvas)),
      backdrop: colouredWith(last.backdrop, what, by),
    },
    ...(layout
      ? { layout: { contents: contentsWith(layout.contents, what, by), look: colouredWith(layout.look, what, by) } }
      : {}),
  };
}

/** What is put in a layout with the same replaced in it. */
export function contentsWith(contents: LayoutContents, what: Used, by: Instead): LayoutContents {
  const next: { -readonly [K in keyof LayoutContents]: LayoutContents[K] } = { ...contents };
  if (what.kind === 'picture' && by.kind === 'picture')
    for (const place of picturePlaces) if (next[place]?.asset === what.asset) next[place] = by.picture;
  if (what.kind === 'words' && by.kind === 'words')
    for (const place of wordPlaces)
      next[place] = cutText(replacedText(next[place], what.text, by.text), contentLetters[place]);
  return next;
}

/**
 * A graphic with something replaced wherever it is used: a picture in the same frame, crop and look (see `swapped`); a
 * colour of words, shapes, veils, borders and grounds; words in the look of those they replace, in descriptions too.
 * The same graphic where it is not used, or where `what` and `by` are of different kinds.
 */
export function replacedEverywhere(graphic: Graphic, what: Used, by: Instead): Graphic {
  if (what.kind !== by.kind) return graphic;
  const layers = graphic.layers.map((l) => layerWith(l, what, by, graphic.canvas));
  const backdrop = colouredWith(graphic.backdrop, what, by);
  const same = backdrop === graphic.backdrop && layers.every((l, i) => l === graphic.layers[i]);
  if (same) return graphic;
  const frames =
    what.kind === 'words' && by.kind === 'words'
      ? graphic.frames.map((f) => ({
          ...f,
          export: { ...f.export, alt: cutText(replacedText(f.export.alt, what.text, by.text), limits.description) },
        }))
      : graphic.frames;
  const follows = graphic.follows && followsWith(graphic.follows, what, by, graphic.canvas);
  return { ...graphic, layers, backdrop, frames, ...(follows ? { follows } : {}) };
}
