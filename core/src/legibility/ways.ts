import { middleOf } from '../geometry/turn';
import { withLayer, type Graphic, type WordsLayer } from '../graphic/graphic';
import type { Plan, PlanOptions } from '../paint/plan';
import { paintLetter } from '../paint/paint';
import type { PaintContext } from '../paint/context';
import type { Pixels } from '../pixels/reduce';
import type { Slot } from '../slot/slot';
import { channelsOf } from '../colour/srgb';
import { layoutOf, wordsExtent, type WordsLayout } from '../words/layout';
import { bothReadings, groundSampler, type GroundSampler, type LetterGround, type Rasterise } from './legibility';
import { overOf, seenThrough, type Seen } from './seen';
import type { Shaper } from '../words/shaper';

/** Paints a graphic's main frame at the scale at which it is judged, straight alpha. */
export type PaintForJudging = (
  graphic: Graphic,
  options: PlanOptions,
) => Promise<{ readonly pixels: Pixels; readonly plan: Plan }>;

/** A sheet of a size in device px to draw single letters on, cleared; and its coverage. */
export interface LetterSheet {
  readonly context: PaintContext<never>;
  /** Alpha 0…255, row by row. */
  readonly coverage: () => Uint8Array | Uint8ClampedArray;
}
export type MakeLetterSheet = (width: number, height: number) => LetterSheet;

/** Draws single letters of a layer as they stand in a plan, turned with it, to tell their pixels. */
export function rasteriser(
  { scale, origin }: Pick<Plan, 'scale' | 'origin'>,
  turn: { degrees: number; about: { x: number; y: number } } | null,
  sheet: MakeLetterSheet,
): Rasterise {
  return (item, box, line) => {
    const { context, coverage } = sheet(box.width, box.height);
    context.setTransform(scale, 0, 0, scale, -origin.x * scale - box.x, -origin.y * scale - box.y);
    if (turn) {
      context.translate(turn.about.x, turn.about.y);
      context.rotate((turn.degrees * Math.PI) / 180);
      context.translate(-turn.about.x, -turn.about.y);
    }
    paintLetter(item, context, line);
    return coverage();
  };
}

/** Words without the line around them. */
export const bare = (layer: WordsLayer): WordsLayer => ({ ...layer, outline: null });

/** A way of reading a layer's words (by its letters; by the line around them), and what is seen then. */
export interface Way {
  readonly sampler: GroundSampler;
  readonly seen: Seen;
}

/**
 * The ways in which a words layer can be read in a graphic as a visitor sees it: over the page's ground (`#rrggbb`),
 * under all that is painted after it, under the page's darkening. By its letters first, then by the line around them;
 * null for a way where none of it is on the canvas. `known` are samplers of an earlier look at the same layer.
 */
export async function waysOf(
  graphic: Graphic,
  layer: WordsLayer,
  { shaper, slot, ground, paint, sheet }: Reader,
  known?: readonly (Way | null)[],
): Promise<(Way | null)[]> {
  const layout: WordsLayout = layoutOf(layer, shaper);
  const at = graphic.layers.findIndex((l) => l.id === layer.id);
  const covered = graphic.layers.slice(at + 1).some((l) => l.visible);
  const turn = layer.turn === 0 ? null : { degrees: layer.turn, about: middleOf(wordsExtent(layer, layout)) };
  const above = covered ? await paint(graphic, { above: layer.id }) : null;
  const ways: (Way | null)[] = [];
  for (const line of layer.outline ? [null, layer.outline] : [null]) {
    // Read by its line, a layer stands on what lies beyond that.
    const seen = line ? withLayer(graphic, bare(layer)) : graphic;
    const below = await paint(seen, { below: layer.id, withGround: true });
    const { pixels, plan } = below;
    const sampler =
      known?.[ways.length]?.sampler ??
      groundSampler(
        layout,
        { size: pixels, scale: plan.scale, origin: plan.origin, turn },
        rasteriser(plan, turn, sheet),
        line ? { line } : layer.outline ? { ring: layer.outline.width * plan.scale } : {},
      );
    if (!sampler) {
      ways.push(null);
      continue;
    }
    const over = overOf(above?.pixels ?? null, slot, pixels.height, sampler.region);
    ways.push({ sampler, seen: seenThrough(pixels, over, channelsOf(ground), sampler.region) });
  }
  return ways;
}

/** What reading words needs: how they are shaped, where they are to stand, and somebody who paints. */
export interface Reader {
  readonly shaper: Shaper;
  readonly slot: Pick<Slot, 'darkening'>;
  /** The page's own colour. */
  readonly ground: string;
  readonly paint: PaintForJudging;
  readonly sheet: MakeLetterSheet;
}

/** What each letter of a words layer stands on, in all ways of reading it. */
export async function readWords(graphic: Graphic, layer: WordsLayer, reader: Reader): Promise<readonly LetterGround[]> {
  const ways = await waysOf(graphic, layer, reader);
  const [own, line] = ways.map((way) => (way ? way.sampler.sample(way.seen) : []));
  return bothReadings(own!, line ?? null);
}
