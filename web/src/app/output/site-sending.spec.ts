import { signal, type Injector } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import {
  SiteRecord,
  bad,
  good,
  neutralLook,
  type RelayAsk,
  type Secret,
  type SentFile,
  type Slot,
  type WayIn,
} from '@bright-slot/core';
import sharp from 'sharp';
import { RelayClient } from '../connector/relay-client';
import { Vault } from '../connector/vault';
import { PixelsService } from '../pixels/pixels.service';
import { sha256 } from '../storage/hash';
import { SentFiles } from '../storage/sent-files.service';
import { Sites } from '../storage/sites.service';
import { SlotBook } from '../storage/slot-book.service';
import { rootInjector } from '../testing/root-injector';
import { SiteSending } from './site-sending';

const slot = { id: 'header', name: 'Header', oneOfSeveral: false, rowShows: 1 } as Slot;
const site = SiteRecord.parse({
  version: 2,
  id: 's',
  name: 'Shop',
  address: 'shop.example',
  way: {
    kind: 'webdav',
    address: 'https://shop.example/dav/',
    user: 'o',
    visitors: 'https://shop.example/pics/',
    plain: false,
    ownNetwork: false,
  },
  look: neutralLook,
  pages: [],
});

/** What is kept here, and what stands on the site by its name. */
const kept = new Map<string, { file: SentFile; blob: Blob }>();
const there = new Map<string, Blob>();
/** What the site says next instead of taking a file. */
let says: ReturnType<typeof bad> | null = null;
/** What visitors are shown instead of what stands there. */
let shown: Blob | null = null;
let injector: Injector & { destroy(): void };
let sending: SiteSending;
let red: Blob;
let blue: Blob;

const files = {
  of: () => Promise.resolve([...kept.values()].map((k) => k.file)),
  blob: (id: string) => Promise.resolve(kept.get(id)?.blob ?? null),
  add: (file: SentFile, blob: Blob) => Promise.resolve(void kept.set(file.id, { file, blob })),
  change: (id: string, change: Partial<SentFile>) => {
    const k = kept.get(id);
    if (k) kept.set(id, { ...k, file: { ...k.file, ...change } });
    return Promise.resolve();
  },
  show: (_slot: string, _site: string, id: string | null) => {
    for (const [key, k] of kept) kept.set(key, { ...k, file: { ...k.file, shown: key === id } });
    return Promise.resolve();
  },
  remove: (id: string) => Promise.resolve(void kept.delete(id)),
};
const found = (name: string, blob: Blob | undefined) => ({
  blob: blob ?? new Blob(),
  facts: { status: blob ? 200 : 404, type: 'image/png', age: null, address: `https://shop.example/pics/${name}` },
});
const relay = {
  run: async (ask: Exclude<RelayAsk, { do: 'look' | 'read' }>, { file }: { file?: Blob } = {}) => {
    if (ask.do === 'names') return good({ at: 'done', names: [...there.keys()] });
    if (says) return says;
    if (ask.do !== 'send') return good({ at: 'done' });
    const now = there.get(ask.name);
    if (now && ask.over === null) return bad('name-taken', 'There is one already.');
    if (now && (await sha256(await now.arrayBuffer())) !== ask.over) return bad('changed', 'Changed there.');
    there.set(ask.name, file!);
    return good({ at: 'done', address: `https://shop.example/pics/${ask.name}` });
  },
  read: (_way: WayIn, _secret: Secret, name: string) => Promise.resolve(good(found(name, there.get(name)))),
  look: (address: string) => {
    const name = address.split('/').pop()!;
    return Promise.resolve(good(found(name, shown ?? there.get(name))));
  },
};
beforeEach(async () => {
  kept.clear();
  there.clear();
  says = shown = null;
  const picture = async (background: string) =>
    new Blob([
      new Uint8Array(
        await sharp({ create: { width: 8, height: 4, channels: 3, background } })
          .png()
          .toBuffer(),
      ),
    ]);
  [red, blue] = [await picture('#a00'), await picture('#00a')];
  injector = rootInjector([
    { provide: RelayClient, useValue: relay },
    { provide: Vault, useValue: { of: () => ({ password: 'p', key: '' }) } },
    { provide: SentFiles, useValue: files },
    { provide: Sites, useValue: { change: () => Promise.resolve() } },
    { provide: SlotBook, useValue: { byId: signal(new Map([[slot.id, slot]])) } },
    { provide: PixelsService, useValue: { compareLive: () => Promise.resolve(null) } },
    { provide: MatDialog, useValue: {} },
    SiteSending,
  ]);
  sending = injector.get(SiteSending);
});
afterEach(() => injector.destroy());

const send = (id: string, name: string, blob = red, to = site) =>
  sending.send(to, {
    id,
    slot,
    blob,
    name,
    alt: '',
    graphic: { id: 'g', name: 'Graphic', state: '' },
    colours: null,
  });
const states = () => [...kept.values()].map(({ file }) => [file.id, file.state]);

it('what was called off, or is to go under another name, does not wait; what failed does, and goes again', async () => {
  there.set('pot-1a.png', blue);
  const taken = { code: 'name-taken', next: 'pot-1b.png' };
  expect(await send('1', 'pot-1a.png')).toMatchObject({ ok: false, problem: taken });
  says = bad('cancelled', 'Called off.');
  await send('2', 'c.png');
  expect(states()).toEqual([]);
  says = bad('full', 'The disk is full.');
  await send('3', 'c.png');
  expect(kept.get('3')!.file).toMatchObject({ state: 'failed', problem: 'The disk is full.' });
  // Tried again and called off, it still waits.
  says = bad('cancelled', 'Called off.');
  await sending.again(site, kept.get('3')!.file);
  expect(states()).toEqual([['3', 'failed']]);
  says = null;
  expect(await sending.again(site, kept.get('3')!.file)).toMatchObject({ ok: true });
  expect(kept.get('3')!.file).toMatchObject({ state: 'sent', shown: true, problem: null, live: { word: 'as-sent' } });
});

it.each([['cancelled'], ['name-taken'], ['full']])(
  'an earlier file that cannot be put back (%s) is still kept, and what is shown is still shown',
  async (code) => {
    await send('1', 'a.png');
    await send('2', 'b.png', blue);
    await sending.takeDown(site, kept.get('1')!.file);
    there.delete('a.png');
    says = bad(code, 'It cannot be.');
    expect(await sending.putBack(site, kept.get('1')!.file)).toMatchObject({ ok: false });
    await sending.again(site, kept.get('2')!.file);
    expect(states()).toEqual([
      ['1', 'down'],
      ['2', 'sent'],
    ]);
    says = null;
    expect(await sending.putBack(site, kept.get('1')!.file)).toMatchObject({ ok: true });
    expect(there.get('a.png')).toBe(red);
  },
);

it('what somebody made of a file there is replaced when it is sent again, and kept', async () => {
  await send('1', 'a.png');
  there.set('a.png', blue);
  expect(await sending.again(site, kept.get('1')!.file)).toMatchObject({ ok: true });
  expect(there.get('a.png')).toBe(red);
  const theirs = [...kept.values()].find((k) => k.file.graphic === null);
  expect(theirs).toMatchObject({ blob: blue, file: { state: 'down', name: 'a.png' } });
});

it('content goes under no name that says it is something else', async () => {
  const refused = await send('1', 'a.png', red, { ...site, holds: { header: 'header.jpg' } });
  expect(refused).toMatchObject({ ok: false, problem: { code: 'ending' } });
  expect(!refused.ok && refused.problem.message).toMatch(/header\.jpg.* a PNG cannot.*Choose JPEG on Export/);
  expect([there.size, kept.size]).toEqual([0, 0]);
});

it('a name that a page holds on to is replaced also where visitors are shown pictures written anew', async () => {
  const holds = { ...site, holds: { header: 'header.png' } };
  there.set('header.png', blue);
  shown = red;
  expect(await send('1', 'a.png', red, holds)).toMatchObject({ ok: true, value: { name: 'header.png' } });
  expect(there.get('header.png')).toBe(red);
  expect([...kept.values()].find((k) => k.file.graphic === null)?.blob).toBe(blue);
});
