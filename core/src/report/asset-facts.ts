import type { PictureLayer } from '../graphic/graphic';
import type { Silhouette } from '../pixels/silhouette';

/** What rules know of a picture as it is used. */
export interface AssetFacts {
  /** Where it is to be seen; null for a picture that is opaque all over. */
  readonly silhouette: Silhouette | null;
  /** Who made it, under which licence, and whether they ask to be named where it is shown; empty where not known. */
  readonly credit?: string;
  readonly licence?: string;
  readonly showCredit?: boolean;
}

/** What the facts of a layer's picture go by: its file, and what was cut out of it. */
export const factsKey = (layer: Pick<PictureLayer, 'asset' | 'cutout'>): string =>
  layer.cutout ? `${layer.asset}|${JSON.stringify(layer.cutout)}` : layer.asset;
