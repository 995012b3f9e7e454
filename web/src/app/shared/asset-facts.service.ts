import { Injectable, inject, signal } from '@angular/core';
import type { AssetFacts, Graphic } from '@bright-slot/core';
import { GraphicsRepository } from '../storage/graphics-repository';

/** What the rules know of pictures: read from storage once each. */
@Injectable({ providedIn: 'root' })
export class AssetFactsService {
  private readonly repository = inject(GraphicsRepository);
  private readonly asked = new Map<string, Promise<void>>();
  readonly facts = signal<ReadonlyMap<string, AssetFacts>>(new Map());

  /** Sees to it that the facts of a graphic's pictures are there. */
  async ensure(graphic: Graphic): Promise<ReadonlyMap<string, AssetFacts>> {
    const wanted = graphic.layers.flatMap((l) => (l.role === 'words' ? [] : [l.asset]));
    await Promise.all(
      [...new Set(wanted)].map((hash) => {
        const going =
          this.asked.get(hash) ??
          this.repository.asset(hash).then((asset) => {
            if (asset) this.facts.update((all) => new Map(all).set(hash, { silhouette: asset.silhouette ?? null }));
          });
        this.asked.set(hash, going);
        return going;
      }),
    );
    return this.facts();
  }
}
