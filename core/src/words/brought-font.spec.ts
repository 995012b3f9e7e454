import { readFileSync } from 'node:fs';
import * as opentype from 'opentype.js';
import { broughtFamily, fontKind } from './brought-font';
import { createShaper } from './shaper';
import { readFont } from './read-font';

interface MadeFont {
  toArrayBuffer(): ArrayBuffer;
}
interface Maker {
  Path: new () => { moveTo(x: number, y: number): void; lineTo(x: number, y: number): void; close(): void };
  Glyph: new (own: object) => object;
  Font: new (own: object) => MadeFont;
}
const maker = opentype as unknown as Maker;

/** A small OpenType font with CFF outlines (OTF): its letters are boxes. */
function made(letters: string, styleName = 'Regular'): Uint8Array {
  const box = (width: number) => {
    const path = new maker.Path();
    path.moveTo(50, 0);
    path.lineTo(50, 700);
    path.lineTo(width - 50, 700);
    path.lineTo(width - 50, 0);
    path.close();
    return path;
  };
  const glyphs = [
    new maker.Glyph({ name: '.notdef', unicode: 0, advanceWidth: 650, path: new maker.Path() }),
    ...[...letters].map(
      (c, i) => new maker.Glyph({ name: `g${i}`, unicode: c.codePointAt(0), advanceWidth: 600, path: box(600) }),
    ),
  ];
  const font = new maker.Font({
    familyName: 'Kiln',
    styleName,
    unitsPerEm: 1000,
    ascender: 800,
    descender: -200,
    glyphs,
  });
  return new Uint8Array(font.toArrayBuffer());
}
const file = (name: string) => new Uint8Array(readFileSync(new URL(`../../../.cache/type/${name}`, import.meta.url)));
const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz';

describe('what a font file is', () => {
  // OpenType 1.9, "Organization of an OpenType font": 0x00010000 and OTTO; WOFF2, section 3: wOF2.
  it.each<[Uint8Array, ReturnType<typeof fontKind>]>([
    [file('lora.ttf'), 'opentype'],
    [made(letters), 'opentype'],
    [file('lora.woff2'), 'woff2'],
    [Uint8Array.from(Buffer.from('ttcf....')), 'collection'],
    [Uint8Array.from(Buffer.from('wOFF....')), 'woff'],
    [Uint8Array.from([0x89, 0x50, 0x4e, 0x47]), null],
    [new Uint8Array(0), null],
  ])('%#', (bytes, kind) => {
    expect(fontKind(bytes)).toBe(kind);
  });
});

describe('reading a font', () => {
  it('has a TrueType face’s name, weights and licence', () => {
    const read = readFont(file('fraunces.ttf'), 'x.ttf');
    expect(read.ok && read.value).toMatchObject({ family: 'Fraunces', weights: [100, 900], italic: false });
    expect(read.ok && read.value.licence).toContain('Fraunces Project Authors');
    const italic = readFont(file('lora-italic.ttf'), 'x.ttf');
    expect(italic.ok && italic.value.italic).toBe(true);
  });
  it('has an OTF’s too, its style in its name where it is one weight', () => {
    const read = readFont(made(letters, 'Bold'), 'kiln.otf');
    expect(read.ok && read.value.family).toBe('Kiln Bold');
    expect(read.ok && read.value.weights[0]).toBe(read.ok && read.value.weights[1]);
  });
  it('sets words in a brought OTF through the shaper, by its family', async () => {
    const bytes = made(letters);
    const family = broughtFamily({
      hash: 'a'.repeat(64),
      family: 'Kiln',
      weights: [400, 400],
      italic: false,
      licence: '',
      added: 1,
    });
    const shaper = createShaper(await import('harfbuzzjs'), new Map([[family.file, bytes]]), {
      families: (name) => (name === 'Kiln' ? family : undefined),
    });
    const face = { family: 'Kiln', weight: 400, italic: false };
    const glyphs = shaper.shape('Kiln', face);
    expect(glyphs.map((g) => g.advance)).toEqual([600, 600, 600, 600]);
    expect(shaper.outline(face, glyphs[0]!.glyph).length).toBeGreaterThan(10);
  });
  it.each([
    ['one that is cut off', () => file('lora.ttf').subarray(0, 4000), 'cannot be read as a font'],
    [
      'noise under a font’s mark',
      () => Uint8Array.from(Buffer.concat([Buffer.from('OTTO'), Buffer.alloc(900, 3)])),
      'cannot be read as a font',
    ],
    ['one without letters', () => made('0123456789'), 'none of the letters A to Z'],
  ])('%s is told from one that can be used', (_, bytes, message) => {
    const read = readFont(bytes(), 'x.ttf');
    expect(!read.ok && read.problem.message).toContain(message);
  });
});
