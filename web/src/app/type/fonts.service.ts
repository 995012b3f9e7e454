import { Injectable, computed, signal } from '@angular/core';
import {
  broughtFamily,
  broughtHash,
  families,
  familyNamed,
  good,
  type BroughtFont,
  type Family,
  type Result,
} from '@bright-slot/core';
import { database } from '../storage/database';
import { storageProblem } from '../storage/storage-problem';
import type { FontReader } from './font-reader';
import { ownFile } from '../storage/own-file';

/** All type there is: what ships, and what the person brought; and how the page shows it. */
@Injectable({ providedIn: 'root' })
export class FontsService {
  private readonly own = signal<readonly BroughtFont[]>([]);
  readonly brought = this.own.asReadonly();
  /** No font that is brought has the name of one that ships; one that has is not shown. */
  readonly families = computed<readonly Family[]>(() => [
    ...this.own()
      .map(broughtFamily)
      .filter((f) => !familyNamed(f.name)),
    ...families,
  ]);
  private readonly shown = new Map<string, Promise<void>>();
  readonly loaded: Promise<void>;

  constructor() {
    this.loaded = this.load();
  }

  private async load(): Promise<void> {
    try {
      const records = await database().fonts.orderBy('family').toArray();
      this.own.set(records.map(({ blob: _, ...font }) => font));
    } catch {
      // Without them words fall back on a shipped family; the storage's own warning says what is wrong.
    }
  }

  named(name: string): Family | undefined {
    return this.families().find((f) => f.name === name);
  }

  /** A face file's bytes by its stem, bare OpenType. */
  async bytes(stem: string): Promise<Uint8Array> {
    const own = broughtHash(stem);
    if (own !== null) {
      const record = await database().fonts.get(own);
      if (!record) throw new Error('A font that was brought in is no longer in this browser.');
      return new Uint8Array(await record.blob.arrayBuffer());
    }
    const response = await ownFile(`/type/${stem}.ttf`);
    if (!response.ok) throw new Error('The type could not be fetched. Is Bright Slot still running?');
    return new Uint8Array(await response.arrayBuffer());
  }

  /** What CSS calls a family here. */
  cssName({ name, kind, file }: Family): string {
    return kind === 'own' ? `"${file}"` : `"${name} Variable"`;
  }

  /** Sees to it that the page can show a family. */
  show(family: Family): Promise<void> {
    let going = this.shown.get(family.name);
    if (!going) {
      going = this.addFaces(family).catch(() => void this.shown.delete(family.name));
      this.shown.set(family.name, going);
    }
    return going;
  }

  private async addFaces(family: Family): Promise<void> {
    const name = this.cssName(family).slice(1, -1);
    const weight = `${family.weights[0]} ${family.weights[1]}`;
    const styles = family.kind !== 'own' && family.italic ? (['normal', 'italic'] as const) : (['normal'] as const);
    await Promise.all(
      styles.map(async (style) => {
        const stem = style === 'italic' ? `${family.file}-italic` : family.file;
        const source =
          family.kind === 'own'
            ? ((await this.bytes(stem)) as Uint8Array<ArrayBuffer>).buffer
            : `url(/type-web/${stem}.woff2)`;
        const face = new FontFace(name, source, { weight, style, display: 'swap' });
        document.fonts.add(await face.load());
      }),
    );
  }

  /** Brings a font in: read, tried, kept with its name and what it says of its licence. */
  async bring(file: File, reader: FontReader): Promise<Result<BroughtFont>> {
    const opened = await reader.font(file);
    if (!opened.ok) return opened;
    const { font, bytes } = opened.value;
    const known = this.own().find((f) => f.hash === font.hash);
    if (known) return good(known);
    // A name that is taken would hide another family.
    let family = font.family;
    const taken = (name: string) => this.families().some((f) => f.name.toLowerCase() === name.toLowerCase());
    for (let n = 2; taken(family); n++) family = `${font.family.slice(0, 74)} ${n}`;
    const kept: BroughtFont = { ...font, family, added: Date.now() };
    try {
      await database().fonts.put({ ...kept, blob: new Blob([bytes]) });
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    }
    this.own.update((all) => [...all, kept].sort((a, b) => a.family.localeCompare(b.family)));
    return good(kept);
  }

  async remove(hash: string): Promise<void> {
    await database().fonts.delete(hash);
    this.own.update((all) => all.filter((f) => f.hash !== hash));
    // Another of the same name is another family to the page.
    this.shown.clear();
  }
}
