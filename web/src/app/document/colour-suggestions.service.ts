import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { isPicture, type PictureLayer } from '@bright-slot/core';
import { PixelsService } from '../pixels/pixels.service';
import { drawnWhole } from '../pixels/vectors';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { ColourHelp } from '../ui/colour-help';
import { Workbench } from './workbench';

const KEY = 'recent-colours';
const MOST_RECENT = 12;
/** So many of the house's stand beside a field. */
const FEW = 6;

const unnamed = (colours: readonly string[]) => colours.map((colour) => ({ name: colour, colour }));

/** Colours that are likely to be wanted: the house's, those used lately, those of the graphic's own pictures. */
@Injectable({ providedIn: 'root' })
export class ColourSuggestions extends ColourHelp {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);
  private readonly workbench = inject(Workbench);
  private readonly style = inject(HouseStyleService).style;
  private readonly recent = signal<readonly string[]>([]);
  /** The colours that the graphic's pictures are made of, once they are wanted. */
  readonly ofPictures = signal<readonly string[]>([]);
  /** Whether those are known. */
  readonly looked = signal(false);
  readonly wanted = signal(false);
  readonly few = computed(() => this.style().colours.slice(0, FEW));
  readonly groups = computed(() =>
    [
      {
        name: 'House colours',
        colours: this.style().colours.map(({ name, colour }) => ({ name: `${name} ${colour}`, colour })),
      },
      { name: 'Used lately', colours: unnamed(this.recent()) },
      { name: 'In the pictures', colours: unnamed(this.ofPictures()) },
    ].filter((g) => g.colours.length),
  );
  readonly layer = computed(() => this.workbench.selected()?.name ?? null);
  private readonly pictures = computed(
    () => (this.workbench.graphic()?.layers ?? []).filter((l): l is PictureLayer => isPicture(l) && l.visible),
    { equal: (a, b) => a.map((l) => l.asset).join() === b.map((l) => l.asset).join() },
  );

  constructor() {
    super();
    void this.repository.setting(KEY).then(
      (stored) => {
        if (Array.isArray(stored)) this.recent.set(stored.filter((c) => /^#[0-9a-f]{6}$/.test(String(c))).map(String));
      },
      () => undefined,
    );
    effect(() => {
      const pictures = this.pictures();
      untracked(() => this.looked.set(false));
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
    this.looked.set(true);
  }

  /** A colour was chosen: it comes first among the recent ones. */
  used(colour: string): void {
    const next = [colour, ...this.recent().filter((c) => c !== colour)].slice(0, MOST_RECENT);
    this.recent.set(next);
    this.repository.setSetting(KEY, next).catch(() => undefined);
  }

  calledOff(): void {
    this.workbench.draft.set(null);
  }
}
