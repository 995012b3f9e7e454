import { database, type AssetRecord } from '../storage/database';
import { PixelClient } from './pixel-client';

/** What sharp and exifr see in a picture. */
interface Seen {
  readonly width: number;
  readonly height: number;
  readonly swapped: boolean;
  readonly middles: readonly (readonly number[])[];
}

// The worker alone, on a page that has nothing else.
let client: PixelClient;
beforeAll(() => {
  client = new PixelClient();
});
afterAll(() => window.dispatchEvent(new Event('pagehide')));

const made = async (path: string) => (await fetch(path)).blob();
const seenIn = async (path: string) => (await (await fetch(`${path}/seen`)).json()) as Seen;

async function imported(path: string, name: string) {
  const blob = await made(path);
  const found = await client.run({ kind: 'import-picture', blob, name, most: 1600, toCanvas: true });
  if (!found.ok) throw new Error(found.problem.message);
  if (found.value.type === 'svg') throw new Error('A drawing');
  // The app's page stores what came in; the worker reads it from there.
  await database().assets.put({ hash: found.value.hash, blob, name, added: 1 } as unknown as AssetRecord);
  return found.value;
}

/** The middles of a picture’s quarters as a surface of it shows them, at a third of its size. */
async function middlesOf({ hash, width, height, opaque }: Awaited<ReturnType<typeof imported>>): Promise<number[][]> {
  const whole = { x: 0, y: 0, width: Math.round(width / 3), height: Math.round(height / 3) };
  const surface = await client.run({
    kind: 'surface',
    need: {
      ...{ key: hash, base: hash, asset: hash, natural: { width, height }, opaque, vector: false },
      ...{ orient: { across: false, down: false, quarters: 0 }, cutout: null, finish: null },
      ...{ image: whole, shown: whole, out: whole, place: whole },
    },
  });
  const context = new OffscreenCanvas(whole.width, whole.height).getContext('2d')!;
  context.drawImage(surface, 0, 0);
  return [0.25, 0.75].flatMap((v) =>
    [0.25, 0.75].map((u) => [
      ...context.getImageData(Math.round(whole.width * u), Math.round(whole.height * v), 1, 1).data.slice(0, 3),
    ]),
  );
}

const furthest = (a: readonly (readonly number[])[], b: readonly (readonly number[])[]) =>
  Math.max(...a.flatMap((c, i) => c.map((v, k) => Math.abs(v - b[i]![k]!))));

// All eight orientations of Exif 2.32 (CIPA DC-008), section 4.6.4 A, tag Orientation; how they are to be seen is told
// by two independent readers: exifr (turn and mirror) and sharp (the pixels). A small one is read from a bitmap, a
// large one as its file stores it.
describe('EXIF orientation', () => {
  for (const [width, height] of [
    [320, 160],
    [2480, 1240],
  ] as const)
    for (const orientation of [1, 2, 3, 4, 5, 6, 7, 8])
      it(`${orientation}, ${width} × ${height} px`, async () => {
        const path = `/made/jpeg/${width}x${height}/${orientation}`;
        const seen = await seenIn(path);
        const picture = await imported(path, `turned-${orientation}.jpg`);
        expect([picture.width, picture.height]).toEqual(seen.swapped ? [height, width] : [width, height]);
        expect([picture.width, picture.height]).toEqual([seen.width, seen.height]);
        expect(furthest(await middlesOf(picture), seen.middles)).toBeLessThan(24);
      });
});

describe('kinds of picture', () => {
  for (const format of ['webp', 'avif', 'png', 'gif'])
    it(`${format} is read as sharp reads it`, async () => {
      const path = `/made/${format}/800x200/1`;
      const seen = await seenIn(path);
      const picture = await imported(path, `quarters.${format}`);
      expect([picture.width, picture.height, picture.opaque]).toEqual([800, 200, true]);
      expect(furthest(await middlesOf(picture), seen.middles)).toBeLessThan(24);
    });
  it('the same bytes have the same hash, others another', async () => {
    const [a, b, c] = await Promise.all([
      imported('/made/png/320x160/1', 'a.png'),
      imported('/made/png/320x160/1', 'b.png'),
      imported('/made/png/322x160/1', 'c.png'),
    ]);
    expect([a.hash === b.hash, a.hash === c.hash]).toEqual([true, false]);
  });
  it('what is no picture is told, and the worker goes on', async () => {
    const blob = new Blob([new Uint8Array(500)]);
    const found = await client.run({ kind: 'import-picture', blob, name: 'zeros.jpg', most: 1600, toCanvas: true });
    expect(found.ok).toBeFalse();
    expect((await imported('/made/png/320x160/1', 'after.png')).width).toBe(320);
  });
  it('one that is called off says so', async () => {
    const off = new AbortController();
    const path = '/made/jpeg/2480x1240/1';
    const blob = await made(path);
    const asked = client.run({ kind: 'import-picture', blob, name: 'off.jpg', most: 1600, toCanvas: true }, off.signal);
    off.abort();
    await expectAsync(asked).toBeRejected();
    expect((await imported(path, 'on.jpg')).width).toBe(2480);
  });
});
