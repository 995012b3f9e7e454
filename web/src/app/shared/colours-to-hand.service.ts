import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { isPicture, type PictureLayer } from '@bright-slot/core';
import { HouseStyleService } from '../house-style/house-style.service';
import { Workbench } from '../state/draft';
import { GraphicsRepository } from '../storage/graphics-repository';
import { PixelsService } from './pixels.service';
import { drawnWhole } from './vectors';

const KEY = 'recent-colours';
const MOST_RECENT = 12;

/** Colours that are likely to be wanted: the house's, those used lately, those of the graphic's own pictures. */
@Injectable({ providedIn: 'root' })
export class ColoursToHand {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly workbench = inject(Workbench);
  private readonly style = inject(HouseStyleService).style;
  readonly house = computed(() => this.style().colours);
  private readonly lately = signal<readonly string[]>([]);
  readonly recent = this.lately.asReadonly();
  /** Whether someone is choosing: only then are pictures looked at. */
  readonly wanted = signal(false);
  readonly ofPictures = signal<readonly string[]>([]);
  private readonly pictures = computed(
    () => (this.workbench.graphic()?.layers ?? []).filter((l): l is PictureLayer => isPicture(l) && l.visible),
    { equal: (a, b) => a.map((l) => l.asset).join() === b.map((l) => l.asset).join() },
  );

  constructor() {
    void this.repository.setting(KEY).then(
      (stored) => {
        if (Array.isArray(stored)) this.lately.set(stored.filter((c) => /^#[0-9a-f]{6}$/.test(String(c))).map(String));
      },
      () => undefined,
    );
    effect(() => {
      const pictures = this.pictures();
      if (this.wanted()) void untracked(() => this.look(pictures));
    });
  }

  private async look(pictures: readonly PictureLayer[]): Promise<void> {
    const sources = await Promise.all(
      [...new Map(pictures.map((p) => [p.asset, p])).values()].slice(0, 20).map(async ({ asset, vector, natural }) => {
        if (vector) return drawnWhole(asset, natural, 96).catch(() => null);
        const record = await this.repository.asset(asset);
        return record?.thumb ?? record?.blob ?? null;
      }),
    );
    const found = sources.filter((s) => s !== null);
    this.ofPictures.set(found.length ? await this.pixels.palette(found).catch(() => []) : []);
  }

  /** A colour was chosen: it comes first among the recent ones. */
  used(colour: string): void {
    const next = [colour, ...this.lately().filter((c) => c !== colour)].slice(0, MOST_RECENT);
    this.lately.set(next);
    this.repository.setSetting(KEY, next).catch(() => undefined);
  }
}
