import { Injectable, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import {
  AS_IT_IS,
  PLACEHOLDER,
  adaptToSlot,
  asSource,
  carriedGraphic,
  contentLetters,
  cutText,
  derivedOf,
  frameOf,
  layoutGraphic,
  layoutLook,
  layoutName,
  limits,
  nameFrom,
  scoreOf,
  withContents,
  type Graphic,
  type LayoutContents,
  type PicturePlace,
  type PlacedPicture,
  type Problem,
  type Slot,
  type Source,
  type WordsPlace,
} from '@bright-slot/core';
import { Composing } from '../document/composing.service';
import { MakeGraphic } from '../document/make-graphic';
import { PlacedPictures } from '../document/placed-pictures.service';
import { PicturesService } from '../media/pictures.service';
import { ShelfService, type ShelfItem } from '../media/shelf/shelf.service';
import { PixelsService } from '../pixels/pixels.service';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository, type GraphicEntry } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { TypeService } from '../type/type.service';
import type { LayoutTry, ToTry } from '../layouts/layout-tries';

/** So many of the person's own graphics are offered. */
const OWN = 6;
/** What a graphic is known by until it is made. */
const UNMADE = { id: 'new', name: 'New', created: new Date(0).toISOString() };

/** What a new graphic starts with: its slot, and what is put into layouts. */
@Injectable()
export class StartSession {
  private readonly shelf = inject(ShelfService);
  private readonly pictures = inject(PicturesService);
  private readonly placing = inject(PlacedPictures);
  private readonly house = inject(HouseStyleService);
  private readonly pixels = inject(PixelsService);
  private readonly composing = inject(Composing);
  private readonly repository = inject(GraphicsRepository);
  private readonly maker = inject(MakeGraphic);
  private readonly router = inject(Router);
  private readonly type = inject(TypeService);

  readonly slot = signal<Slot | null>(null);
  readonly problem = signal('');
  readonly making = signal(false);
  readonly items = signal<readonly ShelfItem[]>([]);
  /** Whether the shelf was looked at. */
  readonly ready = signal(false);
  /** Ids on the shelf of what stands in each place. */
  readonly chosen = signal<Readonly<Record<PicturePlace, string | null>>>({ photo: null, cutout: null, logo: null });
  private readonly placed = signal<Readonly<Record<PicturePlace, PlacedPicture | null>>>({
    photo: null,
    cutout: null,
    logo: null,
  });
  readonly words = signal<Readonly<Record<WordsPlace, string>>>({ title: '', line: '', note: '' });
  readonly leading = signal<string | null>(null);
  /** What was put in by hand: one's own graphics keep all else. */
  private readonly given = signal<ReadonlySet<PicturePlace | WordsPlace>>(new Set());

  readonly look = computed(() => layoutLook(this.house.style(), this.leading() ?? undefined));
  readonly contents = computed<LayoutContents>(() => {
    const { title, line, note } = this.words();
    return { ...this.placed(), title: title.trim() || PLACEHOLDER, line, note };
  });
  /** One's own graphics, those of the likest shape first. */
  private readonly own = signal<readonly GraphicEntry[]>([]);

  async open(slot: Slot): Promise<void> {
    this.slot.set(slot);
    await this.house.loadedOnce;
    const { business, address, logos } = this.house.style();
    this.words.set({
      title: cutText(business, contentLetters.title),
      line: cutText(address.replace(/^https?:\/\//, ''), contentLetters.line),
      note: '',
    });
    const [{ items, problem }, listed] = await Promise.all([this.shelf.list(), this.repository.list()]);
    this.items.set(items);
    this.problem.set(problem);
    this.own.set(likest(slot, listed.entries));
    const photos = items.filter((i) => !i.transparent && !i.sheet);
    const photo = photos.find((i) => i.from === 'own') ?? photos[0];
    const logo = items.find((i) => i.hash !== undefined && logos.includes(i.hash));
    const cutout = items.find((i) => i.transparent && !i.vector && i.from === 'own' && i.hash !== logo?.hash);
    await Promise.all([
      this.put('photo', photo ?? null),
      this.put('logo', logo ?? null),
      this.put('cutout', cutout ?? null),
    ]);
    this.ready.set(true);
  }

  /** Pictures from this computer; the first that is no cut-out is the photo, the first that is one the cut-out. */
  async bringIn(files: readonly File[], as?: PicturePlace): Promise<void> {
    const problems: Problem[] = [];
    const assets: AssetRecord[] = [];
    for (const file of files) {
      const brought = await this.pictures.bringIn(file);
      if (brought.ok) assets.push(brought.value);
      else problems.push(brought.problem);
    }
    const { items } = await this.shelf.list();
    this.items.set(items);
    for (const asset of assets) {
      const place = as ?? (asset.opaque && !asset.flatBorder ? 'photo' : asset.type === 'svg' ? 'logo' : 'cutout');
      const item = items.find((i) => i.hash === asset.hash);
      if (item) await this.choose(place, item);
    }
    if (problems.length) this.problem.set(problems.map((p) => p.message).join(' '));
  }

  /** What stands in a place, by hand. */
  async choose(place: PicturePlace, item: ShelfItem | null): Promise<void> {
    this.given.update((g) => new Set([...g, place]));
    await this.put(place, item);
  }

  private async put(place: PicturePlace, item: ShelfItem | null): Promise<void> {
    const before = this.chosen()[place];
    this.chosen.update((c) => ({ ...c, [place]: item?.id ?? null }));
    if (!item) return this.placed.update((p) => ({ ...p, [place]: null }));
    const found = await this.placing.of(item, place === 'photo');
    if (this.chosen()[place] !== item.id) return;
    if (!found.ok) {
      this.problem.set(found.problem.message);
      return this.chosen.update((c) => ({ ...c, [place]: before }));
    }
    this.placed.update((p) => ({ ...p, [place]: found.value }));
  }

  write(place: WordsPlace, text: string): void {
    this.given.update((g) => new Set([...g, place]));
    this.words.update((w) => ({ ...w, [place]: cutText(text.toWellFormed(), contentLetters[place]) }));
  }

  /** All layouts with what is put in, as graphics. */
  async layouts(stop: AbortSignal): Promise<ToTry[]> {
    const slot = this.slot()!;
    const [contents, look] = [this.contents(), this.look()];
    const found = await this.pixels.layouts(contents, look, slot, stop);
    const own = { ...UNMADE, slot };
    return found.map(({ layout, derived }) => ({
      key: layout,
      name: layoutName(layout, slot),
      graphic: layoutGraphic(own, layout, derived, contents, look),
    }));
  }

  /** One's own graphics with what was put in by hand. */
  async ownAsLayouts(stop: AbortSignal): Promise<ToTry[]> {
    const slot = this.slot()!;
    const found: ToTry[] = [];
    for (const entry of this.own()) {
      const graphic = await this.repository.graphic(entry.id);
      if (stop.aborted) break;
      const made = graphic && (await this.asLayout(graphic, slot, stop).catch(() => null));
      if (made) found.push({ key: entry.id, name: entry.name, graphic: made });
    }
    return found;
  }

  private async asLayout(graphic: Graphic, slot: Slot, stop: AbortSignal): Promise<Graphic | null> {
    const shaper = await this.type.ensure(asSource(graphic));
    const source = await this.composing.source(graphic);
    const given = this.given();
    const contents = this.contents();
    const by = <K extends PicturePlace>(place: K) => (given.has(place) ? contents[place] : null);
    const said = (place: WordsPlace) => (given.has(place) ? contents[place] : '');
    const filled = withContents(
      source,
      {
        photo: by('photo'),
        cutout: by('cutout'),
        logo: by('logo'),
        title: said('title'),
        line: said('line'),
        note: said('note'),
      },
      shaper,
    );
    const at = frameOf(graphic).slot;
    if (at.width === slot.width && at.height === slot.height && at.shape.kind === slot.shape.kind) {
      const as = (s: Source) => adaptToSlot(s.graphic, s.graphic.frames[0]!.id, slot);
      return lastOf(carriedGraphic({ way: AS_IT_IS, graphic: as(filled) }, source, UNMADE), as(source));
    }
    const all = await this.composing.compositions(filled, slot, stop);
    const best = [...all].sort((a, b) => scoreOf(b.measures) - scoreOf(a.measures))[0];
    if (!best) return null;
    const plain = (await this.composing.compositions(source, slot, stop)).find((c) => c.way === best.way);
    const made = carriedGraphic(best, source, UNMADE);
    return plain ? lastOf(made, plain.graphic) : made;
  }

  /** Makes it as it is shown, and opens it. */
  async make(t: LayoutTry): Promise<void> {
    const slot = this.slot();
    if (!slot || this.making()) return;
    this.making.set(true);
    const { title } = this.words();
    const own = await this.maker.own({ name: title.trim() ? nameFrom(title, limits.name - 6, slot.name) : slot.name });
    const kept = await this.maker.keep({ ...t.graphic, ...own }, `Made from ${t.name}`);
    if (kept.ok) await this.router.navigate(['/graphics', own.id]);
    else this.problem.set(kept.problem.message);
    this.making.set(false);
  }

  /** An empty canvas. */
  async makeBare(): Promise<void> {
    const slot = this.slot();
    if (!slot || this.making()) return;
    this.making.set(true);
    const kept = await this.maker.forSlot(slot);
    if (!kept.ok) this.problem.set(kept.problem.message);
    this.making.set(false);
  }
}

/** What it would have been without what was put in: that is what it follows. */
const lastOf = (graphic: Graphic, plain: Graphic): Graphic => ({
  ...graphic,
  follows: { ...graphic.follows!, last: derivedOf(plain) },
});

/** Graphics of a slot's shape before others, the latest of each first. */
function likest(slot: Slot, entries: readonly GraphicEntry[]): GraphicEntry[] {
  const ratio = Math.log(slot.width / slot.height);
  const far = (e: GraphicEntry) => {
    const own = frameOf(e).slot;
    const round = (own.shape.kind === 'ellipse') === (slot.shape.kind === 'ellipse') ? 0 : 1;
    return Math.round(4 * Math.abs(Math.log(own.width / own.height) - ratio)) + round;
  };
  return [...entries].sort((a, b) => far(a) - far(b) || b.changed - a.changed).slice(0, OWN);
}
