// What packages without types of their own give, as far as it is used.
declare module 'linebreak' {
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { position: number; required: boolean } | null;
  }
}
declare module 'bidi-js' {
  interface Levels {
    readonly levels: Uint8Array;
  }
  export default function bidiFactory(): { getEmbeddingLevels(text: string, base?: 'ltr' | 'rtl' | 'auto'): Levels };
}
declare module 'opentype.js' {
  interface ParsedFont {
    readonly unitsPerEm: number;
    readonly glyphs: { readonly length: number };
    readonly names: Readonly<Record<string, Readonly<Record<string, string>> | undefined>>;
    readonly tables: {
      readonly os2?: { readonly usWeightClass: number; readonly fsType: number; readonly fsSelection: number };
      readonly fvar?: { readonly axes: readonly { tag: string; minValue: number; maxValue: number }[] };
    };
    charToGlyphIndex(letter: string): number;
  }
  export function parse(buffer: ArrayBuffer): ParsedFont;
}
// css-tree's own parts, without its tables of properties.
declare module 'css-tree/parser' {
  import type { parse } from 'css-tree';
  const parser: typeof parse;
  export default parser;
}
declare module 'css-tree/generator' {
  import type { generate } from 'css-tree';
  const generator: typeof generate;
  export default generator;
}
declare module 'css-tree/walker' {
  import type { walk } from 'css-tree';
  const walker: typeof walk;
  export default walker;
}
