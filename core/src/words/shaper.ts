import { familyNamed, weightWithin, faceFile, type Family } from './families';
import { CLOSE, CUBIC, LINE, MOVE, QUAD, type Outline } from './outline';
import type { Face } from './words';

/** A glyph after shaping, in font units; y grows upwards as in the font. */
export interface ShapedGlyph {
  readonly glyph: number;
  /** Index into the text, in UTF-16 units, of the character it began from. */
  readonly cluster: number;
  readonly advance: number;
  readonly dx: number;
  readonly dy: number;
}

/** Vertical metrics in font units; descender below the baseline is negative. */
export interface FaceMetrics {
  readonly unitsPerEm: number;
  readonly ascender: number;
  readonly descender: number;
}

/** Turns text into positioned glyphs and outlines. Glyph 0 is one the face does not have. */
export interface Shaper {
  metrics(face: Face): FaceMetrics;
  /** `apart`: letters that are spaced out, which join to no ligatures. */
  shape(text: string, face: Face, apart?: boolean): readonly ShapedGlyph[];
  /** A glyph's outline in font units with y growing downwards. */
  outline(face: Face, glyph: number): Outline;
  /** How wide the browser's own fonts set text that no face here has, px; absent where there is no browser. */
  readonly browserWidth?: BrowserWidth;
}

export type BrowserWidth = (text: string, look: { size: number; weight: number; italic: boolean }) => number;

/** The parts of the shaping library that are used; passed in, since it loads asynchronously. */
export type ShapingLibrary = Pick<
  typeof import('harfbuzzjs'),
  'Blob' | 'Face' | 'Feature' | 'Font' | 'Buffer' | 'Variation' | 'shape'
>;

const commands: Record<string, number> = { M: MOVE, L: LINE, Q: QUAD, C: CUBIC, Z: CLOSE };

/**
 * A shaper over HarfBuzz. `files` gives a face file's bytes (bare OpenType) by its stem;
 * a face whose file is absent falls back to the first file given.
 */
export function createShaper(
  library: ShapingLibrary,
  files: ReadonlyMap<string, Uint8Array>,
  {
    browserWidth,
    families = familyNamed,
  }: {
    readonly browserWidth?: BrowserWidth | undefined;
    /** All families there are, those that were brought included. */
    readonly families?: (name: string) => Family | undefined;
  } = {},
): Shaper {
  const faces = new Map<string, InstanceType<ShapingLibrary['Face']>>();
  const fonts = new Map<
    string,
    { font: InstanceType<ShapingLibrary['Font']>; metrics: FaceMetrics; outlines: Map<number, Outline> }
  >();
  const shaped = new Map<string, readonly ShapedGlyph[]>();

  const fileOf = (face: Face): string => {
    const family = families(face.family);
    const wanted = family ? faceFile(family, face.italic) : '';
    if (files.has(wanted)) return wanted;
    const upright = family ? family.file : '';
    if (files.has(upright)) return upright;
    const first = files.keys().next();
    if (first.done) throw new Error('A shaper needs at least one face file.');
    return first.value;
  };

  const fontOf = (face: Face) => {
    const file = fileOf(face);
    const family = families(face.family);
    const weight = family ? weightWithin(family, face.weight) : face.weight;
    const key = `${file}@${weight}`;
    let entry = fonts.get(key);
    if (!entry) {
      let opened = faces.get(file);
      if (!opened) {
        const bytes = files.get(file)!;
        opened = new library.Face(new library.Blob(bytes));
        faces.set(file, opened);
      }
      const font = new library.Font(opened);
      font.setVariations([new library.Variation('wght', weight)]);
      const { ascender, descender } = font.hExtents();
      entry = { font, metrics: { unitsPerEm: opened.upem, ascender, descender }, outlines: new Map() };
      fonts.set(key, entry);
    }
    return { key, ...entry };
  };

  return {
    ...(browserWidth ? { browserWidth } : {}),
    metrics: (face) => fontOf(face).metrics,
    shape(text, face, apart = false) {
      const { key, font } = fontOf(face);
      const cacheKey = `${key}\n${apart ? 'apart' : ''}\n${text}`;
      const known = shaped.get(cacheKey);
      if (known) return known;
      const buffer = new library.Buffer();
      buffer.addText(text);
      buffer.guessSegmentProperties();
      const off = apart ? ['liga=0', 'clig=0'].flatMap((f) => library.Feature.fromString(f) ?? []) : [];
      library.shape(font, buffer, off);
      const positions = buffer.getGlyphPositions();
      const glyphs = buffer.getGlyphInfos().map((info, i) => {
        const p = positions[i]!;
        return { glyph: info.codepoint, cluster: info.cluster, advance: p.xAdvance, dx: p.xOffset, dy: p.yOffset };
      });
      if (shaped.size > 2000) shaped.clear();
      shaped.set(cacheKey, glyphs);
      return glyphs;
    },
    outline(face, glyph) {
      const { font, outlines } = fontOf(face);
      let outline = outlines.get(glyph);
      if (!outline) {
        outline = font.glyphToJson(glyph).flatMap(({ type, values }) => {
          const command = commands[type];
          return command === undefined ? [] : [command, ...values.map((v, i) => (i % 2 === 1 ? -v : v))];
        });
        outlines.set(glyph, outline);
      }
      return outline;
    },
  };
}
