import type { Box } from '../geometry/box';
import type { Watermark } from '../export/watermark';
import type { Edit } from '../graphic/edit';
import type { Backdrop, Graphic, Layer } from '../graphic/graphic';
import type { ExportChoices, Frame } from '../graphic/frame';
import type { Shaper } from '../words/shaper';
import type { Legibility } from '../legibility/legibility';
import type { AssetFacts } from './asset-facts';
import type { FileFormat } from '../slot/slot';
import type { ThresholdName } from './thresholds';

/** Everything rules may look at. `legibility` arrives later, from a worker; undefined until then. */
export interface ReportContext {
  readonly graphic: Graphic;
  readonly frame: Frame;
  readonly shaper: Shaper;
  /** By asset hash; what is not there is taken for a full rectangle. */
  readonly assets: ReadonlyMap<string, AssetFacts>;
  readonly legibility: readonly Legibility[] | undefined;
  /** What the page prints around the slot, as plain text. */
  readonly printed: readonly string[];
  /** The day on which it is judged, YYYY-MM-DD. */
  readonly today: string;
  /** The slot as the book has it now; null where it is in none, or was kept apart from it. */
  readonly slotNow: Frame['slot'] | null;
  /** How many graphics there are for the same slot, this one among them. */
  readonly alike: number;
  /** What its file would be called. */
  readonly fileName: string;
  /** The person's watermark, where the frame leaves with it. */
  readonly watermark: Watermark | null;
  /** How heavy the file is; null where neither its weight nor its look is in question, undefined until it is known. */
  readonly weights: FileWeights | null | undefined;
}

/** What a file weighs as it is chosen, and in other ways that were tried because that is too much. */
export interface FileWeights {
  readonly chosen: FileWeight;
  /** In each format the page takes the best quality that is light enough, or the lowest there is. */
  readonly tried: readonly FileWeight[];
}
export interface FileWeight {
  readonly format: FileFormat;
  readonly quality: number;
  readonly bytes: number;
  /** Whether it can be told from the canvas at 100 %; absent where it was not compared. */
  readonly seen?: boolean;
}

/** What a rule can need; a rule runs again only when one of these changed. */
export interface Needs {
  layers: readonly Layer[];
  backdrop: Backdrop;
  canvas: Graphic['canvas'];
  /** The frame that is judged: what of it a fix names, where it lies (canvas px), and all there are beside it. */
  frame: string;
  rect: Frame['rect'];
  frames: readonly Frame[];
  slot: Frame['slot'];
  choices: ExportChoices;
  shaper: Shaper;
  assets: ReadonlyMap<string, AssetFacts>;
  legibility: readonly Legibility[] | undefined;
  printed: readonly string[];
  today: string;
  slotNow: Frame['slot'] | null;
  alike: number;
  /** What the graphic is called. */
  name: string;
  fileName: string;
  watermark: Watermark | null;
  weights: FileWeights | null | undefined;
}
export type Need = keyof Needs;

export const selectors: { readonly [N in Need]: (c: ReportContext) => Needs[N] } = {
  layers: (c) => c.graphic.layers,
  backdrop: (c) => c.graphic.backdrop,
  canvas: (c) => c.graphic.canvas,
  frame: (c) => c.frame.id,
  rect: (c) => c.frame.rect,
  frames: (c) => c.graphic.frames,
  slot: (c) => c.frame.slot,
  choices: (c) => c.frame.export,
  shaper: (c) => c.shaper,
  assets: (c) => c.assets,
  legibility: (c) => c.legibility,
  printed: (c) => c.printed,
  today: (c) => c.today,
  slotNow: (c) => c.slotNow,
  alike: (c) => c.alike,
  name: (c) => c.graphic.name,
  fileName: (c) => c.fileName,
  watermark: (c) => c.watermark,
  weights: (c) => c.weights,
};

export interface Fix {
  readonly label: string;
  readonly edit: Edit;
}

/** One thing that stands between a graphic and its slot. */
export interface Finding {
  /** Stable while the finding stands, so that a list can follow it. */
  readonly id: string;
  readonly group: 'before' | 'time';
  readonly title: string;
  readonly detail: string;
  /** Where it is, canvas px; null for the graphic as a whole. */
  readonly at: Box | null;
  readonly layer?: string;
  /** What was measured: a finding that was left is shown again when one of them changes. */
  readonly figures?: readonly number[];
  readonly fixes: readonly Fix[];
}

/** A finding whose fixes are made when they are first looked at: most never are. */
export function fixable(finding: Omit<Finding, 'fixes'>, make: () => readonly Fix[]): Finding {
  let made: readonly Fix[] | undefined;
  return {
    ...finding,
    get fixes() {
      return (made ??= make());
    },
  };
}

/** What rules are about, in the order in which they are listed. */
export const subjects = [
  'Cover and cut',
  'Shape and zones',
  'Sharp',
  'Readable',
  'Weight and file',
  'Page',
  'Rights and people',
  'Words',
] as const;

export interface Rule<N extends Need = Need> {
  readonly id: string;
  readonly about: (typeof subjects)[number];
  /** What it finds, the figures it goes by, and what mends it: a sentence each, for the table of rules. */
  readonly what: string;
  readonly by: readonly ThresholdName[];
  readonly mends: string;
  /** What it makes sure of, said when nothing was found; empty where it was not looked at. */
  readonly passed: string | ((given: Pick<Needs, N>) => string);
  readonly needs: readonly N[];
  /** Null where it cannot say yet. */
  judge(given: Pick<Needs, N>): readonly Finding[] | null;
}

/** Keeps a rule's needs and its judge in step in the type checker. */
export function defineRule<const N extends Need>(rule: Rule<N>): Rule<N> {
  return rule;
}
