import { Injectable, inject, signal } from '@angular/core';
import {
  PictureLayer,
  frameOf,
  good,
  laidOut,
  layoutGraphic,
  layoutNamed,
  newGraphic,
  startHistory,
  type Demo,
  type DemoGraphic,
  type DemoLaidOut,
  type DemoPicture,
  type Graphic,
  type HouseStyle,
  type LayoutContents,
  type Result,
  type Slot,
} from '@bright-slot/core';
import { DemoSource } from '../connector/demo-source';
import { SiteClient } from '../connector/site-client';
import { PicturesService } from '../media/pictures.service';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { Sites } from '../storage/sites.service';
import { SlotsRepository } from '../storage/slots-repository';
import { storageProblem } from '../storage/storage-problem';
import { TypeService } from '../type/type.service';
import { pictureLayer, placedPicture } from './new-layers';

const START = 'start';
/** How it was noted before there was a question. */
const BEFORE = 'demo-seeded';

/** What a person said at the first start: look round in the demo, begin with a business of one's own; or that the demo went. */
export type Start = 'demo' | 'own' | 'left';

/** The demo as it was taken away, to be put back. */
interface Taken {
  readonly graphics: readonly string[];
  readonly slots: readonly Slot[];
  readonly house: Pick<HouseStyle, 'business' | 'address' | 'logos'>;
}

/** Brings the demo in to look round, once, and takes it away again. */
@Injectable({ providedIn: 'root' })
export class DemoService {
  private readonly repository = inject(GraphicsRepository);
  private readonly slots = inject(SlotsRepository);
  private readonly sites = inject(Sites);
  private readonly pictures = inject(PicturesService);
  private readonly site = inject(SiteClient);
  private readonly house = inject(HouseStyleService);
  private readonly type = inject(TypeService);
  readonly source = inject(DemoSource);
  /** How much of it is in, 0…1, while it is being brought. */
  readonly progress = signal<number | null>(null);

  /** What was said at the first start; null where nothing was yet. A demo that came without a question is one. */
  async start(): Promise<Start | null> {
    const said = await this.repository.setting(START);
    if (said === 'demo' || said === 'own' || said === 'left') return said;
    return (await this.repository.setting(BEFORE)) === true ? ((await this.bring()).ok ? 'demo' : null) : null;
  }

  async say(start: Start): Promise<void> {
    await this.repository.setSetting(START, start);
  }

  /** Brings all of it in; what is there already stays as it is. One tab at a time: a second finds it done. */
  async bring(): Promise<Result<null>> {
    try {
      return await navigator.locks.request('bright-slot-demo', () => this.bringAll());
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    } finally {
      this.progress.set(null);
    }
  }

  private async bringAll(): Promise<Result<null>> {
    if ((await this.repository.setting(START)) === 'demo') return good(null);
    const read = await this.source.all();
    if (!read.ok) return read;
    const demo = read.value;
    const assets = await this.bringPictures(demo);
    if (!assets.ok) return assets;
    await this.slots.seed(demo.slots);
    await this.slots.put([], demo.sets);
    await this.sites.put(demo.site);
    let at = Date.now() - demo.graphics.length * 60_000;
    for (const recipe of demo.graphics) {
      const created = new Date(at).toISOString();
      const graphic =
        'layout' in recipe
          ? await this.laidOut(recipe, demo, assets.value, created)
          : made(recipe, demo, assets.value, created);
      // One that is there already was brought in by a start that broke off, or was taken away and not swept yet.
      if (await this.repository.has(graphic.id)) await this.repository.setDeleted(graphic.id, undefined);
      else await this.repository.create(startHistory(graphic, `${graphic.id}-start`, at), at);
      at += 60_000;
    }
    await this.house.loadedOnce;
    const { business, address, logos } = this.house.style();
    if (!business && !address && !logos.length)
      await this.house.change({
        ...demo.houseStyle,
        logos: demo.houseStyle.logos.flatMap((file) => assets.value.get(file)?.hash ?? []),
      });
    await this.say('demo');
    return good(null);
  }

  /** One that is made from a layout, as the layout has it. */
  private async laidOut(
    { layout, slot: slotId, alt, look, title, line, note, ...recipe }: DemoLaidOut,
    demo: Demo,
    assets: ReadonlyMap<string, AssetRecord>,
    created: string,
  ): Promise<Graphic> {
    const slot = demo.slots.find((s) => s.id === slotId)!;
    const shaper = await this.type.ensureFaces([look.heading, look.body, { ...look.body, weight: 600 }]);
    const picture = (of: DemoLaidOut['photo']) => {
      const asset = of && assets.get(of.file);
      return asset ? placedPicture(asset) : null;
    };
    const contents: LayoutContents = {
      photo: picture(recipe.photo),
      cutout: picture(recipe.cutout),
      logo: picture(recipe.logo),
      title,
      line,
      note,
    };
    const derived = laidOut(layoutNamed(layout)!, contents, look, slot, shaper)!;
    const graphic = layoutGraphic({ id: recipe.id, name: recipe.name, created, slot }, layout, derived, contents, look);
    const frame = frameOf(graphic);
    return { ...graphic, frames: [{ ...frame, export: { ...frame.export, alt } }] };
  }

  private async bringPictures(demo: Demo): Promise<Result<ReadonlyMap<string, AssetRecord>>> {
    const files = new Map(
      demo.graphics.flatMap((g) =>
        'layout' in g
          ? [g.photo, g.cutout, g.logo].flatMap((p) => (p ? [[p.file, p.name] as const] : []))
          : g.layers.flatMap((l) => ('picture' in l ? [[l.picture, l.name] as const] : [])),
      ),
    );
    for (const file of demo.houseStyle.logos) files.set(file, 'Logo');
    const assets = new Map<string, AssetRecord>();
    for (const [file, title] of files) {
      this.progress.set(assets.size / files.size);
      const blob = await this.site.shelfFile(file);
      if (!blob.ok) return blob;
      const brought = await this.pictures.bringIn(
        new File([blob.value], `${title}.${file.split('.').pop()}`),
        demo.source,
      );
      if (!brought.ok) return brought;
      assets.set(file, brought.value);
    }
    return good(assets);
  }

  /**
   * Takes the demo away: its graphics that are as they came, its slots and its site, its name from the house style.
   * What the person worked on stays. Gives how many graphics went and how many stay, and the way back.
   */
  async leave(): Promise<Result<{ readonly gone: number; readonly stay: number; readonly undo: () => Promise<void> }>> {
    const read = await this.source.all();
    if (!read.ok) return read;
    const demo = read.value;
    try {
      await this.house.loadedOnce;
      const { business, address, logos } = this.house.style();
      const shown = (await this.repository.list()).entries.filter((e) => demo.graphics.some((g) => g.id === e.id));
      const graphics: string[] = [];
      for (const { id } of shown) if (await this.repository.untouched(id)) graphics.push(id);
      const own = new Map(demo.slots.map((s) => [s.id, JSON.stringify(s)]));
      const slots = (await this.slots.list()).slots.filter((s) => own.get(s.id) === JSON.stringify(s));
      const taken: Taken = { graphics, slots, house: { business, address, logos } };
      const at = Date.now();
      for (const id of graphics) await this.repository.setDeleted(id, at);
      await this.slots.remove(slots.map((s) => s.id));
      await this.sites.remove(demo.site.id);
      const brought = new Set(await this.logosOf(demo));
      await this.house.change({
        business: business === demo.houseStyle.business ? '' : business,
        address: address === demo.houseStyle.address ? '' : address,
        logos: logos.filter((hash) => !brought.has(hash)),
      });
      await this.say('left');
      return good({
        gone: graphics.length,
        stay: shown.length - graphics.length,
        undo: () => this.putBack(demo, taken),
      });
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    }
  }

  /** The logos that came with it: they carry its source. */
  private async logosOf({ source }: Demo): Promise<string[]> {
    const found = await Promise.all(this.house.style().logos.map((hash) => this.repository.asset(hash)));
    return found.flatMap((a) => (a?.credit === source.credit ? [a.hash] : []));
  }

  private async putBack(demo: Demo, { graphics, slots, house }: Taken): Promise<void> {
    for (const id of graphics) await this.repository.setDeleted(id, undefined);
    await this.slots.put(slots, demo.sets);
    await this.sites.put(demo.site);
    await this.house.change(house);
    await this.say('demo');
  }
}

/** A graphic of the demo as it is stored. */
function made(
  { id, name, slot: slotId, alt, backdrop, layers }: DemoGraphic,
  demo: Demo,
  assets: ReadonlyMap<string, AssetRecord>,
  created: string,
): Graphic {
  const slot = demo.slots.find((s) => s.id === slotId)!;
  const base = newGraphic({ id, name, created, slot });
  const frame = frameOf(base);
  return {
    ...base,
    backdrop,
    frames: [{ ...frame, export: { ...frame.export, alt } }],
    layers: layers.map((l) => ('picture' in l ? layerOf(l, assets, base) : l)),
  };
}

function layerOf({ picture, name, role, own }: DemoPicture, assets: ReadonlyMap<string, AssetRecord>, base: Graphic) {
  const arrived = pictureLayer(assets.get(picture)!, base, role);
  const look = { ...arrived.look, ...(own['look'] as object | undefined) };
  return PictureLayer.parse({ ...arrived, ...own, name, look });
}
