import { enclosing, moved, type Box } from '../geometry/box';
import { blockInBox, scaledWords } from '../graphic/arrange';
import type { WordsLayer } from '../graphic/graphic';
import { layoutOf, wordsBounds } from '../words/layout';
import type { Shaper } from '../words/shaper';
import { alignShare, firstRun, textOf, type Align } from '../words/words';
import { typeSize } from './roles';

/** A block of words as it was laid: the layers, in the order given, and the box around them. Canvas px. */
export interface LaidBlock {
  readonly layers: readonly WordsLayer[];
  readonly box: Box;
  /** The title's type size, canvas px. */
  readonly size: number;
}

/** What a block is laid by, canvas px. */
export interface BlockAsked {
  /** The title, and the lines that go under it. */
  readonly words: readonly WordsLayer[];
  readonly room: Box;
  readonly align: Align;
  /** Where in the room it stands, 0 at its top to 1 at its foot. */
  readonly down: number;
  /** The smallest type there may be, and the largest title. */
  readonly least: number;
  readonly most: number;
  /** Whether a word may be broken where it is wider than the room. */
  readonly broken?: boolean;
}

/** A line's type to its title's, at least and at most. Common practice, no source. */
const LINE = { least: 0.34, most: 0.72 };
/** Room between a title and what stands under it, to the title's type size. Common practice, no source. */
const GAP = 0.28;

const aligned = (layer: WordsLayer, align: Align): WordsLayer => ({
  ...layer,
  turn: 0,
  sizing: { kind: 'grow' },
  paragraphs: layer.paragraphs.map((p) => ({ ...p, align })),
});

/** Words of one look without their breaks, so that they are broken where the new room asks for it. */
function unbroken(layer: WordsLayer): WordsLayer | null {
  const [first] = layer.paragraphs;
  const look = JSON.stringify({ ...firstRun(layer), text: '' });
  const one = layer.paragraphs.every((p) => p.runs.every((r) => JSON.stringify({ ...r, text: '' }) === look));
  if (layer.paragraphs.length < 2 || !one || layer.paragraphs.length > 4) return null;
  const text = textOf(layer)
    .replace(/\s*\n\s*/g, ' ')
    .trim();
  return { ...layer, paragraphs: [{ ...first!, runs: [{ ...firstRun(layer), text }] }] };
}

/** How wide the widest word of a block is that cannot be broken, at type of 1 px. */
function widestWord(layer: WordsLayer, shaper: Shaper): number {
  const look = firstRun(layer);
  const words = textOf(layer).split(/[\s\u00ad\u200b-]+/u);
  const own = typeSize(layer, shaper);
  const widths = words.map((text) => {
    const paragraphs = [{ align: 'left' as const, runs: [{ ...look, text }] }];
    const alone: WordsLayer = { ...layer, sizing: { kind: 'grow' }, paragraphs };
    return wordsBounds(alone, layoutOf(alone, shaper)).width / own;
  });
  return Math.max(0, ...widths);
}

/** One block of a type size in a room's width: as it is where it fits, wrapped where it does not. Null where a word is too wide. */
function inWidth(layer: WordsLayer, size: number, width: number, shaper: Shaper): WordsLayer | null {
  const sized = scaledWords(layer, size / typeSize(layer, shaper));
  if (wordsBounds(sized, layoutOf(sized, shaper)).width <= width) return sized;
  const box = layoutOf(sized, shaper).box;
  const wrapped = blockInBox({ ...sized, sizing: { kind: 'wrap', width } }, { ...box, width });
  return wordsBounds(wrapped, layoutOf(wrapped, shaper)).width <= width + 0.01 ? wrapped : null;
}

/** Brings a layer's drawn box to a place: its edge, as it is aligned, at `x`; its top at `y`. */
function standing(layer: WordsLayer, room: Box, y: number, shaper: Shaper): WordsLayer {
  const align = layer.paragraphs[0]!.align;
  const bounds = wordsBounds(layer, layoutOf(layer, shaper));
  const share = alignShare[align];
  const x = room.x + (room.width - bounds.width) * share;
  const { place } = layer;
  return { ...layer, place: { x: place.x + x - bounds.x, y: place.y + y - bounds.y } };
}

function laidAt(
  ask: BlockAsked,
  forms: readonly WordsLayer[],
  size: number,
  most: number,
  widest: readonly number[],
  shaper: Shaper,
): LaidBlock | null {
  const { room, least, words } = ask;
  const own = typeSize(words[0]!, shaper);
  const laid: WordsLayer[] = [];
  let y = room.y;
  for (const [i, form] of forms.entries()) {
    const share = Math.min(LINE.most, Math.max(LINE.least, typeSize(words[i]!, shaper) / own));
    // Lines keep to the title, but stay large enough to be read.
    const wanted = i === 0 ? size : Math.min(size, Math.max(least, size * share));
    if (widest[i]! * wanted > room.width) return null;
    const fitted = inWidth(form, wanted, room.width, shaper);
    if (!fitted || (i === 0 && layoutOf(fitted, shaper).lines > most)) return null;
    const placed = standing(fitted, room, y, shaper);
    const bounds = wordsBounds(placed, layoutOf(placed, shaper));
    laid.push(placed);
    y = bounds.y + bounds.height + size * GAP;
    if (bounds.y + bounds.height > room.y + room.height + 1e-6) return null;
  }
  const box = enclosing(laid.map((l) => wordsBounds(l, layoutOf(l, shaper))))!;
  const by = { x: 0, y: (room.height - box.height) * ask.down };
  return {
    layers: laid.map((l) => ({ ...l, place: { x: l.place.x, y: l.place.y + by.y } })),
    box: moved(box, by),
    size,
  };
}

/** The largest at which a block fits, its title on so many lines at most. */
function largest(
  ask: BlockAsked,
  forms: readonly WordsLayer[],
  lines: number,
  widest: readonly number[],
  shaper: Shaper,
): LaidBlock | null {
  // Tenths of a px, as type comes.
  let [low, high] = [Math.ceil(ask.least * 10) - 1, Math.floor(ask.most * 10)];
  let found: LaidBlock | null = null;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    const laid = laidAt(ask, forms, middle / 10, lines, widest, shaper);
    if (laid) [found, low] = [laid, middle];
    else high = middle - 1;
  }
  return found;
}

/** A title may be on so many lines. */
const LINES = 4;
/** What a further line of a title is to bring in size. Common practice, no source. */
const WORTH = 0.82;

/**
 * A title and its lines laid one under the other in a room, as large as it allows between `least` and `most`; on more
 * lines, or broken otherwise than it was, only where that lets it be much larger. Null where not even the least size fits.
 */
export function laidBlock(ask: BlockAsked, shaper: Shaper): LaidBlock | null {
  const [title] = ask.words;
  if (!title || ask.room.width < 1 || ask.room.height < 1) return null;
  const lines = ask.words.slice(1).map((l) => aligned(unbroken(l) ?? l, ask.align));
  const titles = [title, unbroken(title)].flatMap((t) => (t ? [aligned(t, ask.align)] : []));
  const words = ask.words.map((w) => (ask.broken ? 0 : widestWord(w, shaper)));
  return bestLaid(ask, titles, lines, words, shaper);
}

/** A block of words as it was laid, and those for which there was no room. */
export interface LaidWords {
  readonly block: LaidBlock;
  readonly without: readonly WordsLayer[];
}

/**
 * As many of some words as a room allows, laid in it: all of them, else the title with fewer lines, and only where not
 * even the title has room with a word broken in two. Null where nothing fits.
 */
export function laidWords(ask: BlockAsked, shaper: Shaper): LaidWords | null {
  for (const broken of [false, true])
    for (let n = ask.words.length; n > 0; n--) {
      const block = laidBlock({ ...ask, words: ask.words.slice(0, n), broken }, shaper);
      if (block) return { block, without: ask.words.slice(n) };
    }
  return null;
}

/** A wrapped block no wider than its lines need: they are about as long as each other, and no word is left over. */
function balanced(layer: WordsLayer, shaper: Shaper): WordsLayer {
  if (layer.sizing.kind !== 'wrap') return layer;
  const now = layoutOf(layer, shaper);
  const { height } = wordsBounds(layer, now);
  const least = widestWord(layer, shaper) * typeSize(layer, shaper);
  let [low, high] = [layer.sizing.width / 2, layer.sizing.width];
  let best = layer;
  for (let i = 0; i < 7; i++) {
    const width = (low + high) / 2;
    const tried: WordsLayer = { ...layer, sizing: { kind: 'wrap', width } };
    const layout = layoutOf(tried, shaper);
    const bounds = wordsBounds(tried, layout);
    // As many lines as before, none of them of half a word.
    const same = layout.lines === now.lines && bounds.height <= height + 0.01 && least <= width;
    if (same) [best, high] = [tried, width];
    else low = width;
  }
  return best;
}

function bestLaid(
  ask: BlockAsked,
  titles: readonly WordsLayer[],
  lines: readonly WordsLayer[],
  widest: readonly number[],
  shaper: Shaper,
): LaidBlock | null {
  let best: { block: LaidBlock; worth: number } | null = null;
  for (const [i, form] of titles.entries())
    for (let n = 1; n <= LINES; n++) {
      const block = largest(ask, [form, ...lines], n, widest, shaper);
      if (!block) continue;
      const worth = block.size * WORTH ** (n - 1) * (i === 0 ? 1 : 0.93);
      if (!best || worth > best.worth) best = { block, worth };
      // More lines bring no more once it is as large as it may be.
      if (block.size >= ask.most - 0.1) break;
    }
  if (!best) return null;
  const layers = best.block.layers.map((l) => balanced(l, shaper));
  return { ...best.block, layers, box: enclosing(layers.map((l) => wordsBounds(l, layoutOf(l, shaper))))! };
}
