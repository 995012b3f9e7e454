import { Injectable, inject, signal } from '@angular/core';
import { createShaper, faceFile, type Face, type Graphic, type Shaper, type ShapingLibrary } from '@bright-slot/core';
import { browserWidth } from './browser-width';
import { FontsService } from './fonts.service';

/** Faces for shaping on the page: fetched when first used, kept. */
@Injectable({ providedIn: 'root' })
export class TypeService {
  private readonly fonts = inject(FontsService);
  private readonly files = new Map<string, Uint8Array>();
  private readonly under = new Map<string, Promise<void>>();
  private library: ShapingLibrary | undefined;
  /** A new shaper each time a face arrives, so that nothing laid out with a substitute is kept. */
  readonly shaper = signal<Shaper | null>(null);

  /** A shaper with all faces of a graphic, and more beside them. */
  async ensure(graphic: Graphic, more: readonly Face[] = []): Promise<Shaper> {
    const faces = graphic.layers.flatMap((l) =>
      l.role === 'words' ? l.paragraphs.flatMap((p) => p.runs.map((r) => r.face)) : [],
    );
    return this.ensureFaces([...faces, ...more]);
  }

  async ensureFaces(faces: readonly Face[]): Promise<Shaper> {
    await this.fonts.loaded;
    const stems = new Set(['public-sans']);
    for (const face of faces) {
      const family = this.fonts.named(face.family);
      if (family) stems.add(faceFile(family, face.italic));
    }
    const missing = [...stems].filter((s) => !this.files.has(s));
    if (missing.length === 0 && this.shaper()) return this.shaper()!;
    // The first there is stands in where a face has no file.
    if (missing.includes('public-sans')) await this.fetchFile('public-sans');
    const others = missing.filter((s) => s !== 'public-sans');
    const [library] = await Promise.all([import('harfbuzzjs'), ...others.map((s) => this.fetchFile(s))]);
    this.library = library;
    const shaper = createShaper(this.library, this.files, {
      browserWidth,
      families: (name) => this.fonts.named(name),
    });
    this.shaper.set(shaper);
    return shaper;
  }

  private fetchFile(stem: string): Promise<void> {
    const going =
      this.under.get(stem) ??
      this.fonts
        .bytes(stem)
        .then((bytes) => void this.files.set(stem, bytes))
        .finally(() => this.under.delete(stem));
    this.under.set(stem, going);
    return going;
  }
}
