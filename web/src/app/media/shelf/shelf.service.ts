import { Injectable, inject } from '@angular/core';
import { good, type Box, type BusyMap, type Point, type Result, type Slot, type Tint } from '@bright-slot/core';
import { PicturesService, type PictureSource, type Bringing } from '../pictures.service';
import { PixelsService } from '../../pixels/pixels.service';
import { SiteClient } from '../../connector/site-client';
import { CurrentPictures } from '../current-picture.service';
import type { AssetRecord } from '../../storage/database';
import { GraphicsRepository } from '../../storage/graphics-repository';

/** A picture that can be had: the person's own, one on the site's shelf, what the page shows now, or an ornament. */
export interface ShelfItem {
  readonly id: string;
  readonly from: 'own' | 'site' | 'page' | 'ornament';
  readonly title: string;
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  readonly transparent: boolean;
  /** On a plain sheet, as a logo is. */
  readonly sheet: boolean;
  readonly vector: boolean;
  readonly credit: string;
  readonly licence: string;
  readonly showCredit: boolean;
  readonly usedIn: readonly { readonly id: string; readonly name: string }[];
  /** Address of a small copy. */
  readonly thumb: string;
  /** Where its own hash is known, it is here already. */
  readonly hash?: string;
  /** Where to fetch it. */
  readonly file?: string;
  readonly address?: string;
  readonly svg?: string;
}

/** What was chosen: a picture that is here, or a file to be brought in. */
export type ShelfChoice =
  { readonly asset: AssetRecord } | { readonly file: File; readonly from: PictureSource; readonly tint?: Tint };

/** What a picture is about, in shares of it. */
export interface Subject {
  readonly focus: Point;
  readonly subject: Box;
  /** How busy the picture is, part by part; not known of what could not be looked at. */
  readonly busy?: BusyMap;
}

/** The photo shelf: everything that can be put into a graphic, in one list. */
@Injectable({ providedIn: 'root' })
export class ShelfService {
  private readonly repository = inject(GraphicsRepository);
  private readonly site = inject(SiteClient);
  private readonly pictures = inject(PicturesService);
  private readonly pixels = inject(PixelsService);
  private readonly current = inject(CurrentPictures);
  private readonly thumbs = new Map<string, string>();
  private readonly subjects = new Map<string, Promise<Subject>>();

  /** The person's pictures, latest first, then the site's shelf; `problem` where the site does not answer. */
  async list(): Promise<{ items: ShelfItem[]; problem: string }> {
    const [own, shelf] = await Promise.all([this.repository.pictures(), this.site.shelf()]);
    const mine = own.map(({ asset, usedIn }): ShelfItem => ({
      id: asset.hash,
      from: 'own',
      title: asset.name,
      width: asset.width,
      height: asset.height,
      bytes: asset.blob.size,
      transparent: !asset.opaque,
      sheet: asset.flatBorder ?? false,
      vector: asset.type === 'svg',
      credit: asset.credit,
      licence: asset.licence ?? '',
      showCredit: asset.showCredit ?? false,
      usedIn,
      thumb: this.thumbOf(asset),
      hash: asset.hash,
    }));
    if (!shelf.ok) return { items: mine, problem: shelf.problem.message };
    // One that was brought in already stands among the person's own.
    const known = new Set(mine.map((m) => `${m.bytes}|${m.width}|${m.height}`));
    const theirs = shelf.value
      .filter((p) => !known.has(`${p.bytes}|${p.width}|${p.height}`))
      .map((p): ShelfItem => ({
        id: `site:${p.file}`,
        from: 'site',
        title: p.title,
        width: p.width,
        height: p.height,
        bytes: p.bytes,
        transparent: p.role === 'cutout' || /\.svg$/.test(p.file),
        sheet: p.role === 'logo' && !/header/.test(p.file),
        vector: /\.svg$/.test(p.file),
        credit: p.credit,
        licence: p.licence,
        showCredit: false,
        usedIn: [],
        thumb: this.site.thumbAddress(p),
        file: p.file,
      }));
    return { items: [...mine, ...theirs], problem: '' };
  }

  /** What the page shows in a slot now; null where nothing is known. */
  async onThePage(slot: Slot): Promise<ShelfItem | null> {
    const site = await this.site.site();
    if (!site.ok) return null;
    for (const page of site.value.pages)
      for (const s of page.slots) {
        if (s.slot.id !== slot.id) continue;
        const address = s.now?.address ?? s.first;
        if (!address) return null;
        return {
          id: `page:${address}`,
          from: 'page',
          title: `On “${page.title}” now`,
          width: s.now?.width ?? slot.width,
          height: s.now?.height ?? slot.height,
          bytes: s.now?.bytes ?? 0,
          transparent: false,
          sheet: false,
          vector: false,
          credit: '',
          licence: '',
          showCredit: false,
          usedIn: s.now ? [s.now.graphic] : [],
          thumb: address,
          address,
        };
      }
    return null;
  }

  async ornaments(): Promise<ShelfItem[]> {
    const { ornaments, ornamentLicence } = await import('./ornaments');
    return ornaments.map(({ name, svg }) => ({
      id: `ornament:${name}`,
      from: 'ornament',
      title: name,
      width: 24,
      height: 24,
      bytes: svg.length,
      transparent: true,
      sheet: false,
      vector: true,
      credit: '',
      licence: ornamentLicence,
      showCredit: false,
      usedIn: [],
      thumb: `data:image/svg+xml,${encodeURIComponent(svg)}`,
      svg,
    }));
  }

  private thumbOf(asset: AssetRecord): string {
    const known = this.thumbs.get(asset.hash);
    if (known) return known;
    const made = URL.createObjectURL(asset.thumb ?? asset.blob);
    this.thumbs.set(asset.hash, made);
    return made;
  }

  /** What to keep in sight of a picture: set by hand, or proposed from its content. */
  subjectOf(item: ShelfItem): Promise<Subject> {
    const known = this.subjects.get(item.id);
    if (known) return known;
    const found = this.lookAt(item).catch(() => {
      // For now; the next to ask looks again.
      this.subjects.delete(item.id);
      return { focus: { x: 0.5, y: 0.5 }, subject: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } };
    });
    this.subjects.set(item.id, found);
    return found;
  }

  private async lookAt(item: ShelfItem): Promise<Subject> {
    const asset = item.hash ? await this.repository.asset(item.hash) : undefined;
    const small = asset?.thumb ?? (await (await fetch(item.thumb)).blob());
    const { busy, ...found } = await this.pixels.sight.run({ kind: 'focus', source: small });
    if (asset?.focus && asset.subject) return { focus: asset.focus, subject: asset.subject, busy };
    // One set by hand meanwhile stands.
    if (item.hash && !(await this.repository.asset(item.hash))?.focus)
      await this.repository.describeAsset(item.hash, found);
    return { ...found, busy };
  }

  /** Whose it is, as it is to be kept with the picture. */
  private sourceOf({ from, credit, licence, showCredit }: ShelfItem): PictureSource {
    return from === 'site' ? { credit, licence } : { credit, licence, showCredit };
  }

  /** The picture itself: one that is here, or its file. */
  async choose(item: ShelfItem): Promise<Result<ShelfChoice>> {
    if (item.hash) {
      const asset = await this.repository.asset(item.hash);
      if (asset) return good({ asset });
    }
    const from = this.sourceOf(item);
    if (item.svg) return good({ file: new File([item.svg], `${item.title}.svg`), from });
    if (item.file) {
      const blob = await this.site.shelfFile(item.file);
      return blob.ok
        ? good({ file: new File([blob.value], `${item.title}.${item.file.split('.').pop()}`), from })
        : blob;
    }
    const file = await this.current.fileAt(item.address ?? '');
    return file.ok ? good({ file: file.value, from }) : file;
  }

  /** The picture, brought in if it was not yet. */
  async bringIn(item: ShelfItem, how: Bringing = {}): Promise<Result<AssetRecord>> {
    const choice = await this.choose(item);
    if (!choice.ok) return choice;
    if ('asset' in choice.value) return good(choice.value.asset);
    return this.pictures.bringIn(choice.value.file, choice.value.from, how);
  }
}
