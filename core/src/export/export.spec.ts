import { execFileSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import exifr from 'exifr';
import sharp from 'sharp';
import { cleanDrawing } from '../formats/drawing';
import { frameOf } from '../graphic/frame';
import { plan } from '../paint/plan';
import { svgOf } from '../paint/svg';
import { encodedAvif } from '../testing/avif';
import { realShaper } from '../testing/type';
import { blank, withLayers, words } from '../testing/samples';
import { srgbProfile } from './icc';
import { noNotes, withNotes } from './metadata';
import { nameAt } from './densities';
import { DEFAULT_PATTERN, fileName, isSafeName, safeWord } from './name';

const parts = { graphic: 'Herbstglasuren für Élan', slot: 'Blog header', date: '2026-11-24', format: 'jpeg' } as const;

describe('file names', () => {
  it('have no spaces, accents or capitals', () => {
    expect(fileName(DEFAULT_PATTERN, parts)).toBe('herbstglasuren-fuer-elan-blog-header-2026-11-24a.jpg');
    expect(isSafeName(fileName(DEFAULT_PATTERN, parts))).toBe(true);
  });
  it('step a letter instead of overwriting', () => {
    const taken = new Set<string>();
    const names = Array.from({ length: 28 }, () => {
      const name = fileName('{slot}-{date}{letter}', { ...parts, format: 'webp' }, taken);
      taken.add(name);
      return name;
    });
    expect(names[0]).toBe('blog-header-2026-11-24a.webp');
    expect(names[1]).toBe('blog-header-2026-11-24b.webp');
    expect(names[26]).toBe('blog-header-2026-11-24aa.webp');
    expect(new Set(names).size).toBe(28);
  });
  it('say what is asked of the site, the size, the density, the version and the number; what is not known is left out', () => {
    const all = '{number}-{site}-{slot}-{graphic}-{version}-{date}-{size}-{density}{letter}';
    const known = { ...parts, graphic: 'Header', site: 'Ottermill', version: 3, size: { width: 940, height: 198.4 } };
    expect(fileName(all, { ...known, density: 2, number: '04' })).toBe(
      '04-ottermill-blog-header-v3-2026-11-24-940x199-2xa.jpg',
    );
    expect(fileName(all, { ...parts, graphic: 'Jugs' })).toBe('blog-header-jugs-2026-11-24-a.jpg');
    expect([nameAt('a-2026a.jpg', 1), nameAt('a-2026a.jpg', 2), nameAt('a-2x.webp', 1)]).toEqual([
      'a-2026a.jpg',
      'a-2026a-2x.jpg',
      'a-1x.webp',
    ]);
  });
  it('step too where the pattern has no letter', () => {
    const taken = new Set(['blog-header.jpg']);
    expect(fileName('{slot}', parts, taken)).toBe('blog-headera.jpg');
  });
  it('survive odd patterns and titles', () => {
    for (const graphic of ['', '///', '../../etc/passwd', '日本', '💥', 'CON.'])
      for (const pattern of ['{graphic}', '__{graphic}__', '{GRAPHIC} é', '', '....'])
        expect(isSafeName(fileName(pattern, { ...parts, graphic }))).toBe(true);
    expect(safeWord('')).toBe('graphic');
  });
  it.each(['A.jpg', 'a b.jpg', 'a.gif', 'é.png', '-a.png', 'a--b.png', '.jpg', '../a.jpg'])('%s is not safe', (n) =>
    expect(isSafeName(n)).toBe(false),
  );
});

describe.each(['jpeg', 'png', 'webp'] as const)('notes in %s', (format) => {
  // A picture with a place, a camera and a foreign profile, made by sharp; read back by sharp and exifr.
  const source = () =>
    sharp({ create: { width: 33, height: 21, channels: 3, background: '#5a7a6b' } })
      .withExif({
        IFD0: { Copyright: 'Someone else', Make: 'Camera' },
        IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1' },
      })
      .withIccProfile('p3')
      .toFormat(format)
      .toBuffer();

  it('keep nothing of what was there, state sRGB, and carry the copyright line', async () => {
    const noted = Buffer.from(withNotes(await source(), format, { ...noNotes, copyright: '© Ottermill Pottery 2026' }));
    const meta = await sharp(noted).metadata();
    expect([meta.width, meta.height, meta.format]).toEqual([33, 21, format]);
    expect(noted.includes('Someone else')).toBe(false);
    expect(noted.includes('Camera')).toBe(false);
    if (format === 'png') expect(noted.includes('sRGB')).toBe(true);
    else expect(Buffer.compare(meta.icc!, Buffer.from(srgbProfile()))).toBe(0);
    const tiff = meta.exif!.subarray(meta.exif!.indexOf('MM\0*'));
    expect(await exifr.parse(tiff, ['Copyright'])).toEqual({
      Copyright: expect.stringContaining('Ottermill Pottery 2026') as string,
    });
    expect(await exifr.gps(tiff).catch(() => undefined)).toBeUndefined();
  });
  it('without a copyright line carry none', async () => {
    const noted = Buffer.from(withNotes(await source(), format, noNotes));
    expect((await sharp(noted).metadata()).exif).toBeUndefined();
  });
  it('leave the pixels alone', async () => {
    const before = await sharp({ create: { width: 33, height: 21, channels: 3, background: '#5a7a6b' } })
      .toFormat(format)
      .toBuffer();
    const after = Buffer.from(withNotes(before, format, { ...noNotes, copyright: 'x' }));
    expect(Buffer.compare(await sharp(after).raw().toBuffer(), await sharp(before).raw().toBuffer())).toBe(0);
  });
});

/** Debian's exiftool, as JSON with groups, without what it says of the file on disk. */
function exiftool(file: Uint8Array, format: string): Record<string, unknown> {
  const path = join(tmpdir(), `notes-${process.pid}.${format}`);
  writeFileSync(path, file);
  const said = execFileSync('exiftool', ['-json', '-G1', '-struct', path], { encoding: 'utf8' });
  rmSync(path);
  return (JSON.parse(said) as Record<string, unknown>[])[0]!;
}

/** A small AVIF as our encoder leaves it: `alpha` has part of it half transparent. */
function smallAvif(alpha: boolean): Promise<Uint8Array> {
  const data = new Uint8ClampedArray(33 * 21 * 4);
  for (let i = 0; i < 33 * 21; i++) data.set([i % 255, 100, (i * 7) % 255, alpha && i % 33 > 15 ? 128 : 255], 4 * i);
  return encodedAvif({ width: 33, height: 21, data }, 60);
}

describe.each(['jpeg', 'png', 'webp', 'avif'] as const)('all notes in %s, read by exiftool', (format) => {
  const notes = {
    copyright: '© Ottermill Pottery 2026',
    creator: 'Maud & Wren <Élan>',
    credit: 'Photo: Ida & <Fenn>',
    alt: 'Three jugs, “drying” on a shelf; 5 < 6',
    ppi: 144,
  };
  const picture = (): Promise<Uint8Array> =>
    format === 'avif'
      ? smallAvif(true)
      : sharp({ create: { width: 33, height: 21, channels: 4, background: '#5a7a6b80' } })
          .toFormat(format)
          .toBuffer();

  it('are there as they were given, once, and the file is sound', async () => {
    const once = withNotes(await picture(), format, { ...notes, alt: 'older', creator: 'older' });
    const file = withNotes(once, format, notes);
    expect(file).toEqual(withNotes(await picture(), format, notes));
    expect(Buffer.from(file).includes('older')).toBe(false);
    const said = exiftool(file, format);
    expect(said).toMatchObject({
      'IFD0:Copyright': notes.copyright,
      'IFD0:Artist': notes.creator,
      'IFD0:XResolution': 144,
      'IFD0:ResolutionUnit': 'inches',
      'XMP-dc:Creator': [notes.creator],
      'XMP-dc:Rights': notes.copyright,
      'XMP-cc:AttributionName': notes.credit,
      'XMP-iptcCore:AltTextAccessibility': notes.alt,
    });
    expect(said['ExifTool:Warning']).toBeUndefined();
    if (format === 'jpeg') expect([said['JFIF:XResolution'], said['JFIF:ResolutionUnit']]).toEqual([144, 'inches']);
    // 144 px an inch are 5669 a metre.
    if (format === 'png')
      expect([said['PNG-pHYs:PixelsPerUnitX'], said['PNG-pHYs:PixelUnits']]).toEqual([5669, 'meters']);
    expect((await sharp(file).metadata()).width).toBe(33);
  });

  it('as far as there are any: with none there is neither block', async () => {
    const said = Object.keys(exiftool(withNotes(await picture(), format, noNotes), format));
    expect(said.filter((k) => /^(IFD0|XMP)/.test(k))).toEqual([]);
  });

  it('its structure is sound to a checker of its own', async () => {
    const file = withNotes(await picture(), format, notes);
    const path = join(tmpdir(), `sound-${process.pid}.${format}`);
    writeFileSync(path, file);
    try {
      // Both say something and fail where a chunk, a length or a checksum is wrong.
      if (format === 'png')
        expect(execFileSync('pngcheck', ['-v', path], { encoding: 'utf8' })).toContain('No errors detected');
      if (format === 'jpeg') expect(execFileSync('jpeginfo', ['-c', path], { encoding: 'utf8' })).toMatch(/OK/);
      // The size that a RIFF states is that of the file (RFC 9649, section 2.4).
      if (format === 'webp') expect(new DataView(file.buffer).getUint32(4, true)).toBe(file.length - 8);
    } finally {
      rmSync(path);
    }
  });
});

it('an SVG says what notes there are, once, to exiftool; what it draws stays as it was', async () => {
  const notes = {
    copyright: '© Ottermill 2026',
    creator: 'Maud & <Élan>',
    credit: 'Ida',
    alt: 'Jugs; 5 < 6 & “dry”',
    ppi: 144,
  };
  const graphic = { ...withLayers(blank(), words('Jugs')), name: '<Jugs> & cups' };
  const drawn = plan(graphic, frameOf(graphic), 1, await realShaper());
  const svg = svgOf(drawn, { ...graphic.canvas, title: graphic.name }, () => ({ href: '', as: 'surface' }));
  const plain = withNotes(new TextEncoder().encode(svg), 'svg', noNotes);
  expect(new TextDecoder().decode(plain)).toBe(svg);
  const once = withNotes(plain, 'svg', { ...notes, alt: 'older', creator: 'older' });
  const file = withNotes(once, 'svg', notes);
  expect(file).toEqual(withNotes(plain, 'svg', notes));
  expect(Buffer.from(file).includes('older')).toBe(false);
  const said = exiftool(file, 'svg');
  expect(said).toMatchObject({
    'SVG:Title': '<Jugs> & cups',
    'SVG:Desc': notes.alt,
    'XMP-dc:Creator': [notes.creator],
    'XMP-dc:Rights': notes.copyright,
    'XMP-cc:AttributionName': notes.credit,
    'XMP-iptcCore:AltTextAccessibility': notes.alt,
  });
  expect(said['ExifTool:Warning']).toBeUndefined();
  expect(withNotes(file, 'svg', noNotes)).toEqual(plain);
  const shown = (bytes: Uint8Array) => new Resvg(Buffer.from(bytes).toString('utf8')).render().asPng();
  expect(shown(file)).toEqual(shown(plain));
  // It draws and does nothing else, to our own reader too.
  expect(cleanDrawing(file, 'it')).toMatchObject({ ok: true, value: { acted: false } });
});

it.each([true, false])(
  'an AVIF with notes shows the same pixels to another decoder (transparent parts: %s)',
  async (alpha) => {
    const file = await smallAvif(alpha);
    const pixels = async (f: Uint8Array) => (await sharp(f).ensureAlpha().raw().toBuffer()).toString('base64');
    const noted = withNotes(file, 'avif', { copyright: 'c', creator: 'd', credit: 'f', alt: 'e', ppi: 72 });
    expect(await pixels(noted)).toBe(await pixels(withNotes(file, 'avif', noNotes)));
    const metadata = await sharp(noted).metadata();
    expect([metadata.exif?.length, metadata.xmp?.length].every((n) => n! > 40)).toBe(true);
    expect(((await exifr.parse(Buffer.from(noted), { ifd0: {} })) as { Copyright?: string }).Copyright).toBe('c');
    // Taken off again, nothing is left of them; and what is cut short, or laid out otherwise, is not made worse.
    expect(withNotes(noted, 'avif', noNotes).length).toBe(file.length);
    const cut = noted.subarray(0, 200);
    expect(withNotes(cut, 'avif', { ...noNotes, copyright: 'c' })).toEqual(Uint8Array.from(cut));
  },
);

it('an AVIF says that its colours are sRGB; with no notes it is otherwise left alone', async () => {
  // 8 × 8 px as the encoder leaves them, its colours unspecified.
  const file = Buffer.from(
    'AAAAIGZ0eXBhdmlmAAAAAGF2aWZtaWYxbWlhZk1BMUIAAADybWV0YQAAAAAAAAAoaGRscgAAAAAAAAAAcGljdAAAAAAAAAAAAAAAAGxpYmF2aWYAAAAADnBpdG0AAAAAAAEAAAAeaWxvYwAAAABEAAABAAEAAAABAAABGgAAABcAAAAoaWluZgAAAAAAAQAAABppbmZlAgAAAAABAABhdjAxQ29sb3IAAAAAamlwcnAAAABLaXBjbwAAABRpc3BlAAAAAAAAAAgAAAAIAAAAEHBpeGkAAAAAAwgICAAAAAxhdjFDgQAMAAAAABNjb2xybmNseAACAAIABoAAAAAXaXBtYQAAAAAAAAABAAEEAQKDBAAAAB9tZGF0EgAKCBgIv2CBAQNCMgkYAAooooQABUg=',
    'base64',
  );
  const before = exiftool(file, 'avif');
  const noted = withNotes(file, 'avif', noNotes);
  const after = exiftool(noted, 'avif');
  const colours = (said: Record<string, unknown>) =>
    Object.entries(said).flatMap(([k, v]) => (/Primaries|TransferChar/.test(k) ? [String(v)] : []));
  expect(colours(before).every((c) => /unspecified/i.test(c))).toBe(true);
  expect([colours(after).some((c) => /709/.test(c)), colours(after).some((c) => /sRGB|61966/.test(c))]).toEqual([
    true,
    true,
  ]);
  expect([...noted].filter((b, i) => b !== file[i])).toEqual([1, 13]);
  expect((await sharp(noted).metadata()).width).toBe(8);
});

it('the profile is sRGB to littleCMS: converting through it changes no colour by more than 1', async () => {
  const colours = Buffer.from(
    Array.from({ length: 27 }, (_, i) => [
      (i % 3) * 127,
      (Math.floor(i / 3) % 3) * 127,
      Math.floor(i / 9) * 127,
    ]).flat(),
  );
  const tagged = withNotes(
    await sharp(colours, { raw: { width: 27, height: 1, channels: 3 } })
      .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
      .toBuffer(),
    'jpeg',
    noNotes,
  );
  const plain = await sharp(Buffer.from(tagged), { ignoreIcc: true }).raw().toBuffer();
  const converted = await sharp(Buffer.from(tagged)).toColourspace('srgb').raw().toBuffer();
  for (let i = 0; i < plain.length; i++) expect(Math.abs(plain[i]! - converted[i]!)).toBeLessThanOrEqual(1);
});
