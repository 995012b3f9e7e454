import { Injectable, inject, signal } from '@angular/core';
import { isPicture, factsKey, type AssetFacts, type Graphic, type PictureLayer } from '@bright-slot/core';
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
          this.factsOf(layer).then((facts) => {
            // One that failed, or is not there yet, is looked at again when it is next asked for.
            if (facts === undefined) this.asked.delete(key);
            else this.facts.update((all) => new Map(all).set(key, facts));
          });
        this.asked.set(key, going);
        going.catch(() => this.asked.delete(key));
        return going;
      }),
    );
    return this.facts();
  }

  private async factsOf({ asset, cutout, vector }: PictureLayer): Promise<AssetFacts | undefined> {
    const record = await this.repository.asset(asset);
    const silhouette =
      cutout && !vector
        ? await this.pixels.sight.run({ kind: 'silhouette', asset, cutout })
        : record && (record.silhouette ?? null);
    if (silhouette === undefined) return undefined;
    const { credit = '', licence = '', showCredit = false } = record ?? {};
    return { silhouette, credit, licence, showCredit };
  }
}
