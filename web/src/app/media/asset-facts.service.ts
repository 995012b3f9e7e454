import { Injectable, inject, signal } from '@angular/core';
import {
  isPicture,
  factsKey,
  type AssetFacts,
  type Graphic,
  type PictureLayer,
  type Silhouette,
} from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { PixelsService } from '../pixels/pixels.service';

/** What the rules know of pictures: read from storage once each. */
@Injectable({ providedIn: 'root' })
export class AssetFactsService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly asked = new Map<string, Promise<void>>();
  readonly facts = signal<ReadonlyMap<string, AssetFacts>>(new Map());

  /** Sees to it that the facts of a graphic's pictures are there. */
  async ensure(graphic: Graphic): Promise<ReadonlyMap<string, AssetFacts>> {
    const used = new Map(graphic.layers.flatMap((l) => (isPicture(l) ? [[factsKey(l), l] as const] : [])));
    await Promise.all(
      [...used].map(([key, layer]) => {
        const going =
          this.asked.get(key) ??
          this.silhouetteOf(layer).then((silhouette) => {
            // One that failed, or is not there yet, is looked at again when it is next asked for.
            if (silhouette === undefined) this.asked.delete(key);
            else this.facts.update((all) => new Map(all).set(key, { silhouette }));
          });
        this.asked.set(key, going);
        going.catch(() => this.asked.delete(key));
        return going;
      }),
    );
    return this.facts();
  }

  private async silhouetteOf({ asset, cutout, vector }: PictureLayer): Promise<Silhouette | null | undefined> {
    if (cutout && !vector) return this.pixels.sight.run({ kind: 'silhouette', asset, cutout });
    const record = await this.repository.asset(asset);
    return record && (record.silhouette ?? null);
  }
}
