import sharp from 'sharp';
import type { Box } from '../geometry/box';
import { random } from '../testing/samples';
import { evenly, layStored, lieOf, liesAsStored, storedPart } from './stored';

const [width, height] = [13, 7];
/** Every px has a value of its own. */
const stored = Uint32Array.from({ length: width * height }, (_, i) => 0xff000000 | i);
const raw = { width, height, channels: 4 as const };
const picture = () => sharp(Buffer.from(stored.buffer), { raw });
const seen = { quarters: 0, mirrored: false };
const upright = { across: false, down: false, quarters: 0 };

/** All of it as it lies, read a few rows at a time. */
function laid(lie: ReturnType<typeof lieOf>, part: Box, rows = 3): Uint32Array {
  const into = new Uint32Array(part.width * part.height);
  const { x, y, width: w, height: h } = storedPart(lie, part);
  for (let at = y; at < y + h; at += rows) {
    const held = { x: Math.max(0, x - 1), y: at, width: Math.min(width, x + w + 1) - Math.max(0, x - 1), height: 0 };
    held.height = Math.min(rows, height - at);
    const band = Uint32Array.from(
      { length: held.width * held.height },
      (_, i) => stored[(held.y + Math.floor(i / held.width)) * width + held.x + (i % held.width)]!,
    );
    layStored(band, held, lie, part, into);
  }
  return into;
}
const wholeOf = ({ size }: ReturnType<typeof lieOf>): Box => ({ x: 0, y: 0, ...size });
const asPixels = (b: Buffer) => new Uint32Array(new Uint8Array(b).buffer);

it('each EXIF orientation comes upright as sharp has it', async () => {
  // CIPA DC-008 (EXIF 2.32), tag 0x0112; as WebCodecs tells them: turned clockwise, then mirrored.
  const all = [
    [1, 0, false],
    [2, 0, true],
    [3, 2, false],
    [4, 2, true],
    [5, 1, true],
    [6, 1, false],
    [7, 3, true],
    [8, 3, false],
  ] as const;
  for (const [orientation, quarters, mirrored] of all) {
    const tiff = await picture().withMetadata({ orientation }).tiff({ compression: 'none' }).toBuffer();
    const theirs = await sharp(tiff).rotate().raw().toBuffer({ resolveWithObject: true });
    const lie = lieOf({ width, height }, { quarters, mirrored }, upright);
    expect(lie.size).toEqual({ width: theirs.info.width, height: theirs.info.height });
    expect([...laid(lie, wholeOf(lie))]).toEqual([...asPixels(theirs.data)]);
  }
});

it('mirrors before it turns, as a layer is taken', async () => {
  for (const across of [false, true])
    for (const down of [false, true])
      for (const quarters of [0, 1, 2, 3]) {
        const png = await picture().flop(across).flip(down).png().toBuffer();
        const theirs = await sharp(png)
          .rotate(quarters * 90)
          .raw()
          .toBuffer();
        const lie = lieOf({ width, height }, seen, { across, down, quarters });
        expect([...laid(lie, wholeOf(lie))]).toEqual([...asPixels(theirs)]);
        expect(liesAsStored(lie)).toBe(asPixels(theirs).every((px, i) => px === stored[i]));
      }
});

it('even edges take in a box, and no more than a px besides', () => {
  const r = random(6);
  const below = (n: number) => Math.floor(r() * n);
  for (let i = 0; i < 200; i++) {
    const box = { x: below(20), y: below(20), width: 1 + below(20), height: 1 + below(20) };
    const even = evenly(box);
    const edges = ({ x, y, width: w, height: h }: Box) => [x, y, -(x + w), -(y + h)];
    for (const [k, edge] of edges(even).entries()) {
      expect(Math.abs(edge % 2)).toBe(0);
      expect([0, 1]).toContain(edges(box)[k]! - edge);
    }
  }
});

it('a part is what the whole has there: 300 random ones (seed 5)', () => {
  const r = random(5);
  const below = (n: number) => Math.floor(r() * n);
  for (let i = 0; i < 300; i++) {
    const orient = { across: r() < 0.5, down: r() < 0.5, quarters: below(4) };
    const lie = lieOf({ width, height }, { quarters: below(4), mirrored: r() < 0.5 }, orient);
    const [x, y] = [below(lie.size.width), below(lie.size.height)];
    const part = { x, y, width: 1 + below(lie.size.width - x), height: 1 + below(lie.size.height - y) };
    const whole = laid(lie, wholeOf(lie));
    const expected = Array.from(
      { length: part.width * part.height },
      (_, k) => whole[(y + Math.floor(k / part.width)) * lie.size.width + x + (k % part.width)],
    );
    expect([...laid(lie, part, 1 + below(4))]).toEqual(expected);
  }
});
