import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { identify, typeOf } from './identify';

const svg = new TextEncoder().encode(
  '<?xml version="1.0"?><!-- a pot --><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 500 160"><path d="M0 0h9v9z"/></svg>\n',
);
const made = sharp({ create: { width: 40, height: 30, channels: 3, background: '#a4512f' } });
const bytes: Record<string, Uint8Array> = {};

beforeAll(async () => {
  bytes['jpeg'] = await made.clone().jpeg().toBuffer();
  bytes['png'] = await made.clone().png().toBuffer();
  bytes['webp'] = await made.clone().webp().toBuffer();
  bytes['avif'] = await made.clone().avif().toBuffer();
  bytes['gif'] = await made.clone().gif().toBuffer();
  bytes['svg'] = svg;
});

describe.each(['jpeg', 'png', 'webp', 'avif', 'gif', 'svg'])('%s', (type) => {
  const size = type === 'svg' ? [500, 160] : [40, 30];
  it('is known by its content, whatever its name', () => {
    const facts = identify(bytes[type]!, 'holiday.doc');
    expect(facts).toEqual({ ok: true, value: { type, width: size[0], height: size[1] } });
  });
  it('is refused in words when it breaks off', () => {
    const whole = bytes[type]!;
    for (const share of [0.5, 0.75, 0.95]) {
      const facts = identify(whole.slice(0, Math.floor(whole.length * share)), `pots.${type}`);
      expect(facts.ok).toBe(false);
      expect(!facts.ok && facts.problem.message).toMatch(/breaks off|not|damaged/);
    }
  });
});

it('every one of sharp’s eight orientations gives the size as seen', async () => {
  for (let orientation = 1; orientation <= 8; orientation++) {
    const turned = await made.clone().withMetadata({ orientation }).jpeg().toBuffer();
    const facts = identify(turned, 'x.jpg');
    expect(facts.ok && [facts.value.width, facts.value.height]).toEqual(orientation >= 5 ? [30, 40] : [40, 30]);
  }
});

it('a text file renamed .jpg is told so', () => {
  const facts = identify(new TextEncoder().encode('Dear Wren, the kiln is cold.'), 'letter.jpg');
  expect(!facts.ok && facts.problem).toEqual({
    code: 'not-a-picture',
    message: '“letter.jpg” ends in .jpg, but its content is no picture. Nothing was changed.',
  });
});

it('a JPEG with a thumbnail inside is not taken for whole at the thumbnail’s end', async () => {
  const thumb = await made.clone().resize(8).jpeg().toBuffer();
  const whole = await made.clone().jpeg().toBuffer();
  const app = Buffer.concat([Buffer.from([0xff, 0xe3, (thumb.length + 2) >> 8, (thumb.length + 2) & 255]), thumb]);
  const nested = Buffer.concat([whole.subarray(0, 2), app, whole.subarray(2)]);
  expect(identify(nested, 'x.jpg').ok).toBe(true);
  expect(identify(nested.subarray(0, nested.length - 2), 'x.jpg').ok).toBe(false);
});

it('a picture of 30000 × 30000 is refused before anything decodes it', () => {
  const header = Buffer.from(
    '89504e470d0a1a0a0000000d49484452000075300000753008020000000000000000000000' + '49454e44ae426082',
    'hex',
  );
  const facts = identify(header, 'vast.png');
  expect(!facts.ok && facts.problem.code).toBe('too-large');
  expect(!facts.ok && facts.problem.message).toContain('900 million');
});

it('zero bytes, too many bytes and an entity bomb are refused', () => {
  const code = (r: ReturnType<typeof identify>) => (r.ok ? '' : r.problem.code);
  expect(code(identify(new Uint8Array(), 'a.png'))).toBe('not-a-picture');
  expect(code(identify(new Uint8Array(64 * 1024 * 1024 + 1), 'a.png'))).toBe('too-heavy');
  const bomb =
    '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><text>&b;</text></svg>';
  expect(code(identify(new TextEncoder().encode(bomb), 'a.svg'))).toBe('svg-entities');
});

it('the demo’s pictures are what sharp says they are', async () => {
  for (const file of ['shelf.jpg', 'pots-tall.jpg', 'cutout-mug.png']) {
    const data = readFileSync(new URL(`../../../demo/pictures/${file}`, import.meta.url));
    const { width, height } = await sharp(data).metadata();
    expect(identify(data, file)).toMatchObject({ ok: true, value: { width, height } });
  }
  expect(typeOf(new Uint8Array([1, 2, 3]))).toBeNull();
});
