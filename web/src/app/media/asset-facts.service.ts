import { Injectable, inject, signal } from '@angular/core';
import { isPicture, factsKey, type AssetFacts, type Graphic, type PictureLayer } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import type { Examined } from '../pixels/messages';
import type { PixelClient } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';

/** What the rules know of pictures: read from storage once each. */
@Injectable({ providedIn: 'root' })
export class AssetFactsService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly asked = new Map<string, Promise<void>>();
  private readonly asking = new Map<string, Promise<void>>();
  /** What was found out in a picture's pixels, once for all cut-outs of it. */
  private readonly examinations = new Map<string, Promise<Examined>>();
  readonly facts = signal<ReadonlyMap<string, AssetFacts>>(new Map());

  /** Sees to it that the facts of a graphic's pictures are there; what has to be found out in their pixels comes later. */
  async ensure(graphic: Graphic): Promise<ReadonlyMap<string, AssetFacts>> {
    await this.once(graphic, this.asked, (layer) => this.factsOf(layer));
    return this.facts();
  }

  /** The same, with what is found out in their pixels by a worker. */
  async examined(graphic: Graphic, by: PixelClient): Promise<ReadonlyMap<string, AssetFacts>> {
    await this.ensure(graphic);
    await this.once(graphic, this.asking, async (layer) => {
      const { asset, role, vector } = layer;
      const known = this.facts().get(factsKey(layer));
      if (role !== 'photo' || vector || !known) return known;
      const going = this.examinations.get(asset) ?? by.run({ kind: 'examine', asset });
      this.examinations.set(asset, going);
      going.catch(() => this.examinations.delete(asset));
      return { ...known, ...(await going) };
    });
    return this.facts();
  }

  /** What is asked once for each picture as it is used. What failed, or is not there yet, is asked again the next time. */
  private async once(
    graphic: Graphic,
    asked: Map<string, Promise<void>>,
    ask: (layer: PictureLayer) => Promise<AssetFacts | undefined>,
  ): Promise<void> {
    const used = new Map(graphic.layers.flatMap((l) => (isPicture(l) ? [[factsKey(l), l] as const] : [])));
    await Promise.all(
      [...used].map(([key, layer]) => {
        const going =
          asked.get(key) ??
          ask(layer).then((facts) => {
            if (facts === undefined) asked.delete(key);
            else this.facts.update((all) => new Map(all).set(key, facts));
          });
        asked.set(key, going);
        going.catch(() => asked.delete(key));
        return going;
      }),
    );
  }

  private async factsOf({ asset, cutout, vector }: PictureLayer): Promise<AssetFacts | undefined> {
    const record = await this.repository.asset(asset);
    const silhouette =
      cutout && !vector
        ? await this.pixels.sight.run({ kind: 'silhouette', asset, cutout })
        : record && (record.silhouette ?? null);
    if (silhouette === undefined) return undefined;
    const { credit = '', licence = '', showCredit = false, subject } = record ?? {};
    return { silhouette, credit, licence, showCredit, ...(subject ? { subject } : {}) };
  }
}
