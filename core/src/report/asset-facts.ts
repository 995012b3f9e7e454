import type { PictureLayer } from '../graphic/graphic';
import type { Silhouette } from '../pixels/silhouette';

/** What rules know of a picture as it is used. */
export interface AssetFacts {
  /** Where it is to be seen; null for a picture that is opaque all over. */
  readonly silhouette: Silhouette | null;
}

/** What the facts of a layer's picture go by: its file, and what was cut out of it. */
export const factsKey = (layer: Pick<PictureLayer, 'asset' | 'cutout'>): string =>
  layer.cutout ? `${layer.asset}|${JSON.stringify(layer.cutout)}` : layer.asset;
