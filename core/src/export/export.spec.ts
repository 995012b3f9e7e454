import exifr from 'exifr';
import sharp from 'sharp';
import { srgbProfile } from './icc';
import { withNotes } from './metadata';
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
    const noted = Buffer.from(withNotes(await source(), format, { copyright: '© Ottermill Pottery 2026' }));
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
    const noted = Buffer.from(withNotes(await source(), format, { copyright: '' }));
    expect((await sharp(noted).metadata()).exif).toBeUndefined();
  });
  it('leave the pixels alone', async () => {
    const before = await sharp({ create: { width: 33, height: 21, channels: 3, background: '#5a7a6b' } })
      .toFormat(format)
      .toBuffer();
    const after = Buffer.from(withNotes(before, format, { copyright: 'x' }));
    expect(Buffer.compare(await sharp(after).raw().toBuffer(), await sharp(before).raw().toBuffer())).toBe(0);
  });
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
    { copyright: '' },
  );
  const plain = await sharp(Buffer.from(tagged), { ignoreIcc: true }).raw().toBuffer();
  const converted = await sharp(Buffer.from(tagged)).toColourspace('srgb').raw().toBuffer();
  for (let i = 0; i < plain.length; i++) expect(Math.abs(plain[i]! - converted[i]!)).toBeLessThanOrEqual(1);
});
