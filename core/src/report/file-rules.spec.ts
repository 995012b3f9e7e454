import { applyEdit } from '../graphic/edit';
import type { Watermark } from '../export/watermark';
import type { Graphic, Layer } from '../graphic/graphic';
import { canvasPoint } from '../graphic/picture-geometry';
import type { Slot } from '../slot/slot';
import { contextOf } from '../testing/context';
import { blank, photo, random, slotOf, watermark, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { Shaper } from '../words/shaper';
import type { AssetFacts } from './asset-facts';
import { lightEnough } from './heavy';
import { createReporter } from './report';
import type { Finding, FileWeights, ReportContext } from './rule';
import { hiddenShare } from './subject-hidden';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const on = (slot: string, change: Partial<Slot>, ...layers: Layer[]): Graphic => {
  const g = withLayers(blank(slot), ...layers);
  return { ...g, frames: g.frames.map((f) => ({ ...f, slot: { ...f.slot, ...change } })) };
};
const report = (g: Graphic, more?: Partial<ReportContext>) => createReporter()(contextOf(g, shaper, more));
const find = (g: Graphic, rule: string, more?: Partial<ReportContext>): Finding[] =>
  report(g, more).findings.filter((f) => f.id === rule || f.id.startsWith(`${rule}:`));
const factsOf = (facts: Partial<AssetFacts>) => ({
  assets: new Map<string, AssetFacts>([['a'.repeat(64), { silhouette: null, ...facts }]]),
});

describe('weight', () => {
  const g = on('blog-header', { mostBytes: 200_000 }, photo());
  const weights: FileWeights = {
    chosen: { format: 'jpeg', quality: 85, bytes: 312_000 },
    tried: [
      { format: 'jpeg', quality: 71, bytes: 198_500 },
      { format: 'webp', quality: 85, bytes: 160_200 },
    ],
  };
  it('a file that is too heavy is told in figures, and mended by quality first', () => {
    const [finding] = find(g, 'heavy', { weights });
    expect(finding).toMatchObject({ group: 'before', title: 'The file has 312 kB; the page takes 200 kB' });
    expect(finding!.fixes.map((f) => f.label)).toEqual(['JPEG at quality 71, 199 kB', 'WebP at quality 85, 160 kB']);
    expect(applyEdit(g, finding!.fixes[0]!.edit).frames[0]!.export).toMatchObject({ format: 'jpeg', quality: 71 });
  });
  it('what is too heavy at the lowest quality as well says so, and offers nothing that does not help', () => {
    const [finding] = find(g, 'heavy', {
      weights: { ...weights, tried: [{ format: 'jpeg', quality: 60, bytes: 240_000 }] },
    });
    expect(finding!.fixes).toEqual([]);
    expect(finding!.detail).toContain('JPEG at quality 60, has 240 kB');
  });
  it('waits until the file was weighed, and says what it weighs where it is light enough', () => {
    expect(report(g, { weights: undefined }).waiting).toBe(true);
    const light = report(g, { weights: { chosen: { format: 'jpeg', quality: 85, bytes: 90_000 }, tried: [] } });
    expect(light.passed).toContain('The file has 90 kB; the page takes 200 kB');
    expect(find(on('blog-header', { mostBytes: null }, photo()), 'heavy', { weights: undefined })).toEqual([]);
  });
  it('finds the best quality that is light enough, within six looks: 400 random files (seed 8)', async () => {
    const r = random(8);
    for (let n = 0; n < 400; n++) {
      const from = 61 + Math.floor(r() * 40);
      const [base, most] = [1000 + r() * 5000, 50_000 + r() * 400_000];
      let asked = 0;
      const weigh = (q: number) => {
        asked++;
        return Promise.resolve(base * (q / (101 - q) + 20));
      };
      const got = await lightEnough(from, most, weigh);
      expect(asked).toBeLessThanOrEqual(6);
      expect(got.bytes).toBe(await weigh(got.quality));
      if (got.bytes > most) expect(got.quality).toBe(60);
      // The next better one is too heavy, or all looks were taken.
      else if (got.quality < from - 1 && asked < 6) expect(await weigh(got.quality + 1)).toBeGreaterThan(most);
    }
  });
});

describe('what packing takes away', () => {
  const packed = (seen?: boolean): FileWeights => ({
    chosen: { format: 'jpeg', quality: 22, bytes: 9_000, ...(seen === undefined ? {} : { seen }) },
    tried: [],
  });
  const as = (choices: Partial<Graphic['frames'][0]['export']>, change: Partial<Slot> = {}) =>
    applyEdit(on('blog-header', change, photo()), { type: 'set-export', frame: 'main', choices });
  const own = as({ format: 'jpeg', quality: 22, own: true });
  const same = 'The file looks the same as the canvas at 100 %';

  it('a file that was chosen and can be told from the canvas is told, and mended by choosing none', () => {
    const [finding] = find(own, 'loss', { weights: packed(true) });
    expect(finding).toMatchObject({ group: 'time', detail: expect.stringContaining('JPEG at quality 22') as string });
    const mended = applyEdit(own, finding!.fixes[0]!.edit);
    expect(mended.frames[0]!.export.own).toBe(false);
    expect(find(mended, 'loss', { weights: null })).toEqual([]);
  });
  it('waits until it was looked at; only what was compared is said to look the same', () => {
    expect(report(own, { weights: undefined }).waiting).toBe(true);
    expect(report(own, { weights: packed(false) }).passed).toContain(same);
    expect(report(own, { weights: packed() }).passed).not.toContain(same);
    expect(report(blank(), { weights: null }).passed).not.toContain(same);
  });
  it('a limit that no file meets unseen is told with its figure, and nothing is offered that would not help', () => {
    const [finding] = find(as({}, { mostBytes: 10_000 }), 'loss', { weights: packed(true) });
    expect(finding).toMatchObject({ detail: expect.stringContaining('No file of at most 10 kB') as string, fixes: [] });
    expect(find(as({ mostBytes: 4_000 }), 'loss', { weights: packed(true) })[0]!.detail).toContain('at most 4.0 kB');
  });
  it('PNG takes nothing away', () => {
    expect(find(as({ format: 'png', own: true }), 'loss', { weights: undefined })).toEqual([]);
  });
});

describe('a watermark', () => {
  const mark: Watermark = { ...watermark, place: 'bottom-right', size: 0.3 };
  const g = on('blog-header', {}, words('Open on Saturday', { id: 'w', place: { x: 40, y: 60 } }, { size: 60 }));
  const carried = applyEdit(g, { type: 'set-export', frame: 'main', choices: { watermark: true } });

  it('over words is told, and off the file by a press; where there is room it is free', () => {
    expect(find(carried, 'watermarked', { watermark: mark })).toEqual([]);
    expect(report(carried, { watermark: mark }).passed).toContain('The watermark leaves words and logos free');
    const [finding] = find(carried, 'watermarked', { watermark: { ...mark, place: 'left' } });
    expect(finding).toMatchObject({ group: 'before', title: expect.stringContaining('lies over “') as string });
    expect(applyEdit(carried, finding!.fixes[0]!.edit).frames[0]!.export.watermark).toBeUndefined();
  });
  it('all over lies on everything, as it is meant to; one that cannot be drawn is told', () => {
    const [over] = find(carried, 'watermarked', { watermark: { ...mark, repeated: true } });
    expect(over!.group).toBe('time');
    const none = { ...mark, mark: { ...mark.mark, text: '   ' } } as Watermark;
    expect(find(carried, 'watermarked', { watermark: none })[0]!.title).toBe('The watermark cannot be laid over it');
  });
  it('of a file without one nothing is said', () => {
    expect(find(g, 'watermarked')).toEqual([]);
    expect(report(g).passed.join()).not.toContain('watermark');
  });
});

describe('names, places, rows, half pixels', () => {
  it('a graphic whose name has no letter that is safe in addresses', () => {
    const named = (name: string): Graphic => ({ ...blank(), name });
    expect(find(named('☕🫖'), 'file-named')[0]!.title).toMatch(/^The file would be called /);
    for (const name of ['Brüche & Töpfe', 'A graphic', 'Шапка', '12'])
      expect(find(named(name), 'file-named')).toEqual([]);
  });
  it('a name longer than the page takes', () => {
    const g = on('blog-header', { names: { rule: 'web', longest: 24 } });
    expect(find(g, 'file-named', { fileName: 'kiln-opening-2026-11-29.jpg' })[0]!.title).toBe(
      'The file’s name has 27 letters; the page takes 24',
    );
  });
  it('where a photo was taken is said as passed, with nothing to do', () => {
    const g = on('blog-header', {}, photo());
    expect(report(g, factsOf({ located: true })).passed).toContain(
      'Where Shelf was taken is written in its own file; it is left out of what you save',
    );
    expect(report(g, factsOf({})).passed).toContain('No picture tells where it was taken');
  });
  it('the eighth tile that the page never shows', () => {
    const g = on('blog-header', { rowShows: 7 }, photo());
    expect(find(g, 'row-full', { alike: 8 })[0]!.title).toBe('The page’s row shows 7; there are 8 graphics for it');
    expect(find(g, 'row-full', { alike: 7 })).toEqual([]);
    expect(find(on('blog-header', { rowShows: 7, oneOfSeveral: true }), 'row-full', { alike: 9 })).toEqual([]);
  });
  it('a slot of half a pixel, unless it is whole at the density that is wanted', () => {
    expect(find(on('blog-header', { width: 316.5 }), 'half-pixels')[0]!.title).toBe(
      'At 1× the slot is 316.5 px wide; the file has 317',
    );
    expect(find(on('blog-header', { width: 316.5, densities: [2] }), 'half-pixels')).toEqual([]);
    expect(find(blank(), 'half-pixels')).toEqual([]);
  });
});

describe('a slot of another size than the graphic was made for', () => {
  const made = on('blog-header', {}, photo());
  const { slot } = made.frames[0]!;
  const now = (change: Partial<Slot>) => ({ slotNow: { ...slot, ...change } });
  it.each<[string, Partial<Slot>]>([
    [
      'The slot is 1000 × 288 now: the page cuts 126 px off at the left and 126 px off at the right',
      { width: 1000, height: 288 },
    ],
    ['The slot is 940 × 120 now: the page cuts 78 px off at the bottom', { height: 120, fit: 'fills-top' }],
    [
      'The slot is 940 × 300 now: the page leaves its own ground above and below it',
      { height: 300, fit: 'fits-within' },
    ],
    ['The slot is 940 × 220 now: the page stretches it 10 % high', { height: 220, fit: 'stretches' }],
    ['The slot is 600 × 198 now: the page cuts 340 px off at the right', { width: 600, fit: 'top-left' }],
    ['The slot is 1880 × 396 now: the page enlarges it to 200 %, so that it looks soft', { width: 1880, height: 396 }],
  ])('%s, and following it mends that', (title, change) => {
    const [finding] = find(made, 'resized', now(change));
    expect(finding).toMatchObject({ group: 'before', title });
    const after = applyEdit(made, finding!.fixes[0]!.edit);
    expect(find(after, 'resized', now(change))).toEqual([]);
  });
  it('a density that it asks for by now is made too', () => {
    const [finding] = find(made, 'density', now({ densities: [1, 2] }));
    expect(finding).toMatchObject({ group: 'before', title: 'The slot asks for 2× now; the file is made at 1×' });
    expect(finding!.detail).toContain('1880 × 396 px');
    const after = applyEdit(made, finding!.fixes[0]!.edit);
    expect(find(after, 'density', now({ densities: [1, 2] }))).toEqual([]);
    expect(after.frames[0]!.slot.densities).toEqual([1, 2]);
    // One that is made denser than is asked for by now is sharp all the same.
    expect(find(after, 'density', now({ densities: [1] }))).toEqual([]);
  });
  it('what stays as it is, or is nowhere in the book, is no matter', () => {
    expect(find(made, 'resized', now({}))).toEqual([]);
    expect(find(made, 'resized', now({ name: 'Another', ground: '#123456' }))).toEqual([]);
    expect(find(made, 'resized')).toEqual([]);
  });
});

it('a backdrop a shade off the line around it is told too', () => {
  const g: Graphic = {
    ...on('blog-header', { border: { width: 2, colour: '#8a8271' } }),
    backdrop: { kind: 'colour', colour: '#8d8573' },
  };
  const [finding] = find(g, 'nearly-ground');
  expect(finding!.title).toMatch(/^The backdrop is nearly the page’s border: ΔE [\d.]+$/);
  expect(find(applyEdit(g, finding!.fixes[0]!.edit), 'nearly-ground')).toEqual([]);
});

describe('what is wrong with a picture itself', () => {
  it('a blurred photo is soft as large as it is drawn, and sharp when it is made small', () => {
    const drawn = (natural: number) =>
      on('blog-header', {}, photo({ natural: { width: natural, height: natural / 2 } }));
    const [finding] = find(drawn(1000), 'soft', factsOf({ blur: 2 }));
    expect(finding!.title).toBe('Shelf looks soft: its sharpest edges are 5 px wide');
    // Reduced to a quarter: half a px.
    expect(find(drawn(4000), 'soft', factsOf({ blur: 2 }))).toEqual([]);
    expect(find(drawn(1000), 'soft', factsOf({ blur: 0.5 }))).toEqual([]);
    expect(find(drawn(1000), 'soft', factsOf({ blur: null }))).toEqual([]);
  });
  it('says how many times the pixels a sharp photo has', () => {
    const g = on('blog-header', { densities: [1, 2] }, photo({ natural: { width: 5640, height: 3760 } }));
    expect(report(g).passed).toContain('Shelf has more pixels than it needs, 6 times at 1×, 3 times at 2×: sharp');
  });
  it('a stray line that is in view is cropped off: in photos that cover, and such as stand free', () => {
    const stray = { top: 0, right: 2, bottom: 0, left: 0 };
    const covers = on('blog-header', {}, photo({ natural: { width: 1880, height: 396 } }));
    const [finding] = find(covers, 'stray', factsOf({ stray }));
    expect(finding!.title).toBe('Shelf has a stray line at the right');
    const after = applyEdit(covers, finding!.fixes[0]!.edit);
    expect(find(after, 'stray', factsOf({ stray }))).toEqual([]);
    expect(find(after, 'covered')).toEqual([]);
    const free = on('blog-header', {}, photo({ place: { mode: 'free', x: 100, y: 20, width: 200 } }));
    const freed = applyEdit(free, find(free, 'stray', factsOf({ stray }))[0]!.fixes[0]!.edit);
    expect(find(freed, 'stray', factsOf({ stray }))).toEqual([]);
    // Cut off above and below, a line there is not seen.
    const high = on('blog-header', {}, photo({ natural: { width: 1880, height: 1880 } }));
    expect(find(high, 'stray', factsOf({ stray: { top: 2, right: 0, bottom: 2, left: 0 } }))).toEqual([]);
  });
  it('a stray line’s fix never leaves it in view, nor bares the canvas: 200 random photos (seed 15)', () => {
    const r = random(15);
    let applied = 0;
    for (let n = 0; n < 200; n++) {
      const stray = {
        top: Math.floor(r() * 4),
        right: Math.floor(r() * 4),
        bottom: Math.floor(r() * 4),
        left: Math.floor(r() * 4),
      };
      const layer = photo({
        natural: { width: 300 + Math.round(r() * 4000), height: 200 + Math.round(r() * 2000) },
        flip: { across: r() < 0.5, down: r() < 0.5 },
        turn: n % 5 ? 0 : (r() - 0.5) * 30,
        place:
          n % 2
            ? { mode: 'cover', focus: { x: r(), y: r() }, zoom: 1 + (n % 3 ? 0 : r()) }
            : { mode: 'free', x: r() * 200, y: r() * 60, width: 200 + r() * 800 },
      });
      const g = on('blog-header', {}, layer);
      for (const f of find(g, 'stray', factsOf({ stray })))
        for (const fix of f.fixes) {
          applied++;
          const after = applyEdit(g, fix.edit);
          expect([n, find(after, 'stray', factsOf({ stray }))]).toEqual([n, []]);
          if (!find(g, 'covered').length) expect([n, find(after, 'covered')]).toEqual([n, []]);
        }
    }
    expect(applied).toBeGreaterThan(60);
  });
});

describe('what a photo is of', () => {
  const g = on('page-cover', {}, photo({ natural: { width: 2000, height: 1000 } }));
  it('under the portrait it is told, and the photo is moved so that it is seen', () => {
    const zone = slotOf('page-cover').covered[0]!;
    const free = photo({
      natural: { width: 1000, height: 1000 },
      place: { mode: 'free', x: zone.x, y: zone.y, width: 1000 },
    });
    const there = { x: 0, y: 0, width: (zone.width * 0.9) / 1000, height: (zone.height * 0.9) / 1000 };
    const [finding] = find(on('page-cover', {}, free), 'subject-hidden', factsOf({ subject: there }));
    expect(finding!.title).toMatch(/^\d+ % of what Shelf is of is not to be seen$/);
    // In the middle, clear of everything.
    expect(find(g, 'subject-hidden', factsOf({ subject: { x: 0.45, y: 0.45, width: 0.1, height: 0.1 } }))).toEqual([]);
  });
  it('of a round slot, the share beyond the circle is that of geometry: 1 − π/4 of the whole square', () => {
    const slot = { ...slotOf('chat-avatar'), covered: [] };
    const rect = { x: 0, y: 0, width: slot.width, height: slot.height };
    expect(hiddenShare(rect, { slot, rect })).toBeCloseTo(1 - Math.PI / 4, 1);
  });
  it('its fix never hides more: 300 random subjects (seed 21)', () => {
    const r = random(21);
    let [told, mended] = [0, 0];
    for (let n = 0; n < 300; n++) {
      const own = { x: r() * 0.8, y: r() * 0.8, width: 0.05 + r() * 0.15, height: 0.05 + r() * 0.15 };
      const at = on(
        n % 2 ? 'page-cover' : 'chat-avatar',
        {},
        photo({
          natural: { width: 1000 + r() * 2000, height: 1000 + r() * 1000 },
          place: { mode: 'cover', focus: { x: r(), y: r() }, zoom: 1 + r() },
        }),
      );
      for (const f of find(at, 'subject-hidden', factsOf({ subject: own }))) {
        told++;
        for (const fix of f.fixes) {
          mended++;
          expect([n, find(applyEdit(at, fix.edit), 'subject-hidden', factsOf({ subject: own }))]).toEqual([n, []]);
        }
      }
    }
    console.log(`subjects hidden: ${told}, of which ${mended} can be mended by a press`);
    expect(mended).toBeGreaterThan(10);
  });
});

it('a point of a picture lies where the canvas says (what stray lines are found by)', () => {
  const layer = photo({ natural: { width: 1880, height: 396 } });
  expect(canvasPoint(layer, { width: 940, height: 198 }, { x: 1880, y: 396 })).toEqual({ x: 940, y: 198 });
});
