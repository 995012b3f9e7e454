import { contrastNeeded, contrastOfLuminance, luminance } from '../colour/contrast';
import { contains, grown, intersection, moved, type Box, type Point, type Size } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import { scaledWords } from '../graphic/arrange';
import { type Graphic, type WordsLayer } from '../graphic/graphic';
import type { Frame } from '../graphic/frame';
import { pictureBounds } from '../graphic/picture-geometry';
import { safeBoxes } from '../slot/safe';
import { seenEverywhere, smallestScale } from '../slot/shown';
import { luminanceField } from '../pixels/luminance';
import type { Pixels } from '../pixels/reduce';
import { otsu, saliencyOf } from '../pixels/saliency';
import { layoutOf, movedWords, wordsBounds } from '../words/layout';
import type { Shaper } from '../words/shaper';
import { alignShare, firstRun, withRuns, type Align } from '../words/words';

/** What stands on a canvas, part by part: rows of parts from the top. */
export interface GroundMap {
  readonly across: number;
  readonly down: number;
  /** The darkest and the lightest of each part but for a tenth at either end, as relative luminance 0…1. */
  readonly low: readonly number[];
  readonly high: readonly number[];
  /** Mean change of lightness from px to px, 0…1. */
  readonly busy: readonly number[];
  /** Share of each part that belongs to a photo's subject, 0…1. */
  readonly subject: readonly number[];
}

/** Parts along the longer side of a canvas. */
const PARTS = 64;

/** How many px of the small painting a canvas px is: five to a part. */
export const mapScale = ({ width, height }: Size): number => Math.min(1, (PARTS * 5) / Math.max(width, height));

/**
 * Looks at a small painting of a canvas (straight alpha, seen over the page's ground `#rrggbb`); `photos` is the same
 * with nothing but its photographs, opaque, where it has any: their subject is what stands out from them
 * (`saliencyOf`, parted by Otsu's threshold).
 */
export function groundMap(seen: Pixels, ground: string, photos: Pixels | null): GroundMap {
  const { width, height } = seen;
  const longer = Math.max(width, height);
  const across = Math.max(1, Math.min(width, Math.round((PARTS * width) / longer)));
  const down = Math.max(1, Math.min(height, Math.round((PARTS * height) / longer)));
  const light = luminanceField(seen, ground).data;
  const salient = photos && saliencyOf(photos);
  const limit = salient ? otsu(salient) : 1;
  const low: number[] = [];
  const high: number[] = [];
  const busy: number[] = [];
  const subject: number[] = [];
  // Lightness changes as the eye sees it: the square root is near enough to CIE's L* to tell calm from busy.
  const seenAs = (i: number) => Math.sqrt(light[i]!);
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const values: number[] = [];
      let change = 0;
      let own = 0;
      const to = { x: Math.floor(((i + 1) * width) / across), y: Math.floor(((j + 1) * height) / down) };
      for (let y = Math.floor((j * height) / down); y < to.y; y++)
        for (let x = Math.floor((i * width) / across); x < to.x; x++) {
          const at = y * width + x;
          values.push(light[at]!);
          if (x + 1 < width) change += Math.abs(seenAs(at + 1) - seenAs(at));
          if (y + 1 < height) change += Math.abs(seenAs(at + width) - seenAs(at));
          if (salient && salient[at]! >= limit) own++;
        }
      values.sort((a, b) => a - b);
      const tail = Math.floor(values.length / 10);
      low.push(values[tail]!);
      high.push(values[values.length - 1 - tail]!);
      busy.push(change / values.length);
      subject.push(own / values.length);
    }
  return { across, down, low, high, busy, subject };
}

/** What a box of a canvas stands on. */
export interface Under {
  readonly low: number;
  readonly high: number;
  readonly busy: number;
  readonly subject: number;
}

/** How much a part within a photo's known subject counts as it, at least: the box around it holds some ground too. */
const IN_BOX = 0.6;

/** A map on which the subjects of photos are known by the boxes around them, canvas px. */
export function withSubjects(map: GroundMap, canvas: Size, boxes: readonly Box[]): GroundMap {
  const part = { width: canvas.width / map.across, height: canvas.height / map.down };
  const subject = map.subject.map((s, i) => {
    const own = { x: (i % map.across) * part.width, y: Math.floor(i / map.across) * part.height, ...part };
    const shares = boxes.map((b) => {
      const shared = intersection(b, own);
      return shared ? (shared.width * shared.height) / (own.width * own.height) : 0;
    });
    return Math.max(s, ...shares.map((share) => IN_BOX * share));
  });
  return { ...map, subject };
}

/** What stands under a box, canvas px; null where it is wholly off the canvas. */
export function underBox(map: GroundMap, canvas: Size, box: Box): Under | null {
  const seen = intersection(box, { x: 0, y: 0, ...canvas });
  if (!seen) return null;
  const part = { x: canvas.width / map.across, y: canvas.height / map.down };
  const [left, right] = [Math.floor(seen.x / part.x), Math.ceil((seen.x + seen.width) / part.x)];
  const [top, bottom] = [Math.floor(seen.y / part.y), Math.ceil((seen.y + seen.height) / part.y)];
  let [low, high, busy, subject, n] = [1, 0, 0, 0, 0];
  for (let j = top; j < Math.min(bottom, map.down); j++)
    for (let i = left; i < Math.min(right, map.across); i++) {
      const at = j * map.across + i;
      low = Math.min(low, map.low[at]!);
      high = Math.max(high, map.high[at]!);
      busy += map.busy[at]!;
      subject += map.subject[at]!;
      n++;
    }
  return n ? { low, high, busy: busy / n, subject: subject / n } : null;
}

/** The least contrast a colour has with what is under it. WCAG 2.2, success criterion 1.4.3. */
const contrastOn = ({ low, high }: Under, colour: string): number => {
  const own = luminance(colour);
  return own <= low || own >= high
    ? Math.min(contrastOfLuminance(own, low), contrastOfLuminance(own, high))
    : // Somewhere between the two the ground is as light as the words.
      1;
};

/** Of colours the first that is read on what is under it, else the one that is read best. */
export function bestRead(on: Under, colours: readonly string[], needed: number): { colour: string; contrast: number } {
  const judged = colours.map((colour) => ({ colour, contrast: contrastOn(on, colour) }));
  return (
    judged.find((j) => j.contrast >= needed) ?? judged.reduce((best, j) => (j.contrast > best.contrast ? j : best))
  );
}

/** What a place is asked for. Lengths in canvas px. */
export interface RoomAsked {
  readonly canvas: Size;
  /** Where it may stand, the first the most wanted, and the box that the page cuts round, if it does. */
  readonly within: readonly Box[];
  readonly round: Box | null;
  /** What it may not stand on, and how near it may come. */
  readonly taken: readonly Box[];
  readonly apart: number;
  /** Its size, and how much smaller it may become. */
  readonly size: Size;
  readonly least: number;
  /** Where its middle is wanted, and how much it counts to be off that: 1, or more for what belongs to something. */
  readonly wanted: Point;
  readonly near: number;
  /** What it is to stand below, if that can be: canvas px from the top. */
  readonly below: number;
  readonly map: GroundMap;
  /** Its colours where it has a choice, and the contrast that one needs at so many times its size; none for a picture. */
  readonly colours: readonly string[];
  readonly needed: (by: number) => number;
}

/** A place that was found. */
export interface Room {
  /** How many times its size, and where its middle goes. */
  readonly by: number;
  readonly middle: Point;
  readonly colour: string | null;
}

/** Steps of places looked at along the longer side. */
const STEPS = 48;

// What counts against a place, common practice, no source: a subject that is hidden weighs most, then a contrast that is
// missed (a halving is worth as much as a sixth of the words on a subject), then a busy ground; size is given up for
// those, and how far off a place is only decides between equals.
const COST = { subject: 60, contrast: 14, busy: 20, smaller: 4, off: 1.2, above: 3 };

/** Sizes that are tried, as shares. */
const sizes = [1, 0.85, 0.72, 0.6, 0.5, 0.4, 0.3];

const withinEllipse = (b: Box, round: Box): boolean =>
  [b.x, b.x + b.width].every((x) =>
    [b.y, b.y + b.height].every(
      (y) => ((x - round.x) / round.width - 0.5) ** 2 + ((y - round.y) / round.height - 0.5) ** 2 <= 0.25,
    ),
  );

/**
 * Where something new lands: on nothing that is taken, on no subject, on a calm ground on which it is read, as large as
 * that allows, as near as can be to where it is wanted. Null where nothing is free at any size.
 */
export function roomFor(ask: RoomAsked): Room | null {
  const { canvas, map, wanted } = ask;
  const far = Math.hypot(canvas.width, canvas.height);
  const step = Math.max(canvas.width, canvas.height) / STEPS;
  const taken = ask.taken.map((b) => grown(b, ask.apart));
  let best: (Room & { cost: number }) | null = null;
  for (const by of sizes.filter((s) => s >= ask.least)) {
    const size = { width: ask.size.width * by, height: ask.size.height * by };
    const needed = ask.needed(by);
    if (best && best.cost <= COST.smaller * (1 - by)) break;
    for (const [nth, within] of ask.within.entries()) {
      if (size.width > within.width + 0.01 || size.height > within.height + 0.01) continue;
      const along = (from: number, length: number, own: number, at: number) => {
        const [least, most] = [from + own / 2, from + length - own / 2];
        const places = new Set([Math.min(most, Math.max(least, at)), least, (least + most) / 2, most]);
        for (let p = least; p < most; p += step) places.add(p);
        return [...places];
      };
      for (const y of along(within.y, within.height, size.height, wanted.y))
        for (const x of along(within.x, within.width, size.width, wanted.x)) {
          const box = { x: x - size.width / 2, y: y - size.height / 2, ...size };
          if (ask.round && !withinEllipse(box, ask.round)) continue;
          if (taken.some((t) => intersection(t, box))) continue;
          const off = Math.hypot(x - wanted.x, y - wanted.y) / far;
          const over = box.y < ask.below ? COST.above : 0;
          const sure = COST.smaller * (1 - by) + COST.off * (ask.near * off + 0.2 * nth) + over;
          if (best && sure >= best.cost) continue;
          const on = underBox(map, canvas, box);
          if (!on) continue;
          const read = ask.colours.length ? bestRead(on, ask.colours, needed) : null;
          const missed = read ? Math.max(0, Math.log2(needed / read.contrast)) : 0;
          const cost = sure + COST.subject * on.subject + COST.contrast * missed + COST.busy * on.busy;
          if (!best || cost < best.cost) best = { by, middle: { x, y }, colour: read?.colour ?? null, cost };
        }
    }
  }
  return best && { by: best.by, middle: best.middle, colour: best.colour };
}

/** Of a side of the canvas: how near to its edge things land where the slot asks for no more. */
const MARGIN = 0.04;

/**
 * Where what is new may stand in a frame: its slot's safe area, the largest part first, a little off its edges. Canvas px.
 */
export function placesWithin({ slot, rect }: Pick<Frame, 'slot' | 'rect'>): Box[] {
  const margin = MARGIN * Math.min(slot.width, slot.height);
  const whole = grown({ x: 0, y: 0, width: slot.width, height: slot.height }, -margin);
  const boxes = slot.safe.kind === 'all' ? [whole] : safeBoxes(slot);
  const seen = seenEverywhere(slot);
  const usable = boxes.flatMap((b) => {
    const own = seen && intersection(b, seen);
    return (own && intersection(own, whole)) ?? [];
  });
  return (usable.length ? usable : [whole]).map((b) => moved(b, rect));
}

/** The boxes that nothing new may stand on: words, logos, and what the page lays over the slot. Canvas px. */
export function takenBoxes(graphic: Graphic, { slot, rect }: Frame, shaper: Shaper): Box[] {
  const { canvas } = graphic;
  const own = graphic.layers.flatMap((l) => {
    if (!l.visible) return [];
    if (l.role === 'words') return [wordsBounds(l, layoutOf(l, shaper))];
    return l.role === 'logo' ? [pictureBounds(l, canvas)] : [];
  });
  return [...own, ...slot.covered.map((b) => moved(b, rect))];
}

/** Words' own dark and light: what is chosen where nothing else is given. */
const pale = '#ffffff';
const dark = '#1f2a30';

/** The smallest size that words are given, as the page shows it, CSS px: common practice, no source. */
const LEAST_SHOWN = 14;
/** … and on any screen: the fit report asks for as much. */
const LEAST_ANYWHERE = 9;

/**
 * New words where there is room for them, in a colour that is read: the first in the middle, further ones below the last,
 * smaller. `colours` are tried first, in their order.
 */
export function placedWords(
  layer: WordsLayer,
  graphic: Graphic,
  frame: Frame,
  map: GroundMap,
  shaper: Shaper,
  colours: readonly string[] = [],
): WordsLayer {
  const { canvas } = graphic;
  const { slot, rect } = frame;
  const above = graphic.layers.filter((l): l is WordsLayer => l.role === 'words' && l.visible).at(-1);
  const known = above && { run: firstRun(above), box: wordsBounds(above, layoutOf(above, shaper)) };
  const onPhoto = graphic.layers.some((l) => l.role === 'photo' && l.visible);
  // Below a title: half its size, its alignment.
  // No smaller than any screen shows legibly.
  const smallest = smallestScale(slot);
  const own = known ? Math.max(12, Math.round(known.run.size * 0.5)) : firstRun(layer).size;
  const size = Math.max(own, Math.min(Math.ceil(LEAST_ANYWHERE / smallest), slot.height / 2));
  const align: Align = above ? above.paragraphs[0]!.align : 'centre';
  const sized = aligned(withRuns(layer, { size }), align);
  const box = wordsBounds(sized, layoutOf(sized, shaper));
  const gap = size * 0.35;
  const places = placesWithin(frame);
  const share = alignShare[align];
  const wanted = known
    ? {
        x: known.box.x + known.box.width * share + box.width * (0.5 - share),
        y: known.box.y + known.box.height + gap + box.height / 2,
      }
    : middleOf(places[0]!);
  const shown = slot.shownWidth / slot.width;
  const room = roomFor({
    canvas,
    within: places,
    round: slot.shape.kind === 'ellipse' ? rect : null,
    taken: takenBoxes(graphic, frame, shaper),
    apart: known ? gap * 0.9 : size * 0.2,
    size: box,
    least: Math.min(1, Math.max(LEAST_SHOWN / shown, LEAST_ANYWHERE / smallest) / size),
    wanted,
    map,
    colours: [
      ...new Set([...(known ? [known.run.colour] : []), ...colours, ...(onPhoto ? [pale, dark] : [dark, pale])]),
    ],
    // Words are judged letter by letter: a little more than the least.
    needed: (by) => contrastNeeded(size * smallest * by, firstRun(sized).face.weight) * 1.15,
    near: known ? 8 : 1,
    below: known ? known.box.y + known.box.height : -Infinity,
  });
  const by = room?.by ?? 1;
  const on = underBox(map, canvas, { ...box, x: wanted.x - box.width / 2, y: wanted.y - box.height / 2 });
  const colour = room?.colour ?? (on ? bestRead(on, [pale, dark], 4.5).colour : pale);
  const smaller = withRuns(by < 1 ? scaledWords(sized, by) : sized, { colour });
  const middle = room?.middle ?? wanted;
  // A title that stands to one side grows away from that side when it is written on.
  const side = (middle.x - rect.x) / rect.width - 0.5;
  const kept = known || Math.abs(side) < 0.04 ? smaller : aligned(smaller, side < 0 ? 'left' : 'right');
  const now = middleOf(wordsBounds(kept, layoutOf(kept, shaper)));
  return movedWords(kept, { x: middle.x - now.x, y: middle.y - now.y });
}

const aligned = (layer: WordsLayer, align: Align): WordsLayer => ({
  ...layer,
  paragraphs: layer.paragraphs.map((p) => ({ ...p, align })),
});

/** A box for a logo of a size where there is room for it, canvas px; where nothing is free, in the middle. */
export function roomForLogo(size: Size, graphic: Graphic, frame: Frame, map: GroundMap, shaper: Shaper): Box {
  const { canvas } = graphic;
  const { slot, rect } = frame;
  const whole = middleOf(rect);
  const taken = takenBoxes(graphic, frame, shaper);
  const middle = { x: whole.x - size.width / 2, y: whole.y - size.height / 2, ...size };
  // Alone on its canvas it stands in the middle, wherever the safe area lies, if every device shows it there.
  const seen = seenEverywhere(slot);
  const cut = seen !== null && !contains(moved(seen, rect), middle, 0.5);
  if (!cut && !taken.some((t) => intersection(t, middle)) && !map.subject.some((s) => s > 0)) return middle;
  const found = roomFor({
    canvas,
    within: placesWithin(frame),
    round: slot.shape.kind === 'ellipse' ? rect : null,
    taken,
    apart: Math.min(rect.width, rect.height) * 0.03,
    size,
    least: 0.3,
    wanted: whole,
    map,
    near: 1,
    below: -Infinity,
    colours: [],
    needed: () => 1,
  });
  if (!found) return middle;
  const own = { width: size.width * found.by, height: size.height * found.by };
  return { x: found.middle.x - own.width / 2, y: found.middle.y - own.height / 2, ...own };
}
