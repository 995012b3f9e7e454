import cssesc from 'cssesc';
import escapeHtml from 'escape-html';
import { pictureFormats, type FileFormat } from '../formats/registry';

/** A file that a page can load, by its address. */
export interface PageFile {
  readonly address: string;
  readonly format: FileFormat;
  /** Device px a CSS px. */
  readonly density: number;
  /** Its own width, file px. */
  readonly width: number;
}

/** What a page's code is made of. Sizes are the slot's, CSS px, whole. */
export interface PageCode {
  /** The files of the chosen format, and, where an older browser needs another, those too. */
  readonly files: readonly PageFile[];
  readonly width: number;
  readonly height: number;
  readonly alt: string;
  /** Whether the page shows it narrower on narrow windows. */
  readonly scales: boolean;
}

export const codeKinds = ['img', 'picture', 'css'] as const;
export type CodeKind = (typeof codeKinds)[number];

const byDensity = (files: readonly PageFile[]) => [...files].sort((a, b) => a.density - b.density);

/** In `srcset` spaces and commas part candidates: HTML, section 4.8.4.2.1. */
const candidate = (address: string) => address.replace(/[\s,]/g, encodeURIComponent);

/**
 * `srcset`, with `sizes` where the width follows the window: HTML Living Standard, sections 4.8.4.2.1 and 4.8.4.2.2. A single
 * file needs neither.
 */
function sources(files: readonly PageFile[], { width, scales }: PageCode): string {
  if (files.length < 2) return '';
  const each = byDensity(files).map((f) => `${candidate(f.address)} ${scales ? `${f.width}w` : `${f.density}x`}`);
  const sizes = scales ? ` sizes="(max-width: ${width}px) 100vw, ${width}px"` : '';
  return ` srcset="${escapeHtml(each.join(', '))}"${sizes}`;
}

/** An `img` of the files of one format; its size is stated, so that the page does not jump as it loads. */
function image(files: readonly PageFile[], code: PageCode): string {
  const [first] = byDensity(files);
  const { width, height, alt } = code;
  return `<img src="${escapeHtml(first!.address)}"${sources(files, code)} width="${width}" height="${height}" alt="${escapeHtml(alt)}">`;
}

/** The code with which a page shows files, ready to copy. `files` has one at the least. */
export function pageCode(kind: CodeKind, code: PageCode): string {
  const [first] = code.files;
  const own = code.files.filter((f) => f.format === first!.format);
  if (kind === 'img') return image(own, code);
  if (kind === 'css') {
    const each = byDensity(own).map(
      (f) => `url("${cssesc(f.address, { quotes: 'double' })}") type("${pictureFormats[f.format].mime}") ${f.density}x`,
    );
    // CSS Images 4, section 2.4 (`image-set`).
    return [
      '.header {',
      `  width: 100%;`,
      `  max-width: ${code.width}px;`,
      `  aspect-ratio: ${code.width} / ${code.height};`,
      `  background: center / cover no-repeat image-set(${each.join(', ')});`,
      '}',
    ].join('\n');
  }
  const other = code.files.filter((f) => f.format !== first!.format);
  if (!other.length) return `<picture>\n  ${image(own, code)}\n</picture>`;
  const set = sources(own, code) || ` srcset="${escapeHtml(candidate(own[0]!.address))}"`;
  const source = `<source type="${pictureFormats[first!.format].mime}"${set}>`;
  return `<picture>\n  ${source}\n  ${image(other, code)}\n</picture>`;
}
