import { applyEdit } from '../graphic/edit';
import type { Graphic, Layer } from '../graphic/graphic';
import { blank, photo, random, shape, slotOf, withLayers, words } from '../testing/samples';
import { contextOf } from '../testing/context';
import { realShaper } from '../testing/type';
import { shownOnDevices } from '../slot/shown';
import type { Shaper } from '../words/shaper';
import type { AssetFacts } from './asset-facts';
import { boxOf, extremes } from './extent';
import { daysAgo, daysNamed } from './gone-by';
import { createReporter, rules } from './report';
import type { Finding, ReportContext } from './rule';
import { subjectsOf, underZone } from './zones';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const TODAY = '2026-11-29';
const white = { kind: 'colour', colour: '#ffffff' } as const;
const all = (graphic: Graphic, more?: Partial<ReportContext>) => createReporter()(contextOf(graphic, shaper, more));
const find = (graphic: Graphic, rule: string, more?: Partial<ReportContext>): Finding[] =>
  all(graphic, more).findings.filter((f) => f.id === rule || f.id.startsWith(`${rule}:`));
/** The graphic after a finding's first fix. */
const mended = (graphic: Graphic, finding: Finding): Graphic => applyEdit(graphic, finding.fixes[0]!.edit);
const on = (slot: string, ...layers: Layer[]): Graphic => ({ ...withLayers(blank(slot), ...layers), backdrop: white });
const ink = { colour: '#1f2a30' };

describe('zones', () => {
  it('names words under the page’s portrait, in px, and frees them by the shortest move', () => {
    const g = on('page-cover', words('Kiln opening', { place: { x: 200, y: 240 } }, { size: 40, ...ink }));
    const [finding] = find(g, 'zones');
    expect(finding).toMatchObject({ group: 'before', layer: 'w' });
    expect(finding!.title).toMatch(/^“Title” lies \d+ × \d+ px under the portrait$/);
    expect(finding!.fixes[0]!.label).toMatch(/^Move it (right|up) \d+ px/);
    expect(find(mended(g, finding!), 'zones')).toEqual([]);
  });
  it('lets words stand in the corner of a round portrait’s box, where the page shows the picture', () => {
    const { covered } = slotOf('page-cover');
    const zone = covered[0]!;
    const corner = words('·', { place: { x: zone.x + 6, y: zone.y - 8 } }, { size: 14, ...ink });
    expect(find(on('page-cover', corner), 'zones')).toEqual([]);
  });
  it('tells what lies under a zone, within it, and nothing of what lies apart: 120 random words, turned and outlined (seed 77)', () => {
    const r = random(77);
    let hits = 0;
    for (let i = 0; i < 120; i++) {
      const layer = words(
        'Stoneware from the mill',
        {
          place: { x: 100 + r() * 700, y: r() * 180 },
          turn: i % 2 ? (r() - 0.5) * 160 : 0,
          outline: i % 3 ? null : { width: 1 + r() * 5, colour: '#ffffff' },
        },
        { size: 16 + r() * 40, ...ink },
      );
      const zone = {
        x: r() * 900,
        y: r() * 190,
        width: 20 + r() * 200,
        height: 20 + r() * 120,
        kind: i % 2 ? ('portrait' as const) : ('block' as const),
      };
      const canvas = { width: 940, height: 198 };
      const under = underZone(layer, zone, canvas, shaper, new Map());
      // The hull of all letters is no smaller than they are: what it does not touch they do not.
      const points = extremes(layer, canvas, shaper, new Map());
      const box = boxOf(points);
      const apart =
        box.x > zone.x + zone.width ||
        box.x + box.width < zone.x ||
        box.y > zone.y + zone.height ||
        box.y + box.height < zone.y;
      if (apart) expect(under).toBeNull();
      if (!under) continue;
      hits++;
      for (const [at, size, from, length] of [
        [under.x, under.width, zone.x, zone.width],
        [under.y, under.height, zone.y, zone.height],
      ] as const) {
        expect(at).toBeGreaterThanOrEqual(from - 1e-6);
        expect(at + size).toBeLessThanOrEqual(from + length + 1e-6);
      }
    }
    expect(hits).toBeGreaterThan(20);
  });
  it('judges a logo by its own pixels, cropped and mirrored as it is', () => {
    // Only the left third of it is to be seen.
    const alpha = Uint8Array.from({ length: 90 * 30 }, (_, i) => (i % 90 < 30 ? 255 : 0));
    const zone = slotOf('page-cover').covered[0]!;
    const logo = photo({
      id: 'l',
      role: 'logo',
      opaque: false,
      natural: { width: 900, height: 300 },
      place: { mode: 'free', x: zone.x - 20, y: zone.y + 20, width: 180 },
    });
    const assets = new Map<string, AssetFacts>([[logo.asset, { silhouette: { width: 90, height: 30, alpha } }]]);
    expect(find(on('page-cover', logo), 'zones', { assets })).toHaveLength(1);
    const mirroredAway = {
      ...logo,
      flip: { across: true, down: false },
      place: { mode: 'free' as const, x: zone.x + 70, y: zone.y + 20, width: 180 },
    };
    expect(find(on('page-cover', mirroredAway), 'zones', { assets })).toEqual([]);
    // Of what is cropped away nothing lies anywhere.
    const cropped = {
      ...logo,
      crop: { x: 600, y: 0, width: 300, height: 300 },
      place: { mode: 'free' as const, x: zone.x, y: zone.y + 20, width: 60 },
    };
    expect(find(on('page-cover', cropped), 'zones', { assets })).toEqual([]);
  });
});

describe('safe area and what screens cut', () => {
  it('names how far words reach out of the safe area, and brings them in', () => {
    const g = on('page-cover', words('Kiln opening', { place: { x: 420, y: 2 } }, { size: 30, ...ink }));
    const [finding] = find(g, 'safe');
    expect(finding!.title).toMatch(/^“Title” reaches \d+ px out of the safe area$/);
    expect(find(mended(g, finding!), 'safe')).toEqual([]);
  });
  it('names what a phone’s page cuts off words, and moves them to what every screen shows', () => {
    const g = on('page-cover', words('Kiln', { place: { x: 140, y: 120 } }, { size: 30, ...ink }));
    const [finding] = find(g, 'cut');
    expect(finding!.title).toMatch(/^On a phone the page cuts \d+ px off “Title” at the left$/);
    expect(find(mended(g, finding!), 'cut')).toEqual([]);
    // A slot that is shown whole everywhere cuts nothing.
    expect(find(on('blog-header', words('Kiln', { place: { x: 60, y: 60 } }, ink)), 'cut')).toEqual([]);
  });
});

it('small type on a phone is named with its size there, and made larger without another fault', () => {
  const g = on('blog-header', words('a diary from the mill', { place: { x: 470, y: 172 } }, { size: 15, ...ink }));
  const [finding] = find(g, 'small');
  // 390 less the page’s 24 of 940: 15 px are 5.8.
  expect(finding!.title).toBe('On a phone “Title” is 5.8 px high, needs 9');
  const after = all(mended(g, finding!)).findings.map((f) => f.id);
  expect(after.filter((id) => /^(small|outside|cut|zones|safe)/.test(id))).toEqual([]);
});

describe('hidden, short, nearly the page’s ground', () => {
  it('a layer behind an opaque photo, or beside the canvas, is told, and taken away or brought forward', () => {
    const behind = on('blog-header', shape(), photo());
    const [first] = find(behind, 'hidden');
    expect(first!.title).toBe('Rectangle lies wholly behind Shelf');
    for (const { edit } of first!.fixes) expect(find(applyEdit(behind, edit), 'hidden:s')).toEqual([]);
    const beside = shape({ place: { mode: 'box', box: { x: 1000, y: 10, width: 50, height: 50 } } });
    expect(find(on('blog-header', beside), 'hidden')[0]!.title).toBe('Rectangle lies wholly outside the canvas');
    // Seen through, or beside: not hidden.
    expect(find(on('blog-header', shape(), photo({ opacity: 0.9 })), 'hidden')).toEqual([]);
    expect(
      find(on('blog-header', shape(), photo({ place: { mode: 'free', x: 210, y: 0, width: 730 } })), 'hidden'),
    ).toEqual([]);
  });
  it('a band that stops a px short is run on; a frame that stands off all round is meant', () => {
    const band = shape({ place: { mode: 'box', box: { x: 0, y: 150, width: 938.5, height: 48 } } });
    const g = on('blog-header', band);
    const [finding] = find(g, 'short');
    expect(finding!.title).toBe('Rectangle stops 1.5 px short at the right');
    expect(find(mended(g, finding!), 'short')).toEqual([]);
    const inset = shape({ place: { mode: 'box', box: { x: 2, y: 2, width: 936, height: 194 } } });
    const whole = shape({ place: { mode: 'box', box: { x: 0, y: 150, width: 940, height: 48 } } });
    const aside = shape();
    for (const l of [inset, whole, aside]) expect(find(on('blog-header', l), 'short')).toEqual([]);
  });
  it('a backdrop a shade off the page’s ground is told; the ground itself and another colour are not', () => {
    const off = (colour: string): Graphic => ({
      ...withLayers(blank(), words('x', {}, ink)),
      backdrop: { kind: 'colour', colour },
    });
    const [finding] = find(off('#f6f0e4'), 'nearly-ground');
    expect(finding!.title).toMatch(/^The backdrop is nearly the page’s ground: ΔE [\d.]+$/);
    expect(find(mended(off('#f6f0e4'), finding!), 'nearly-ground')).toEqual([]);
    for (const c of ['#fbf8f2', '#1f2a30', '#ffe08a']) expect(find(off(c), 'nearly-ground')).toEqual([]);
  });
});

describe('words', () => {
  const says = (text: string) => on('blog-header', words(text, {}, ink));
  it.each([
    ['doubled', 'Made in the the mill', 'Made in the mill'],
    ['straight-quotes', 'It’s a potter\'s "mug"', 'It’s a potter’s “mug”'],
  ])('%s: “%s” becomes “%s”', (rule, text, want) => {
    const [finding] = find(says(text), rule);
    const after = mended(says(text), finding!);
    expect(find(after, rule)).toEqual([]);
    const layer = after.layers[0]!;
    expect(layer.role === 'words' && layer.paragraphs[0]!.runs[0]!.text).toBe(want);
  });
  it.each([
    ['doubled', 'so so good that that had had it'],
    ['doubled', 'the-the and New\nNew jugs'],
    ['straight-quotes', 'A 6" plate, it\'s'],
    ['straight-quotes', 'A 6" plate’s rim'],
    ['placeholder', 'Your words matter to us'],
    ['gone-by', 'Kiln opening 12 December'],
    ['gone-by', 'from 3 to 30 November 2026'],
    ['gone-by', 'glazes 1 to 12, 4.5 of 5, may be sold'],
    ['gone-by', 'Open 29 November'],
  ])('%s finds nothing in “%s”', (rule, text) => {
    expect(find(says(text), rule)).toEqual([]);
  });
  it.each(['Your words', 'your title here', 'Lorem ipsum dolor', 'TBC'])(
    '“%s” stands in for the real words',
    (text) => {
      expect(find(says(text), 'placeholder')[0]).toMatchObject({ group: 'before' });
    },
  );
  it.each([
    ['Kiln opening 12 October', 48],
    ['Kiln opening, October 12th, 2026', 48],
    ['Saturday 28 November 2026', 1],
    ['2026-11-01', 28],
    ['on 24.12.2025', 340],
  ])('“%s” was %d days ago', (text, days) => {
    expect(daysNamed(text).map((d) => daysAgo(d, TODAY))).toEqual([days]);
    expect(find(says(text), 'gone-by')).toHaveLength(1);
  });
  it('no day that is none: 31 February, 99.99.2026', () => {
    expect(daysNamed('31 February, 99.99.2026, 2026-13-01')).toEqual([]);
  });
  it('a short word left over on a last line is told, and another width takes it up', () => {
    const layer = words(
      'Stoneware for the table, made by the mill by us',
      { sizing: { kind: 'wrap', width: 400 } },
      { size: 30, ...ink },
    );
    let seen = 0;
    for (let width = 250; width < 700; width += 10) {
      const g = on('blog-header', { ...layer, sizing: { kind: 'wrap', width } });
      const [finding] = find(g, 'last-word');
      if (!finding) continue;
      seen++;
      for (const { edit } of finding.fixes) expect(find(applyEdit(g, edit), 'last-word')).toEqual([]);
    }
    expect(seen).toBeGreaterThan(1);
    expect(find(on('blog-header', words('one\ntwo\nthree', {}, ink)), 'last-word')).toEqual([]);
  });
  it('what the page prints as well is told, whatever its case and marks', () => {
    const g = says('Ottermill pottery!');
    expect(find(g, 'repeated', { printed: ['Ottermill Pottery'] })[0]!.detail).toContain(
      '“Ottermill Pottery” would be read twice',
    );
    expect(find(g, 'repeated', { printed: ['Ottermill'] })).toEqual([]);
  });
});

describe('files, rights, screens', () => {
  it('a maker who asks to be named and is not, and a picture without a licence', () => {
    const g = on('blog-header', photo());
    const facts = (own: Partial<AssetFacts>) => ({ assets: new Map([['a'.repeat(64), { silhouette: null, ...own }]]) });
    expect(find(g, 'licensed', facts({ credit: 'Ida Fenn', licence: 'CC BY 4.0', showCredit: true }))[0]!.title).toBe(
      'Ida Fenn asks to be named',
    );
    const named = withLayers(g, photo(), words('Photo: Ida Fenn', {}, { size: 24, ...ink }));
    expect(find(named, 'licensed', facts({ credit: 'Ida Fenn', licence: 'CC BY 4.0', showCredit: true }))).toEqual([]);
    expect(find(g, 'licensed', facts({ credit: 'Ida Fenn' }))[0]!.title).toBe('Shelf has no licence noted');
    expect(find(g, 'licensed', facts({}))).toEqual([]);
  });
  it('a photo as PNG is wasteful where nothing is transparent, and JPEG mends it', () => {
    const g = applyEdit(on('blog-header', photo()), { type: 'set-export', frame: 'main', choices: { format: 'png' } });
    expect(find(mended(g, find(g, 'wasteful')[0]!), 'wasteful')).toEqual([]);
    expect(find(withLayers(g, shape()), 'wasteful')).toEqual([]);
  });
  it('a file smaller or larger than the page takes', () => {
    const g = blank();
    const own = (slot: Partial<Graphic['frames'][0]['slot']>): Graphic => ({
      ...g,
      frames: [{ ...g.frames[0]!, slot: { ...g.frames[0]!.slot, ...slot } }],
    });
    expect(find(own({ least: { width: 1000, height: 100 } }), 'taken-size')[0]!.title).toBe(
      'The file has 940 × 198 px; the page takes 1000 × 100 px at the least',
    );
    expect(find(own({ densities: [1, 2], most: { width: 1000, height: 500 } }), 'taken-size')[0]!.title).toContain(
      '1880 × 396 px',
    );
    expect(find(own({ least: { width: 940, height: 198 }, most: { width: 940, height: 198 } }), 'taken-size')).toEqual(
      [],
    );
  });
  it('a header that fills a phone’s first screen', () => {
    const g = blank();
    const tall: Graphic = { ...g, frames: [{ ...g.frames[0]!, slot: { ...g.frames[0]!.slot, height: 1700 } }] };
    expect(find(tall, 'first-screen')[0]!.title).toMatch(/^On a (desktop|phone) it takes \d+ % of the first screen$/);
    expect(find(g, 'first-screen')).toEqual([]);
  });
  it('a file’s name is no description', () => {
    const g = applyEdit(on('blog-header', words('Kiln', {}, ink)), {
      type: 'set-export',
      frame: 'main',
      choices: { alt: 'IMG_2041.jpg' },
    });
    const [finding] = find(g, 'undescribed');
    expect(finding!.title).toBe('The description is only a file’s name');
    expect(find(mended(g, finding!), 'undescribed')).toEqual([]);
  });
});

describe('a finding that is left', () => {
  const g = on('blog-header', words('tiny', { place: { x: 470, y: 100 } }, { size: 15, ...ink }));
  const leave = (graphic: Graphic, finding: Finding): Graphic =>
    applyEdit(graphic, {
      type: 'leave-finding',
      frame: 'main',
      left: { finding: finding.id, reason: 'The shop has no phones', figures: [...(finding.figures ?? [])] },
    });
  it('is told apart with its reason, counts no more, and is taken up again', () => {
    const left = leave(g, find(g, 'small')[0]!);
    expect(find(left, 'small')).toEqual([]);
    expect(all(left).left.map((l) => [l.finding.id, l.reason])).toEqual([['small:w', 'The shop has no phones']]);
    expect(find(applyEdit(left, { type: 'take-up-finding', frame: 'main', finding: 'small:w' }), 'small')).toHaveLength(
      1,
    );
  });
  it('comes back when its figures change by more than a tenth, and not before', () => {
    const left = leave(g, find(g, 'small')[0]!);
    const at = (size: number) => withLayers(left, words('tiny', { place: { x: 470, y: 100 } }, { size, ...ink }));
    expect(find(at(15.8), 'small')).toEqual([]);
    const [again] = find(at(12), 'small');
    expect(again!.detail).toMatch(/^You left it \(“The shop has no phones”\), but it has changed since\. /);
    expect(again!.fixes.length).toBeGreaterThan(0);
  });
});

it('every rule says what it finds, by which figures and what mends it', () => {
  for (const rule of rules) {
    expect([
      rule.id,
      rule.what.length > 10,
      rule.mends.length > 5,
      typeof rule.passed === 'function' || rule.passed.length > 10,
    ]).toEqual([rule.id, true, true, true]);
  }
  expect(new Set(rules.map((r) => r.id)).size).toBe(rules.length);
});

it('a fix never leaves its own finding as bad: 300 random graphics, each fix applied and judged again (seed 404)', () => {
  const r = random(404);
  const slots = [
    'blog-header',
    'page-cover',
    'profile-banner',
    'chat-avatar',
    'class-header',
    'landing-header',
    'link-card',
  ];
  let applied = 0;
  for (let n = 0; n < 300; n++) {
    const slot = slots[n % slots.length]!;
    const { width, height } = slotOf(slot);
    const layer = words(
      ['Kiln opening', 'a diary from the mill', 'Ottermill', 'Your words'][Math.floor(r() * 4)]!,
      { place: { x: r() * width, y: (r() * 1.1 - 0.1) * height }, turn: n % 4 === 3 ? (r() - 0.5) * 90 : 0 },
      { size: 8 + r() * 0.25 * height, ...ink },
    );
    const logo = photo({
      id: 'l',
      role: 'logo',
      vector: true,
      natural: { width: 300, height: 200 },
      place: {
        mode: 'free',
        x: (r() * 1.2 - 0.1) * width,
        y: (r() * 1.2 - 0.1) * height,
        width: width * (0.05 + r() * 0.3),
      },
    });
    const g = on(slot, ...(r() < 0.5 ? [layer, logo] : [layer]));
    for (const finding of all(g).findings) {
      for (const fix of finding.fixes) {
        const after = find(applyEdit(g, fix.edit), finding.id);
        applied++;
        expect([n, finding.id, fix.label, after.map((f) => f.title)]).toEqual([n, finding.id, fix.label, []]);
      }
    }
  }
  expect(applied).toBeGreaterThan(200);
});

it('what every screen shows is within the slot, and nothing is drawn larger than the page has room for', () => {
  for (const slot of ['blog-header', 'page-cover', 'landing-header', 'class-header', 'chat-avatar'].map(slotOf))
    for (const { shown } of shownOnDevices(slot)) {
      expect(shown.part.x).toBeGreaterThanOrEqual(-1e-9);
      expect(shown.part.x + shown.part.width).toBeLessThanOrEqual(slot.width + 1e-9);
      expect(shown.part.width * shown.scale.x).toBeCloseTo(shown.width, 6);
      expect(shown.part.height * shown.scale.y).toBeCloseTo(shown.height, 6);
    }
  expect(subjectsOf([photo(), words('a'), shape()]).map((l) => l.id)).toEqual(['w']);
});
