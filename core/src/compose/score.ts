import { clamp } from '../geometry/clamp';
import { contains, enclosing, intersection, type Box } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import { isPicture, type Layer } from '../graphic/graphic';
import { layerBounds } from '../graphic/shape-geometry';
import { hiddenShare, subjectBox } from '../report/subject-hidden';
import { roomOf } from '../report/free-move';
import { thresholds } from '../report/thresholds';
import { smallestScale } from '../slot/shown';
import type { Slot } from '../slot/slot';
import { layoutOf } from '../words/layout';
import type { Shaper } from '../words/shaper';
import type { Composition, Source } from './compose';

/** What a composition is scored by: each 0 (bad) to 1 (as good as can be). */
export interface Measures {
  /** How well the faintest words stand out; null until that was looked at. */
  readonly read: number | null;
  /** How much of what the photo is of is seen, and not under words. */
  readonly subject: number;
  /** How much of words and logos is where every screen shows it, clear of what the page lays over it. */
  readonly clear: number;
  /** How high the smallest letters are where they are shown smallest. */
  readonly letters: number;
  /** How far words and logos are off the edges. */
  readonly margins: number;
  /** How near the middle the weight of words and subject lies. */
  readonly balance: number;
  /** How much of the source is there, arranged as it was. */
  readonly likeness: number;
}
export type MeasureName = keyof Measures;

/** What each measure is called, what it counts for, and what is said of it where it is shown. */
export const measures: Readonly<
  Record<MeasureName, { readonly name: string; readonly weight: number; readonly what: string }>
> = {
  read: {
    name: 'Read',
    weight: 0.28,
    what: 'contrast of the faintest words to what is needed, without a veil; half as much again is best',
  },
  subject: { name: 'Subject', weight: 0.2, what: 'share of the subject that is seen and not under words' },
  clear: { name: 'Clear', weight: 0.14, what: 'share of words and logos clear of the page’s own and of cut-off parts' },
  letters: { name: 'Letters', weight: 0.1, what: 'smallest type on the smallest screen, twice the least is best' },
  margins: { name: 'Margins', weight: 0.06, what: 'least distance to an edge, 6 % of the shorter side is best' },
  balance: { name: 'Balance', weight: 0.08, what: 'how near the middle words and subject weigh together' },
  likeness: { name: 'Likeness', weight: 0.14, what: 'what of the source is kept, and on the side where it was' },
};

/** Contrast so many times what is needed is as good as can be. */
const READ_BEST = 1.5;
/** Type so many times the least is as good as can be. */
const LETTERS_BEST = 2;
const MARGIN_BEST = 0.06;

const isSubject = (layer: Layer) => layer.role === 'words' || layer.role === 'logo';
const area = (b: Box) => b.width * b.height;

/** How well words stand out, from the ratio of the faintest letter's contrast to what it needs: 1 needed is ⅔. */
export const readMeasure = (ratio: number): number => clamp(ratio / READ_BEST, 0, 1);
/** From type as shown, CSS px. */
export const letterMeasure = (shown: number): number =>
  clamp(shown / (LETTERS_BEST * thresholds.letterHeight.value), 0, 1);
/** From the least distance to an edge, in shares of the shorter side. */
export const marginMeasure = (share: number): number => clamp(share / MARGIN_BEST, 0, 1);
/** From how far the common weight lies from the middle, in halves of the canvas. */
export const balanceMeasure = (off: number): number => clamp(1 - off, 0, 1);

function subjectMeasure(c: Composition, source: Source, slot: Slot): number {
  const frame = { slot, rect: { x: 0, y: 0, width: slot.width, height: slot.height } };
  let [sum, all] = [0, 0];
  for (const layer of c.graphic.layers) {
    const subject = isPicture(layer) && layer.role === 'photo' ? source.subjects.get(layer.id) : undefined;
    if (!subject || !isPicture(layer)) continue;
    const box = subjectBox(layer, subject, c.graphic.canvas);
    const shared = c.words && intersection(box, c.words);
    const seen = (1 - hiddenShare(box, frame)) * (1 - (shared ? area(shared) / Math.max(1e-9, area(box)) : 0));
    sum += seen;
    all++;
  }
  return all ? sum / all : 1;
}

function clearMeasure(c: Composition, slot: Slot, boxes: readonly Box[]): number {
  const room = roomOf({ slot, rect: { x: 0, y: 0, width: slot.width, height: slot.height } });
  const shares = boxes.map((b) => {
    const within = Math.max(...room.map((r) => area(intersection(r, b) ?? { ...b, width: 0 })));
    const under = slot.covered.reduce((sum, z) => sum + area(intersection(z, b) ?? { ...b, width: 0 }), 0);
    return clamp((within - under) / Math.max(1e-9, area(b)), 0, 1);
  });
  return shares.length ? Math.min(...shares) : 1;
}

function likenessMeasure(c: Composition, source: Source, shaper: Shaper): number {
  const before = source.graphic.layers.filter((l) => source.roles.has(l.id));
  const kept = before.filter((l) => c.graphic.layers.some((n) => n.id === l.id)).length / Math.max(1, before.length);
  const middle = (layers: readonly Layer[], graphic: Source['graphic']) => {
    const words = layers.filter((l) => l.role === 'words' && source.roles.has(l.id));
    const box = enclosing(words.map((l) => layerBounds(l, graphic, shaper)));
    return box && { x: middleOf(box).x / graphic.canvas.width, y: middleOf(box).y / graphic.canvas.height };
  };
  const [was, is] = [middle(source.graphic.layers, source.graphic), middle(c.graphic.layers, c.graphic)];
  const off = was && is ? Math.hypot(was.x - is.x, (was.y - is.y) / 2) : was ? 1 : 0;
  const banded = before.some((l) => source.roles.get(l.id) === 'band');
  const band = banded === (c.way === 'band') ? 1 : 0.6;
  return clamp(0.6 * kept + 0.4 * clamp(1 - 1.6 * off, 0, 1), 0, 1) * band;
}

/**
 * What a composition is worth by each measure. `ratio`: the contrast of its faintest letter to what that needs, as the
 * legibility job found it; null until then.
 */
export function measured(
  c: Composition,
  source: Source,
  slot: Slot,
  shaper: Shaper,
  ratio: number | null = null,
): Measures {
  const { graphic } = c;
  const canvas = { x: 0, y: 0, ...graphic.canvas };
  const boxes = graphic.layers.filter(isSubject).map((l) => layerBounds(l, graphic, shaper));
  const scale = smallestScale(slot);
  const said = [...source.roles.values()].includes('title');
  const sizes = graphic.layers.flatMap((l) =>
    l.role === 'words' ? layoutOf(l, shaper).items.map((i) => i.size * scale) : [],
  );
  const shorter = Math.min(canvas.width, canvas.height);
  const off = boxes.map((b) =>
    contains(canvas, b)
      ? Math.min(b.x, b.y, canvas.width - b.x - b.width, canvas.height - b.y - b.height) / shorter
      : 0,
  );
  const weights = [
    ...(c.words ? [c.words] : []),
    ...graphic.layers.flatMap((l) => {
      const subject = isPicture(l) && l.role === 'photo' ? source.subjects.get(l.id) : undefined;
      const box = subject && isPicture(l) ? intersection(subjectBox(l, subject, graphic.canvas), canvas) : null;
      return box ? [box] : [];
    }),
  ];
  const weight = weights.reduce((sum, b) => sum + area(b), 0);
  const centre = weights.reduce((sum, b) => sum + (area(b) * (b.x + b.width / 2)) / Math.max(1e-9, weight), 0);
  return {
    // Words that are not there are read by nobody.
    read: c.words === null ? (said ? 0 : 1) : ratio === null ? null : readMeasure(ratio),
    subject: subjectMeasure(c, source, slot),
    clear: clearMeasure(c, slot, boxes),
    letters: sizes.length ? letterMeasure(Math.min(...sizes)) : said ? 0 : 1,
    margins: off.length ? marginMeasure(Math.min(...off)) : 1,
    balance: weight > 0 ? balanceMeasure(Math.abs(centre / canvas.width - 0.5) * 2) : 1,
    likeness: likenessMeasure(c, source, shaper),
  };
}

/** One figure for all measures, 0…1: their weighted mean, of those that are known. */
export function scoreOf(m: Measures): number {
  let [sum, all] = [0, 0];
  for (const [name, { weight }] of Object.entries(measures) as [MeasureName, { weight: number }][]) {
    const value = m[name];
    if (value === null) continue;
    sum += weight * value;
    all += weight;
  }
  return all ? sum / all : 0;
}
