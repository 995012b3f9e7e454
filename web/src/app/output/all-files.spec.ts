import { giveGlobalsBack, putGlobals } from '../testing/globals';
import { signal } from '@angular/core';
import { demo } from '../../../../demo/src/index';
import {
  DEFAULT_PATTERN,
  SiteRecord,
  frameOf,
  neutralLook,
  newGraphic,
  type FileDifference,
  type Frame,
  type Graphic,
  type Shaper,
} from '@bright-slot/core';
import { FileWeightsService } from '../document/file-weights.service';
import { PixelsService, type FileChoices } from '../pixels/pixels.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { Sites } from '../storage/sites.service';
import { TypeService } from '../type/type.service';
import { rootInjector } from '../testing/root-injector';
import { AllFiles } from './all-files';

const slot = { ...demo.slots.find((s) => s.id === 'blog-header')!, formats: ['jpeg' as const, 'webp' as const] };
const graphicAs = (choices: Partial<Frame['export']> = {}, mostBytes: number | null = null): Graphic => {
  const made = newGraphic({ id: 'g', name: 'Autumn glazes', created: '2026-11-30T00:00:00Z', slot });
  const frames = made.frames.map((f) => ({
    ...f,
    slot: { ...f.slot, mostBytes },
    export: { ...f.export, format: 'jpeg' as const, quality: 85, ...choices },
  }));
  return { ...made, frames };
};

/** Bytes a file has for each step of its quality; from 80 on nothing is seen, in JPEG from 90 on. */
const perQuality = { jpeg: 300, png: 4000, webp: 200, avif: 100, svg: 50 };
const differs = ({ format, quality }: FileChoices): FileDifference => ({
  ssim: 0.99,
  seen: quality < (format === 'jpeg' ? 90 : 80),
  worst: [{ box: { x: 0, y: 0, width: 32, height: 32 }, weight: 80 / quality, structure: 1, colour: 1 }],
});
let asked = 0;
/** What happens while a file is made. */
let meanwhile: () => unknown = () => undefined;
const pixels = {
  sight: 'sight',
  files: 'files',
  file: (_g: unknown, _f: unknown, choices: FileChoices) => {
    asked++;
    meanwhile();
    const blob = new Blob([new Uint8Array(perQuality[choices.format] * choices.quality)]);
    return Promise.resolve({
      blob,
      width: 940,
      height: 198,
      decoded: 0,
      difference: choices.compare ? differs(choices) : null,
    });
  },
};

const sites = signal<readonly SiteRecord[]>([]);
const written = new Map<string, Blob>();
const folder = {
  name: 'blog',
  getFileHandle: (name: string, options?: { create: true }) =>
    options || written.has(name)
      ? Promise.resolve({
          createWritable: () =>
            Promise.resolve({
              write: (blob: Blob) => Promise.resolve(void written.set(name, blob)),
              close: () => Promise.resolve(),
            }),
        })
      : Promise.reject(Object.assign(new Error('No such file'), { name: 'NotFoundError' })),
};
let noted: string[] = [];
const repository = {
  setting: () => Promise.resolve(null),
  setSetting: () => Promise.resolve(),
  addExport: (...records: { name: string }[]) => Promise.resolve(void (noted = records.map((r) => r.name))),
};
const marked = (text: string) => ({ mark: { kind: 'words', text } });
const style = {
  namePattern: DEFAULT_PATTERN,
  business: '',
  copyright: '',
  creator: '',
  credit: '',
  watermark: marked('Kiln'),
};
let houseStyle = style;
const shaperOf = () => ({}) as Shaper;
let shaper = shaperOf();
const type = { ensure: () => Promise.resolve(shaper) };
const house = { style: () => houseStyle };

let all: AllFiles;
let weights: FileWeightsService;
let injector: ReturnType<typeof rootInjector>;
afterEach(giveGlobalsBack);
beforeEach(() => {
  putGlobals({ window: { showDirectoryPicker: () => Promise.resolve(folder) } });
  written.clear();
  sites.set([]);
  [noted, asked, houseStyle] = [[], 0, style];
  injector = rootInjector([
    { provide: PixelsService, useValue: pixels },
    { provide: HouseStyleService, useValue: house },
    { provide: TypeService, useValue: type },
    { provide: GraphicsRepository, useValue: repository },
    { provide: Sites, useValue: { all: sites } },
    AllFiles,
  ]);
  all = injector.get(AllFiles);
  weights = injector.get(FileWeightsService);
});
afterEach(() => injector.destroy());

/** What is written of a graphic: each name with its bytes. */
async function leave(graphic: Graphic, names = ['a.jpg']): Promise<[string, number][]> {
  const pieces = graphic.frames.map((frame) => ({ graphic, frame, name: graphic.name }));
  await all.folderAs(pieces, names);
  return [...written].map(([name, blob]) => [name, blob.size]);
}
const framed = (graphic: Graphic) => [graphic, frameOf(graphic)] as const;
const weighed = async (graphic: Graphic) => (await weights.weigh(graphic, frameOf(graphic)))?.chosen.bytes;

it('what is light enough leaves as it left last, made once', async () => {
  expect(await leave(graphicAs())).toEqual([['a.jpg', 85 * 300]]);
  expect(asked).toBe(1);
});

it('what is too heavy leaves as the lightest that looks the same, under a name that says so', async () => {
  const graphic = graphicAs({}, 20_000);
  const [[name, bytes]] = (await leave(graphic)) as [[string, number]];
  expect([name, noted]).toEqual(['a.webp', ['a.webp']]);
  expect(bytes).toBeLessThanOrEqual(20_000);
  expect(bytes).toBeGreaterThanOrEqual(80 * 200);
  // The fit report weighed just that.
  expect(await weighed(graphic)).toBe(bytes);
});

it('a limit that was typed is met, and the report weighs what comes of it', async () => {
  const graphic = graphicAs({ mostBytes: 17_000 }, 40_000);
  const [[, bytes]] = (await leave(graphic)) as [[string, number]];
  expect(bytes).toBeLessThanOrEqual(17_000);
  expect(await weighed(graphic)).toBe(bytes);
});

it('what a person chose leaves as that, however heavy', async () => {
  const graphic = graphicAs({ own: true }, 20_000);
  expect(await leave(graphic)).toEqual([['a.jpg', 85 * 300]]);
  expect(await weighed(graphic)).toBe(85 * 300);
});

it('what was chosen is held against the canvas for the report, where its weight is in no question either', async () => {
  const chosen = (quality: number, mostBytes: number | null = null) =>
    weights.weigh(...framed(graphicAs({ own: true, quality }, mostBytes)));
  expect((await chosen(85))!.chosen.seen).toBe(true);
  expect((await chosen(95))!.chosen.seen).toBe(false);
  expect((await chosen(95, 90_000))!.chosen.seen).toBe(false);
  expect(await weights.weigh(...framed(graphicAs()))).toBeNull();
  expect(await weights.weigh(...framed(graphicAs({ own: true, format: 'png' })))).toBeNull();
});

it('what was made to be weighed is not made again to leave; what became another is', async () => {
  const graphic = graphicAs({ watermark: true }, 40_000);
  const made = async (of: Graphic) => {
    const before = asked;
    written.clear();
    await leave(of);
    return asked - before;
  };
  await weighed(graphic);
  expect([asked, await made(graphic), await made(graphic)]).toEqual([1, 0, 0]);
  // A face came that had a substitute.
  shaper = shaperOf();
  expect([await made(graphic), await made(graphic)]).toEqual([1, 0]);
  // Of another graphic, however like it, nothing is taken.
  expect(await made(graphicAs({ watermark: true }, 40_000))).toBe(1);
  houseStyle = { ...style, watermark: marked('Ottermill') };
  expect([await made(graphic), await made(graphic)]).toEqual([1, 0]);
  houseStyle = { ...houseStyle, creator: 'Orla Fen' };
  expect([await made(graphic), await made(graphic)]).toEqual([1, 0]);
  const other = { ...graphic.frames[0]!, id: 'other' };
  expect(await made({ ...graphic, frames: [...graphic.frames, other] })).toBe(2);
});

it.each([
  ['the house became another', () => (houseStyle = { ...style, watermark: marked('Ottermill') })],
  ['a face came that had a substitute', () => (shaper = shaperOf())],
])('what was made while %s is not kept as made for it', async (_, happens) => {
  const graphic = graphicAs({ watermark: true });
  const before = shaper;
  meanwhile = happens;
  await leave(graphic);
  meanwhile = () => undefined;
  [houseStyle, shaper] = [style, before];
  written.clear();
  await leave(graphic);
  expect(asked).toBe(2);
});

it('where the page holds on to a name, only what can go by it is looked for', async () => {
  const way = { kind: 'webdav', address: 'https://shop.example/dav/', user: 'o', visitors: 'https://shop.example/' };
  const site = SiteRecord.parse({
    version: 2,
    id: 's',
    name: 'Shop',
    address: 'shop.example',
    way: { ...way, plain: false, ownNetwork: false },
    look: neutralLook,
    pages: [{ path: '', kind: 'blog', slots: [slot.id] }],
    holds: { [slot.id]: 'header.jpg' },
  });
  sites.set([site]);
  const graphic = graphicAs({ format: 'webp' }, 20_000);
  // No JPEG of that weight looks the same, so it is the best of those.
  const [[name, bytes]] = (await leave(graphic, ['a.webp'])) as [[string, number]];
  expect(name).toBe('a.jpg');
  expect([bytes % 300, bytes <= 20_000, await weighed(graphic)]).toEqual([0, true, bytes]);
});

it('writes over nothing, under a name that came to be on the way either', async () => {
  written.set('a.webp', new Blob(['mine']));
  expect(await leave(graphicAs({}, 20_000))).toEqual([['a.webp', 4]]);
  expect(all.problem()).toContain('“a.webp” is in “blog” already');
  written.set('a.jpg', new Blob(['mine']));
  await leave(graphicAs());
  expect(all.problem()).toContain('“a.jpg” is in “blog” already');
  expect(await written.get('a.jpg')!.text()).toBe('mine');
});
