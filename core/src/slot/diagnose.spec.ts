import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { identify } from '../formats/identify';
import { pictureDetails } from '../formats/picture-details';
import { emptyMargins } from '../pixels/margins';
import { slotOf } from '../testing/samples';
import { diagnose, type CurrentPicture } from './diagnose';
import { placed } from './placed';

const tall: CurrentPicture = {
  type: 'jpeg',
  width: 940,
  height: 900,
  bytes: 212_000,
  opaque: true,
  ppi: 72,
  profile: null,
  margins: { top: 120, right: 0, bottom: 0, left: 0 },
};
const header = slotOf('blog-header');

describe('where a picture comes to lie', () => {
  // Hand-worked; Chromium's own answer for each is asked in e2e/src/slots.spec.ts.
  it('fills and cuts from the middle or the top', () => {
    expect(placed(tall, header, 'fills-centre').seen).toEqual({ x: 0, y: 351, width: 940, height: 198 });
    expect(placed(tall, header, 'fills-top').seen).toEqual({ x: 0, y: 0, width: 940, height: 198 });
  });
  it('fits within, stretches, and shows the top left only', () => {
    const within = placed(tall, header, 'fits-within');
    expect(within.image).toMatchObject({ height: 198, y: 0 });
    expect(within.image.width).toBeCloseTo(206.8, 9);
    expect([within.share, within.bare]).toEqual([1, true]);
    expect(placed(tall, header, 'stretches').image).toEqual({ x: 0, y: 0, width: 940, height: 198 });
    expect(placed({ width: 2000, height: 1000 }, header, 'top-left')).toMatchObject({
      seen: { x: 0, y: 0, width: 940, height: 198 },
      share: 0.09306,
    });
    expect(placed({ width: 100, height: 50 }, header, 'top-left').bare).toBe(true);
  });
});

describe('a diagnosis', () => {
  const titles = (p: CurrentPicture, slot = header) => diagnose(p, slot).remarks.map((r) => r.id);
  it('says how much of a header that is too tall is seen first, what of that is empty, and what is wasted', () => {
    const d = diagnose(tall, { ...header, fit: 'top-left' });
    const [ratio, waste] = d.remarks;
    expect(ratio!.title).toBe('Too tall for the slot, by 355 %');
    expect(ratio!.detail).toContain('first sees the top 198 of its 900 px: 22 %. 61 % of that is empty.');
    expect(ratio!.detail).toContain('940 × 198 px');
    expect(waste!.title).toContain('165 kB of its 212 kB are sent for nothing');
    expect(d.wasted).toBe(Math.round(212_000 * (1 - 198 / 900)));
  });
  it('finds nothing on a picture that suits', () => {
    expect(titles({ ...tall, height: 198, margins: null })).toEqual([]);
  });
  it('tells pixels beyond the density from those that are too few', () => {
    expect(titles({ ...tall, width: 3760, height: 792, margins: null })).toEqual(['waste']);
    expect(titles({ ...tall, width: 470, height: 99, margins: null })).toEqual(['small']);
  });
  it('knows weight, format, transparency and profile', () => {
    const fitting = { ...tall, height: 198, margins: null };
    expect(titles(fitting, { ...header, mostBytes: 200_000 })).toEqual(['weight']);
    expect(titles({ ...fitting, type: 'gif' })).toEqual(['format']);
    expect(titles(fitting, { ...header, keepsTransparency: true })).toEqual(['opaque']);
    expect(titles({ ...fitting, profile: 'Display P3' })).toEqual(['profile']);
    expect(titles({ ...fitting, profile: 'sRGB IEC61966-2.1' })).toEqual([]);
    expect(titles({ ...fitting, margins: { top: 20, right: 0, bottom: 0, left: 0 } })).toEqual(['empty']);
  });
});

describe('what is read from the file', () => {
  const flat = sharp({ create: { width: 60, height: 40, channels: 3, background: '#a4512f' } });
  // libvips writes these; its own reader is the second opinion.
  it.each([
    ['jpeg', 300],
    ['png', 144],
  ] as const)('%s at %d pixels an inch', async (type, ppi) => {
    const bytes = await flat.clone().withMetadata({ density: ppi }).toFormat(type).toBuffer();
    expect((await sharp(bytes).metadata()).density).toBe(ppi);
    const details = await pictureDetails(new Uint8Array(bytes), type);
    // PNG writes whole pixels a metre.
    expect(details.ppi).toBeCloseTo(ppi, 1);
  });
  it('the profile’s name, in JPEG and PNG', async () => {
    const jpeg = await flat.clone().withIccProfile('p3').jpeg().toBuffer();
    expect((await pictureDetails(new Uint8Array(jpeg), 'jpeg')).profile).toMatch(/P3/i);
    const png = await flat.clone().withIccProfile('p3').png().toBuffer();
    expect((await pictureDetails(new Uint8Array(png), 'png')).profile).not.toBeNull();
  });
  it('nothing from one that says nothing or is damaged', async () => {
    const plain = new Uint8Array(await flat.clone().webp().toBuffer());
    expect(await pictureDetails(plain, 'webp')).toEqual({ ppi: null, profile: null });
    expect(await pictureDetails(new Uint8Array([0xff, 0xd8, 0xff, 0xe1, 0, 4]), 'jpeg')).toEqual({
      ppi: null,
      profile: null,
    });
  });
  it('the demo’s over-tall old header: what libvips trims is what is counted', async () => {
    const bytes = readFileSync(join(import.meta.dirname, '../../../demo/logos/old-header.jpg'));
    const facts = identify(new Uint8Array(bytes), 'old-header.jpg');
    if (!facts.ok) throw new Error();
    const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const margins = emptyMargins(data, info.width, info.height);
    const trimmed = await sharp(bytes).trim({ threshold: 10 }).toBuffer({ resolveWithObject: true });
    expect(margins.top).toBeGreaterThan(20);
    expect(Math.abs(info.height - margins.top - margins.bottom - trimmed.info.height)).toBeLessThanOrEqual(2);
  });
});

describe('margins', () => {
  const picture = (w: number, h: number, paint: (x: number, y: number) => readonly number[]) => {
    const data: number[] = [];
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) data.push(...paint(x, y));
    return data;
  };
  it('are counted on all four sides, through a little noise', () => {
    const data = picture(30, 20, (x, y) =>
      x >= 5 && x < 27 && y >= 4 && y < 18 ? [20 + x, 60, 90, 255] : [250 + ((x * y) % 4), 250, 250, 255],
    );
    expect(emptyMargins(data, 30, 20)).toEqual({ top: 4, bottom: 2, left: 5, right: 3 });
  });
  it('count what is transparent, whatever its colour', () => {
    const data = picture(10, 10, (x, y) => (y > 2 && x > 1 ? [9, 9, 9, 255] : [x * 20, 7, y, 0]));
    expect(emptyMargins(data, 10, 10)).toEqual({ top: 3, bottom: 0, left: 2, right: 0 });
  });
  it('an empty picture is all margin', () => {
    expect(
      emptyMargins(
        picture(4, 3, () => [255, 255, 255, 255]),
        4,
        3,
      ).top,
    ).toBe(3);
  });
});
