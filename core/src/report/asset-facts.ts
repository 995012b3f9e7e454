import type { Silhouette } from '../pixels/silhouette';

/** What rules know of an asset. */
export interface AssetFacts {
  /** Where it is to be seen; null for a picture that is opaque all over. */
  readonly silhouette: Silhouette | null;
}
