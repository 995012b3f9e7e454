import sharp from 'sharp';
import { isLocated } from './picture-details';

const dot = () => sharp({ create: { width: 40, height: 30, channels: 3, background: '#a4512f' } });
const place = {
  GPSLatitudeRef: 'N',
  GPSLatitude: '51/1 30/1 26/1',
  GPSLongitudeRef: 'W',
  GPSLongitude: '0/1 7/1 39/1',
};

describe('isLocated', () => {
  it('tells a photo with its place from one without: Exif as libvips writes it', async () => {
    const located = await dot().withExif({ IFD3: place }).jpeg().toBuffer();
    const plain = await dot()
      .withExif({ IFD0: { Artist: 'Ida Fenn' } })
      .jpeg()
      .toBuffer();
    expect(await isLocated(located, 'jpeg')).toBe(true);
    expect(await isLocated(plain, 'jpeg')).toBe(false);
    expect(await isLocated(await dot().jpeg().toBuffer(), 'jpeg')).toBe(false);
  });
  it('says no of what is torn or has no such notes', async () => {
    const located = await dot().withExif({ IFD3: place }).jpeg().toBuffer();
    for (const torn of [located.subarray(0, 60), located.subarray(0, located.length - 40), Buffer.alloc(0)])
      expect(await isLocated(torn, 'jpeg')).toBe(false);
    expect(await isLocated(await dot().png().toBuffer(), 'png')).toBe(false);
  });
});
