import { demo } from '../../../../../demo/src/index';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import { strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import {
  GRAPHIC_VERSION,
  newGraphic,
  plainAppearance,
  plainHouseStyle,
  plainPage,
  slotsToStart,
  startHistory,
  type Graphic,
  type OwnPage,
  type Step,
  type SentFile,
  layoutLook,
  type Edition,
  type TileSet,
} from '@bright-slot/core';
import { Database } from '../database';
import { HistoryStore } from '../history-store';
import { GraphicsRepository } from '../graphics-repository';
import { sha256 } from '../hash';
import { undoBringing } from './bringing';
import { bringBack } from './bring-back';
import { pack, packBundle } from './pack';

const fresh = (name = 'test') => new Database(name, { indexedDB: new IDBFactory(), IDBKeyRange });
const quiet = () => undefined;
let db: Database;
let picture: Uint8Array<ArrayBuffer>;
let hash: string;

const graphic = (id: string, name = id): Graphic =>
  newGraphic({ id, name, created: '2026-11-25T00:00:00Z', slot: slotsToStart[0]! });

async function put(target: Database, id: string, steps = 3, name = id): Promise<void> {
  const list = Array.from({ length: steps }, (_, i): Step => ({
    id: `${id}-${i}`,
    graphicId: id,
    parent: i ? `${id}-${i - 1}` : null,
    name: `Step ${i}`,
    at: i,
    ...(i === 1 ? { called: `First try of ${id}` } : {}),
    graphic: { ...graphic(id, i === steps - 1 ? name : `${name} ${i}`) },
  }));
  await target.steps.bulkAdd(list);
  await target.graphics.add({ id, head: `${id}-${steps - 1}`, created: '', changed: steps });
}

const photoOf = (asset: string) => ({
  id: 'p',
  name: 'Dot',
  visible: true,
  locked: false,
  role: 'photo' as const,
  asset,
  natural: { width: 40, height: 30 },
  opaque: true,
  vector: false,
  crop: null,
  ...plainAppearance,
});

beforeEach(async () => {
  db = fresh();
  picture = Uint8Array.from(
    await sharp({ create: { width: 40, height: 30, channels: 3, background: '#a4512f' } })
      .png()
      .toBuffer(),
  );
  hash = await sha256(picture);
  await db.assets.add({
    hash,
    blob: new Blob([picture]),
    type: 'png',
    width: 40,
    height: 30,
    opaque: true,
    silhouette: null,
    name: 'Dot',
    added: 1,
    credit: '',
  });
  await put(db, 'one');
  await put(db, 'two', 90);
});
afterEach(() => db.close());

const zipOf = async (from = db) => new Uint8Array(await (await pack(quiet, from)).blob.arrayBuffer());
const bring = async (bytes: Uint8Array, into: Database) => {
  const done = await bringBack(new Blob([bytes as Uint8Array<ArrayBuffer>]), quiet, into);
  if (!done.ok) throw new Error(done.problem.message);
  return done.value;
};
const changed = (bytes: Uint8Array, change: (files: Record<string, Uint8Array>) => void) => {
  const files = unzipSync(bytes);
  change(files);
  return zipSync(files);
};
const wholes = async (from: Database) => {
  const list: Step[] = [];
  for (const id of await from.graphics.toCollection().primaryKeys())
    for await (const step of new HistoryStore(from).wholes(id)) list.push(step as Step);
  return list;
};
const all = async (from: Database) => ({
  graphics: (await from.graphics.toArray()).map((g) => [g.id, g.head]),
  steps: (await wholes(from)).map((s) => [s.id, s.parent, s.graphic.name, s.called]).sort(),
  assets: await from.assets.toCollection().primaryKeys(),
});

it('what is saved comes back whole, the second time as it stands', async () => {
  await db.slots.bulkAdd(demo.slots);
  await db.sets.bulkAdd(demo.sets);
  await db.sites.add(demo.site);
  const spring = { version: 1 as const, id: 'c', name: 'Spring', created: '2026-11-30', graphics: ['one', 'gone'] };
  await db.collections.add(spring);
  const tiles: TileSet = {
    version: 1,
    id: 's',
    name: 'What we make',
    created: '2026-11-30',
    slot: demo.slots[0]!,
    layout: 'band',
    look: layoutLook(plainHouseStyle),
    logo: null,
    graphics: ['one'],
  };
  await db.tileSets.add(tiles);
  const edition: Edition = {
    version: 1,
    id: 'e',
    of: 's',
    name: 'Before',
    until: '2026-11-29',
    set: tiles,
    graphics: [newGraphic({ id: 'one', name: 'One', created: '2026-11-29', slot: demo.slots[0]! })],
  };
  await db.editions.add(edition);
  const zip = await zipOf();
  const other = fresh('other');
  expect(await bring(zip, other)).toEqual({ graphics: 2, same: 0, pictures: 1, left: [] });
  expect(await all(other)).toEqual(await all(db));
  expect(await other.slots.count()).toBe(demo.slots.length);
  expect((await other.sets.toArray()).map((s) => s.id).sort()).toEqual(['five', 'menu', 'window']);
  expect(await other.sites.toArray()).toEqual([demo.site]);
  expect(await other.collections.toArray()).toEqual([spring]);
  expect(await other.tileSets.toArray()).toEqual([tiles]);
  expect(await other.editions.toArray()).toEqual([edition]);
  expect(await bring(zip, other)).toEqual({ graphics: 0, same: 2, pictures: 0, left: [] });
  expect(await other.settings.count()).toBe(0);
  // One that differs comes beside, once.
  await other.graphics.update('one', { head: 'one-1' });
  expect(await bring(zip, other)).toMatchObject({ graphics: 1, same: 1 });
  expect(await bring(zip, other)).toMatchObject({ graphics: 0, same: 2 });
});

it('routines come back: those of names that stand here stay, what is no routine is named', async () => {
  const routine = (id: string, name: string, densities: number[] | null = null) => ({
    id,
    name,
    file: 'lightest',
    densities,
    mostBytes: null,
    ppi: null,
    watermark: true,
    slots: ['header'],
  });
  const steps = { version: 1, id: 's', name: 'Warm', short: 400, steps: [] };
  const key = 'export-routines';
  await db.settings.put({ key, value: [routine('a', 'For the blog'), routine('b', 'Twice', [2]), { name: 'Torn' }] });
  await db.settings.put({ key: 'routines', value: [steps] });
  const zip = await zipOf();
  const other = fresh('other');
  const twice = routine('own', 'Twice', [1]);
  await other.settings.put({ key, value: [twice] });
  // Steps without a step are none.
  expect((await bring(zip, other)).left).toEqual(['the routine “Torn”', 'the routine “Warm”']);
  expect((await other.settings.get(key))?.value).toEqual([twice, routine('a', 'For the blog')]);
  // A second time nothing is added; and a list that is full takes none.
  await bring(zip, other);
  expect((await other.settings.get(key))?.value).toHaveLength(2);
  const full = Array.from({ length: 100 }, (_, i) => routine(`n${i}`, `Number ${i}`));
  await other.settings.put({ key, value: full });
  expect((await bring(zip, other)).left).toContain('the routine “For the blog”, since there are 100 here');
  expect((await other.settings.get(key))?.value).toEqual(full);
});

it('a damaged graphic, picture, font, slot and house style are left out and named; the rest comes in', async () => {
  await db.steps.update('one-2', { graphic: 'torn' } as never);
  await db.settings.put({ key: 'house-style', value: { version: 9 } });
  await db.slots.bulkAdd([slotsToStart[0]!, { ...slotsToStart[1]!, id: 'n', version: 9 } as never]);
  await put(db, 'three', 1);
  await db.steps.update('three-0', { graphic: { version: 1 } } as never);
  await put(db, 'four', 1);
  await db.steps.update('four-0', { graphic: { version: GRAPHIC_VERSION + 1 } } as never);
  const zip = changed(await zipOf(), (files) => {
    files[`assets/${hash}`]![20]! ^= 255;
    files['fonts.ndjson'] = strToU8(`${JSON.stringify({ family: 'Lora' })}\n`);
  });
  const other = fresh('other');
  const { left, ...rest } = await bring(zip, other);
  expect(rest).toEqual({ graphics: 2, same: 0, pictures: 0 });
  expect(left).toEqual([
    'the picture “Dot”',
    'the font “Lora”',
    'the graphic “A graphic”, saved by a newer Bright Slot',
    '1 damaged steps of the graphic “A graphic”',
    'the graphic “A graphic”, which is damaged',
    '1 slot that a newer Bright Slot wrote',
    'the house style, which a newer Bright Slot wrote',
  ]);
  expect((await new GraphicsRepository(other).list()).entries).toHaveLength(2);
});

it('sites that cannot be read are named, one that is here stays, and a file from before there were any is read', async () => {
  await db.sites.bulkAdd([demo.site, { ...demo.site, id: 'torn', look: 'none' } as never]);
  const zip = await zipOf();
  const other = fresh('other');
  await other.sites.add({ ...demo.site, name: 'As it is here' });
  expect((await bring(zip, other)).left).toEqual(['the site “Ottermill Pottery”']);
  expect((await other.sites.toArray()).map((s) => s.name)).toEqual(['As it is here']);
  const before = changed(zip, (files) => delete files['sites.ndjson']);
  const third = fresh('third');
  expect((await bring(before, third)).left).toEqual([]);
  expect(await third.sites.count()).toBe(0);
});

it('reads what version 1 wrote: one list, a graphic’s steps as one array', async () => {
  const history = startHistory(graphic('old'), 'old-1', 1);
  const facts = {
    hash,
    type: 'png',
    width: 40,
    height: 30,
    opaque: true,
    silhouette: null,
    name: 'Dot',
    added: 1,
    credit: '',
  };
  const zip = zipSync({
    'bright-slot.json': strToU8(
      JSON.stringify({
        format: 'bright-slot-backup',
        version: 1,
        saved: '',
        graphics: [{ id: 'old', head: 'old-1', created: '', changed: 1 }],
        assets: [facts],
        houseStyle: { ...plainHouseStyle, business: 'Ottermill' },
        slots: [slotsToStart[0]],
      }),
    ),
    'graphics/old.json': strToU8(JSON.stringify([...history.steps.values()])),
    [`assets/${hash}`]: picture,
  });
  const other = fresh('other');
  expect(await bring(zip, other)).toEqual({ graphics: 1, same: 0, pictures: 1, left: [] });
  expect(await other.settings.get('house-style')).toMatchObject({ value: { business: 'Ottermill' } });
});

it('files that were sent come back by their bytes; what signs in at sites is in no backup', async () => {
  const bytes = new TextEncoder().encode('a file that was sent');
  const file = (id: string, digest: string): SentFile => ({
    version: 1,
    id,
    site: 's',
    slot: 'header',
    name: `${id}.jpg`,
    address: `https://shop.example/${id}.jpg`,
    state: 'sent',
    shown: true,
    at: '2026-11-29T10:00:00Z',
    type: 'jpeg',
    width: 4,
    height: 3,
    bytes: bytes.length,
    sha256: digest,
    alt: '',
    colours: null,
    graphic: null,
    over: null,
    live: null,
    problem: null,
  });
  const digest = await sha256(bytes);
  await db.sent.bulkAdd([
    { ...file('whole', digest), blob: new Blob([bytes]) },
    { ...file('torn', 'a'.repeat(64)), blob: new Blob([bytes]) },
  ]);
  const kept = new TextEncoder().encode('kept under a passphrase');
  await db.secrets.add({ site: 's', rounds: 600_000, salt: kept, iv: kept, sealed: kept });
  const zip = await zipOf();
  const text = Object.entries(unzipSync(zip)).map(([name, data]) => name + new TextDecoder().decode(data));
  expect(text.join()).toContain('whole.jpg');
  for (const never of ['secrets', 'passphrase', '600000']) expect(text.join()).not.toContain(never);
  const other = fresh('other');
  expect((await bring(zip, other)).left).toEqual(['the file “torn.jpg” that was sent']);
  expect(await other.sent.toCollection().primaryKeys()).toEqual(['whole']);
  expect(await (await other.sent.get('whole'))!.blob.text()).toBe('a file that was sent');
  await other.settings.put({ key: 'bringing-back/sent/whole', value: 'whole' });
  expect(await undoBringing(other)).toBe(true);
  expect(await other.sent.count()).toBe(0);
});

it('pages of slots come back with their screenshots, what is known here stays, and what is torn is named', async () => {
  const shot = { asset: hash, width: 40, height: 30, box: { x: 1, y: 2, width: 30, height: 20 }, density: 1 };
  const page = (slot: string): OwnPage => ({ ...plainPage(slot), desktop: shot });
  await db.ownPages.bulkAdd([page('a'), page('b'), { slot: 'torn', desktop: 'none' } as never]);
  // Nothing else uses the screenshot: it stays for the page's sake.
  expect(await new GraphicsRepository(db).sweep(1e15, 1e15)).toBe(0);
  expect(await db.assets.count()).toBe(1);
  const zip = await zipOf();
  const other = fresh('other');
  const mine = {
    ...plainPage('b'),
    colours: { ground: '#ffffff', words: '#111111', accent: '#222222', border: null, heading: null },
  };
  await other.ownPages.add(mine);
  expect((await bring(zip, other)).left).toEqual(['a page of a slot']);
  expect(await other.ownPages.get('a')).toEqual(page('a'));
  expect(await other.ownPages.get('b')).toEqual(mine);
  // What breaks off leaves none behind; a file from before there were any is read.
  await other.settings.put({ key: 'bringing-back/page/a', value: 'a' });
  expect(await undoBringing(other)).toBe(true);
  expect(await other.ownPages.toCollection().primaryKeys()).toEqual(['b']);
  const third = fresh('third');
  expect(
    (
      await bring(
        changed(zip, (files) => delete files['own-pages.ndjson']),
        third,
      )
    ).left,
  ).toEqual([]);
  await db.ownPages.clear();
  await new GraphicsRepository(db).sweep(1e15, 1e15);
  expect(await db.assets.count()).toBe(0);
});

it('what breaks off takes back all that it had written', async () => {
  const zip = await zipOf();
  const other = fresh('other');
  await put(other, 'kept');
  const before = await all(other);
  const bulkPut = other.steps.bulkPut.bind(other.steps);
  let calls = 0;
  other.steps.bulkPut = (list: Step[]) => {
    if (++calls > 2) throw new DOMException('full', 'QuotaExceededError');
    return bulkPut(list);
  };
  const done = await bringBack(new Blob([zip]), quiet, other);
  expect(!done.ok && done.problem.message).toContain('no room for all that the file holds');
  expect(await all(other)).toEqual(before);
  // A picture that someone put into a graphic of their own meanwhile stays.
  await other.assets.add((await db.assets.get(hash))!);
  await other.settings.put({ key: `bringing-back/asset/${hash}`, value: hash });
  await other.uses.put({ graphicId: 'kept', what: hash });
  expect(await undoBringing(other)).toBe(true);
  expect(await other.assets.count()).toBe(1);
  await other.uses.clear();
  await other.settings.put({ key: `bringing-back/asset/${hash}`, value: hash });
  // So does a graphic that was opened since.
  await put(other, 'opened', 1);
  await other.graphics.update('opened', { writer: 'someone' });
  await other.settings.put({ key: 'bringing-back/graphic/opened', value: 'opened' });
  expect(await undoBringing(other)).toBe(true);
  expect(await other.graphics.get('opened')).toBeDefined();
  await other.graphics.delete('opened');
  await other.steps.delete('opened-0');
  // What came of one whose page went in the middle goes at the next start.
  await other.settings.put({ key: 'bringing-back/graphic/half', value: 'half' });
  await put(other, 'half');
  expect(await undoBringing(other)).toBe(true);
  expect(await all(other)).toEqual(before);
});

it('no step, however many and large, is held with the others', async () => {
  // 28 outlines of 176 kB in each of 30 steps: 150 MB of steps, which version 1 refused at 64.
  const data = 'M0 0L1 1'.repeat(22_000);
  const big = graphic('big');
  const layers = Array.from({ length: 28 }, (_, i) => ({
    id: `s${i}`,
    name: 'Path',
    visible: true,
    locked: false,
    role: 'shape' as const,
    form: { kind: 'path' as const, data, width: 10, height: 10 },
    place: { mode: 'box' as const, box: { x: 0, y: 0, width: 10, height: 10 } },
    fill: { kind: 'none' as const },
    border: null,
    corners: { kind: 'straight' as const },
    shadow: null,
    opacity: 1,
    turn: 0,
  }));
  await db.graphics.clear();
  await db.steps.clear();
  for (let i = 0; i < 30; i++)
    await db.steps.add(<Step>{
      id: `b${i}`,
      graphicId: 'big',
      parent: i ? `b${i - 1}` : null,
      name: 'x',
      at: i,
      graphic: { ...big, layers },
    });
  await db.graphics.add({ id: 'big', head: 'b29', created: '', changed: 1 });
  const zip = await zipOf();
  const other = fresh('other');
  expect(await bring(zip, other)).toEqual({ graphics: 1, same: 0, pictures: 1, left: [] });
  expect(await other.steps.count()).toBe(30);
});

describe('a bundle of graphics', () => {
  beforeEach(async () => {
    // One that has the picture, on its only step that is shown.
    const { canvas } = graphic('three');
    const layer = { ...photoOf(hash), place: { mode: 'cover' as const, focus: { x: 0.5, y: 0.5 }, zoom: 1 } };
    const own: Graphic = { ...graphic('three', 'Three'), canvas, layers: [layer] };
    await db.steps.bulkAdd([
      { id: 'three-0', graphicId: 'three', parent: null, name: 'Made', at: 1, graphic: graphic('three', 'A secret') },
      { id: 'three-1', graphicId: 'three', parent: 'three-0', name: 'Photo', at: 2, graphic: own },
    ] as Step[]);
    await db.graphics.add({ id: 'three', head: 'three-1', created: '', changed: 2 });
  });
  const bundle = async (...ids: string[]) =>
    new Uint8Array(await (await packBundle(ids, quiet, db)).blob.arrayBuffer());

  it('holds them as they are now, with their pictures, and nothing else that is here', async () => {
    await db.settings.put({ key: 'house-style', value: plainHouseStyle });
    await db.slots.bulkAdd(demo.slots);
    const files = unzipSync(await bundle('three'));
    const text = Object.values(files).map((f) => new TextDecoder().decode(f));
    expect(Object.keys(files).sort()).toEqual(
      [
        `assets/${hash}`,
        'assets.ndjson',
        'bright-slot.json',
        'fonts.ndjson',
        'graphics.ndjson',
        'graphics/000001.ndjson',
      ].sort(),
    );
    expect([...files[`assets/${hash}`]!]).toEqual([...picture]);
    expect(text.some((t) => t.includes('A secret') || t.includes('First try'))).toBe(false);
    expect(Object.keys(unzipSync(await bundle('one')))).not.toContain(`assets/${hash}`);
  });

  it('comes back elsewhere as it was, and here as what stands here just the same', async () => {
    const zip = await bundle('three', 'one');
    const other = fresh('other');
    expect(await bring(zip, other)).toEqual({ graphics: 2, same: 0, pictures: 1, left: [] });
    const step = (await wholes(other)).find((s) => s.graphicId === 'three')!;
    expect(step).toMatchObject({ id: 'three-1', parent: null, graphic: { name: 'Three' } });
    expect(step.graphic.layers).toHaveLength(1);
    expect(await bring(zip, db)).toEqual({ graphics: 0, same: 2, pictures: 0, left: [] });
    // Taken back from there into a place where it went on: both stand.
    await db.steps.add({ ...step, id: 'three-2', parent: 'three-1', name: 'Later', at: 3 });
    await db.graphics.update('three', { head: 'three-2' });
    expect(await bring(zip, db)).toMatchObject({ graphics: 1, same: 1 });
  });

  it('of a graphic that is gone is refused, in a sentence', async () => {
    await expect(bundle('three', 'nobody')).rejects.toThrow(/no longer stored/);
  });
});
