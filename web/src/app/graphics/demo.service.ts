import { Injectable, inject } from '@angular/core';
import { newGraphic, slotsToStart, startHistory } from '@bright-slot/core';
import { HouseStyleService } from '../storage/house-style.service';
import { pictureLayer, wordsLayer } from '../document/new-layers';
import { PicturesService } from '../media/pictures.service';
import { SiteClient, demoSource } from '../connector/site-client';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository } from '../storage/graphics-repository';
import { demoGraphics } from './demo-graphics';

const SEEDED = 'demo-seeded';

/** Brings the pottery's graphics in, once per browser. */
@Injectable({ providedIn: 'root' })
export class DemoService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pictures = inject(PicturesService);
  private readonly site = inject(SiteClient);
  private readonly house = inject(HouseStyleService);
  private seeding: Promise<void> | undefined;

  seedOnce(): Promise<void> {
    // One tab at a time: a second first start finds it done.
    return (this.seeding ??= (async () => {
      await navigator.locks.request(SEEDED, () => this.seed());
    })().catch((error: unknown) => {
      this.seeding = undefined;
      throw error;
    }));
  }

  private async seed(): Promise<void> {
    if ((await this.repository.setting(SEEDED)) === true) return;
    const assets = new Map<string, AssetRecord>();
    for (const [file, title] of demoGraphics.flatMap((g) => Object.entries(g.pictures))) {
      if (assets.has(file)) continue;
      const blob = await this.site.shelfFile(file);
      if (!blob.ok) throw new Error(blob.problem.message);
      const brought = await this.pictures.bringIn(
        new File([blob.value], `${title}.${file.split('.').pop()}`),
        demoSource,
      );
      if (!brought.ok) throw new Error(brought.problem.message);
      assets.set(file, brought.value);
    }
    let at = Date.now() - demoGraphics.length * 60_000;
    for (const recipe of demoGraphics) {
      const slot = slotsToStart.find((s) => s.id === recipe.slot)!;
      const base = newGraphic({ id: recipe.id, name: recipe.name, created: new Date(at).toISOString(), slot });
      const graphic = recipe.make(base, {
        picture: (file, g, as) => pictureLayer(assets.get(file)!, g, as),
        words: (text, g) => wordsLayer(g, text),
      });
      const history = startHistory(graphic, `${recipe.id}-start`, at);
      // One that is there already was brought in by a start that broke off.
      if (!(await this.repository.has(recipe.id))) await this.repository.create(history, at);
      at += 60_000;
    }
    await this.house.loadedOnce;
    const { business, address, logos } = this.house.style();
    const logo = assets.get('ottermill.svg');
    if (!business && !address && !logos.length)
      await this.house.change({
        business: 'Ottermill Pottery',
        address: 'ottermill.example',
        ...(logo ? { logos: [logo.hash] } : {}),
      });
    await this.repository.setSetting(SEEDED, true);
  }
}
