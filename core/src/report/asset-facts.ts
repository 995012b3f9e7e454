import type { Box } from '../geometry/box';
import type { PictureLayer } from '../graphic/graphic';
import type { Margins } from '../pixels/margins';
import type { Silhouette } from '../pixels/silhouette';

/** What rules know of a picture as it is used. */
export interface AssetFacts {
  /** Where it is to be seen; null for a picture that is opaque all over. */
  readonly silhouette: Silhouette | null;
  /** Who made it, under which licence, and whether they ask to be named where it is shown; empty where not known. */
  readonly credit?: string;
  readonly licence?: string;
  readonly showCredit?: boolean;
  /** What it is of: a box in shares of it, found in it or drawn by hand. */
  readonly subject?: Box;
  /** Whether the place where it was taken is written in its file. */
  readonly located?: boolean;
  /** Rows and columns along its sides that do not belong to it, px of its own; see `strayLines`. */
  readonly stray?: Margins;
  /** How far its sharpest edges are blurred (σ, px of its own); null where it has no edges to go by. */
  readonly blur?: number | null;
}

/** What the facts of a layer's picture go by: its file, and what was cut out of it. */
export const factsKey = (layer: Pick<PictureLayer, 'asset' | 'cutout'>): string =>
  layer.cutout ? `${layer.asset}|${JSON.stringify(layer.cutout)}` : layer.asset;
