import {
  contains,
  enclosing,
  grown,
  intersection,
  moved,
  outward,
  scaled,
  type Box,
  type Point,
} from '../geometry/box';
import { middleOf, turnedBounds } from '../geometry/turn';
import { withLayer, type Graphic, type WordsLayer } from '../graphic/graphic';
import { contrastNeeded, contrastOfLuminance, luminance } from '../colour/contrast';
import { channelsOf } from '../colour/srgb';
import { luminanceField, type Field } from '../pixels/luminance';
import { switchedDarkening } from '../slot/darkening';
import { itemInk, layoutOf, movedWords, wordsExtent } from '../words/layout';
import { allLetters, faintestLetter } from './legibility';
import { overOf, seenThrough } from './seen';
import { readWords, type Reader } from './ways';

/** Cells that a canvas is looked at in along its longer side. */
const CELLS = 96;
/** So many places that look calm are read letter by letter, at most. */
const READ = 5;

/** The darkest and the lightest of a field cell by cell; cells of so many px. */
function extremesOf(
  field: Field,
  cell: number,
): { across: number; down: number; low: Float32Array; high: Float32Array } {
  const across = Math.ceil(field.width / cell);
  const down = Math.ceil(field.height / cell);
  const low = new Float32Array(across * down).fill(Infinity);
  const high = new Float32Array(across * down).fill(-Infinity);
  for (let y = 0; y < field.height; y++) {
    const row = Math.floor(y / cell) * across;
    for (let x = 0; x < field.width; x++) {
      const at = row + Math.floor(x / cell);
      const v = field.data[y * field.width + x]!;
      if (v < low[at]!) low[at] = v;
      if (v > high[at]!) high[at] = v;
    }
  }
  return { across, down, low, high };
}

/**
 * The shortest move (canvas px) after which words stand out as they are, by the measure that judges them
 * (`faintestLetter`, at `shownScale` CSS px per canvas px); null where there is none within `within` and clear of `taken`
 * (canvas px). Places are looked at in cells first, each by its darkest and lightest px, which asks more than the measure
 * does; what looks calm is then read letter by letter.
 */
export async function calmPlace(
  graphic: Graphic,
  layer: WordsLayer,
  reader: Reader,
  room: { readonly within: readonly Box[]; readonly taken: readonly Box[] },
  shownScale: number,
): Promise<{ by: Point; contrast: number } | null> {
  // On a ground of their own they read the same anywhere.
  if (layer.ground || layer.outline) return null;
  const layout = layoutOf(layer, reader.shaper);
  const inks = layout.items.flatMap((i) => itemInk(i) ?? []);
  if (!inks.length) return null;
  const turned = (b: Box) => (layer.turn === 0 ? b : turnedBounds(b, layer.turn, middleOf(wordsExtent(layer, layout))));
  const letters = inks.map(turned);
  const block = enclosing(letters)!;
  const needed = Math.max(...layout.items.map((i) => neededOf(i, shownScale)));

  const { pixels, plan } = await reader.paint(graphic, { below: layer.id, withGround: true });
  const whole = { x: 0, y: 0, width: pixels.width, height: pixels.height };
  const over = overOf(null, reader.slot, pixels.height, whole);
  const field = luminanceField(seenThrough(pixels, over, channelsOf(reader.ground), whole).pixels, '#000000');
  const cell = Math.max(1, Math.round(Math.max(field.width, field.height) / CELLS));
  const map = extremesOf(field, cell);
  const colours = [...new Set(layout.items.map((i) => i.colour))].map(luminance);
  const device = (b: Box) => scaled({ ...b, x: b.x - plan.origin.x, y: b.y - plan.origin.y }, plan.scale);
  // Words read by the darkest and lightest cell under all of their letters.
  const boxes = letters.map((b) => outward(grown(device(b), 1)));
  const looksCalm = (dx: number, dy: number) =>
    boxes.every((b) => {
      let [low, high] = [Infinity, -Infinity];
      const to = { x: Math.floor((b.x + dx + b.width) / cell), y: Math.floor((b.y + dy + b.height) / cell) };
      for (let j = Math.max(0, Math.floor((b.y + dy) / cell)); j <= Math.min(map.down - 1, to.y); j++)
        for (let i = Math.max(0, Math.floor((b.x + dx) / cell)); i <= Math.min(map.across - 1, to.x); i++) {
          low = Math.min(low, map.low[j * map.across + i]!);
          high = Math.max(high, map.high[j * map.across + i]!);
        }
      return colours.every(
        (ink) =>
          (ink <= low || ink >= high) &&
          Math.min(contrastOfLuminance(ink, low), contrastOfLuminance(ink, high)) >= needed,
      );
    });
  const step = cell / plan.scale;
  const moves: Point[] = [];
  for (const w of room.within) {
    for (let y = Math.ceil((w.y - block.y) / step); block.y + y * step + block.height <= w.y + w.height + 1e-6; y++)
      for (let x = Math.ceil((w.x - block.x) / step); block.x + x * step + block.width <= w.x + w.width + 1e-6; x++) {
        const there = moved(block, { x: x * step, y: y * step });
        if (contains(w, there, 1e-6) && !room.taken.some((t) => intersection(t, there)))
          moves.push({ x: x * step, y: y * step });
      }
  }
  moves.sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y));
  let tries = 0;
  for (const by of moves) {
    if (Math.hypot(by.x, by.y) < step || !looksCalm(by.x * plan.scale, by.y * plan.scale)) continue;
    // Whole px are what a person would type.
    const whole = { x: Math.round(by.x), y: Math.round(by.y) };
    const there = movedWords(layer, whole);
    const read = await readEveryState(withLayer(graphic, there), there, reader);
    const worst = faintestLetter({ letters: read }, shownScale);
    if (worst && worst.contrast >= worst.needed) return { by: whole, contrast: worst.contrast };
    if (++tries === READ) return null;
  }
  return null;
}

const neededOf = (item: { size: number; weight: number }, shownScale: number) =>
  contrastNeeded(item.size * shownScale, item.weight);

/** What letters stand on, with the page's darkening on and off where it can be switched. */
export async function readEveryState(graphic: Graphic, layer: WordsLayer, reader: Reader) {
  const letters = await readWords(graphic, layer, reader);
  const other = switchedDarkening(reader.slot);
  const switched = other && (await readWords(graphic, layer, { ...reader, slot: other }));
  return allLetters(switched ? { letters, switched } : { letters });
}
