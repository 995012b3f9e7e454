import { randomBytes } from 'node:crypto';
import { strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { blobSink, isPlainEntry, makeZip, openZip } from './zip';

const open = (bytes: Uint8Array) => openZip(new Blob([bytes as Uint8Array<ArrayBuffer>]));
const codeOf = async (bytes: Uint8Array) => {
  const zip = await open(bytes);
  return zip.ok ? 'ok' : zip.problem.code;
};
async function* values(list: readonly unknown[]) {
  for (const v of list) yield await Promise.resolve(v);
}

it('gives back what was packed by another writer (fflate), stored and deflated', async () => {
  const raw = randomBytes(300_000);
  const zip = await open(zipSync({ 'a/b.json': strToU8('{"x":1}'), 'assets/1': [raw, { level: 0 }] }));
  if (!zip.ok) throw new Error(zip.problem.message);
  expect(new TextDecoder().decode((await zip.value.bytes('a/b.json', 100))!)).toBe('{"x":1}');
  expect(Buffer.from((await zip.value.bytes('assets/1', 400_000))!).equals(raw)).toBe(true);
  expect(await zip.value.bytes('assets/1', 1000)).toBeNull();
  expect(await zip.value.bytes('none', 1000)).toBeNull();
});

it('makes what another reader (fflate) unpacks, and what it reads itself', async () => {
  const sink = blobSink('application/zip');
  const made = makeZip(sink.writable);
  const picture = randomBytes(3_000_000);
  expect(await made.lines('list.ndjson', values([{ a: 1 }, 'zwei', null]))).toBe(3);
  await made.blob('assets/p', new Blob([picture]), true);
  await made.blob('fonts/f', new Blob([strToU8('font'.repeat(1000))]), false);
  await made.text('bright-slot.json', '{}');
  await made.finish();
  const bytes = new Uint8Array(await sink.blob().arrayBuffer());
  const files = unzipSync(bytes);
  expect(new TextDecoder().decode(files['list.ndjson'])).toBe('{"a":1}\n"zwei"\nnull\n');
  expect(Buffer.from(files['assets/p']!).equals(picture)).toBe(true);
  expect(new TextDecoder().decode(files['bright-slot.json'])).toBe('{}');
  expect(await codeOf(bytes)).toBe('ok');
});

it.each(['../outside.json', '/etc/passwd', 'a/../../b', 'C:\\x', 'a\\..\\b', 'ok/./x'])(
  'refuses a name that climbs: %s',
  async (name) => {
    expect(isPlainEntry(name)).toBe(false);
    expect(await codeOf(zipSync({ [name]: strToU8('x') }))).toBe('climbs');
  },
);

it('stops what swells soon after it begins, and needs no memory for what it says of itself', async () => {
  const bomb = zipSync({ 'assets/b': new Uint8Array(200 * 2 ** 20) });
  expect(bomb.length).toBeLessThan(300_000);
  const zip = await open(bomb);
  if (!zip.ok) throw new Error(zip.problem.message);
  let taken = 0;
  await expect(async () => {
    for await (const piece of zip.value.pieces('assets/b', 64 * 2 ** 20)) taken += piece.length;
  }).rejects.toThrow('swells to far more');
  expect(taken).toBeLessThan(80 * 2 ** 20);
  expect(await zip.value.bytes('assets/b', 64 * 2 ** 20)).toBeNull();
});

it('refuses what breaks off, what is no zip, and finds bytes that were changed', async () => {
  const many: Zippable = { 'assets/a': [randomBytes(60_000), { level: 0 }] };
  const whole = zipSync(many);
  for (const share of [0.1, 0.5, 0.9, 0.999])
    expect(await codeOf(whole.subarray(0, Math.floor(whole.length * share)))).toBe('cut-short');
  expect(await codeOf(strToU8('Dear Wren, the kiln is cold.'))).toBe('not-a-zip');
  expect(await codeOf(new Uint8Array())).toBe('not-a-zip');
  const changed = whole.slice();
  changed[30_000]! ^= 255;
  const zip = await open(changed);
  expect(zip.ok && (await zip.value.bytes('assets/a', 100_000))).toBeNull();
});
