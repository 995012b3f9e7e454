import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import sharp from 'sharp';
import { fromTokens } from '../house/tokens';
import { readSlotFile } from '../slot/book';
import { fontKind } from '../words/brought-font';
import { readFont } from '../words/read-font';
import { readContents, readFontLine, readGraphicLine } from '../backup/backup';
import { cleanDrawing } from './drawing';
import { identify, identifyPixels, typeOf } from './identify';
import { pictureDetails } from './picture-details';
import { pathOfDrawing } from './shape-path';

/** Printed with every failure, so that it can be run again. */
const SEED = 20261128;
const runs = (numRuns: number) => ({ seed: SEED, numRuns, interruptAfterTimeLimit: 60_000 });

/** Everything that reads foreign bytes, as one: it may refuse, it may not throw, and it has to come to an end. */
async function readAll(bytes: Uint8Array): Promise<void> {
  const type = typeOf(bytes);
  identify(bytes, 'x.png');
  identifyPixels(bytes);
  if (type && type !== 'svg') await pictureDetails(bytes, type);
  cleanDrawing(bytes, '“x”');
  pathOfDrawing(bytes, '“x”');
  if (fontKind(bytes) === 'opentype') readFont(bytes, 'x');
  const text = new TextDecoder().decode(bytes);
  for (const read of [fromTokens, readSlotFile, readContents]) read(text);
}

const sound: Record<string, Uint8Array> = {};
const made = sharp({ create: { width: 24, height: 16, channels: 4, background: '#a4512f80' } });
beforeAll(async () => {
  sound['jpeg'] = await made.clone().withMetadata({ orientation: 6, density: 300 }).jpeg().toBuffer();
  sound['png'] = await made.clone().withMetadata({ density: 300 }).png().toBuffer();
  sound['webp'] = await made.clone().webp().toBuffer();
  sound['avif'] = await made.clone().avif({ effort: 0 }).toBuffer();
  sound['gif'] = await made.clone().gif().toBuffer();
  sound['svg'] = new TextEncoder().encode(
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><style>a{b:c}</style><g transform="rotate(9)"><path d="M0 0h9v9z"/></g></svg>',
  );
  sound['ttf'] = readFileSync(new URL('../../../.cache/type/public-sans.ttf', import.meta.url)).subarray(0, 6000);
});
const kinds = ['jpeg', 'png', 'webp', 'avif', 'gif', 'svg', 'ttf'] as const;

it('random bytes come to an end in every reader', async () => {
  await fc.assert(fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), readAll), runs(400));
});

it.each(kinds)('%s: every prefix comes to an end, and none but the whole is taken', async (kind) => {
  const whole = sound[kind]!;
  const step = Math.max(1, Math.floor(whole.length / 400));
  for (let n = 0; n < whole.length; n += step) await readAll(whole.subarray(0, n));
  if (kind !== 'ttf') expect(identify(whole, 'x').ok).toBe(true);
});

it.each(kinds)('%s: flipped bits, zeroed and repeated stretches come to an end', async (kind) => {
  const whole = sound[kind]!;
  const place = fc.nat(whole.length - 1);
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(place, fc.nat(255)), { minLength: 1, maxLength: 6 }),
      fc.option(fc.tuple(place, fc.nat(12), fc.constantFrom(0, 1, 255))),
      async (flips, stretch) => {
        const bytes = Uint8Array.from(whole);
        for (const [at, value] of flips) bytes[at] = value;
        // Lengths are where zeros, ones and very large figures do harm.
        if (stretch) bytes.fill(stretch[2], stretch[0], stretch[0] + stretch[1]);
        await readAll(bytes);
      },
    ),
    runs(250),
  );
});

/** Boxes with lengths of every kind, in every depth (ISO/IEC 14496-12, section 4.2). */
const boxes = fc.letrec<{ box: Uint8Array }>((tie) => ({
  box: fc
    .tuple(
      fc.constantFrom('ftyp', 'meta', 'iprp', 'ipco', 'ispe', 'hdlr', 'mdat', 'iinf', 'jp2h', 'jxlc'),
      fc.constantFrom<'right' | 0 | 1 | 7 | 'huge'>('right', 'right', 'right', 0, 1, 7, 'huge'),
      fc.array(fc.oneof({ maxDepth: 3 }, fc.uint8Array({ maxLength: 24 }), tie('box')), { maxLength: 3 }),
    )
    .map(([name, said, inside]) => {
      const body = Buffer.concat(inside);
      const head = Buffer.alloc(8);
      head.writeUInt32BE(said === 'right' ? body.length + 8 : said === 'huge' ? 0xffffffff : said, 0);
      head.write(name, 4, 'latin1');
      return new Uint8Array(Buffer.concat([head, body]));
    }),
}));
it.each(['avif', 'heic'])('boxes of any length and depth, as %s, come to an end', async (brand) => {
  await fc.assert(
    fc.asyncProperty(fc.array(boxes.box, { maxLength: 4 }), async (list) => {
      const start = Buffer.from(`\0\0\0\x10ftyp${brand}\0\0\0\0`, 'latin1');
      await readAll(new Uint8Array(Buffer.concat([start, ...list])));
    }),
    runs(400),
  );
});

it('JSON of any shape, hostile keys among them, is refused with a sentence or taken', () => {
  const key = fc.oneof(
    fc.constantFrom(
      '__proto__',
      'constructor',
      'toString',
      'hasOwnProperty',
      '$type',
      '$value',
      'colorSpace',
      'version',
    ),
    fc.string({ maxLength: 6 }),
  );
  const value = fc.letrec<{ any: unknown }>((tie) => ({
    any: fc.oneof(
      { maxDepth: 4 },
      fc.constantFrom('color', 'constructor', '{a.b}', null, 0, -1, 1e308, 2, ''),
      fc.array(tie('any'), { maxLength: 4 }),
      fc.array(fc.tuple(key, tie('any')), { maxLength: 4 }).map((pairs) => Object.fromEntries(pairs) as unknown),
    ),
  })).any;
  fc.assert(
    fc.property(value, (v) => {
      const text = JSON.stringify(v);
      for (const read of [fromTokens, readSlotFile, readContents]) {
        const done = read(text);
        if (!done.ok) expect(done.problem.message).toMatch(/^[A-Z“].*\.$/);
      }
      readGraphicLine(v);
      readFontLine(v);
    }),
    runs(1500),
  );
});

it('what did harm once is met with a sentence or taken, each within a second', async () => {
  const folder = new URL('../testing/hostile/', import.meta.url);
  for (const name of readdirSync(folder)) {
    if (name === 'README.md') continue;
    const bytes = new Uint8Array(readFileSync(new URL(name, folder)));
    const start = performance.now();
    await readAll(bytes);
    // Five readers one after the other, in a runner's sandbox that makes loops many times slower.
    expect([name, performance.now() - start < 10_000]).toEqual([name, true]);
    const told = identify(bytes, name);
    if (!told.ok) expect(told.problem.message).toMatch(/^[A-Z“].*\.$/);
  }
  expect(identify(new Uint8Array(readFileSync(new URL('html.jpg', folder))), 'html.jpg')).toMatchObject({
    problem: { code: 'web-page' },
  });
  const tokens = fromTokens(readFileSync(new URL('t-constructor.json', folder), 'utf8'));
  expect(tokens.ok && tokens.value.colours.map((c) => c.colour)).toEqual(['#aa0000']);
});
