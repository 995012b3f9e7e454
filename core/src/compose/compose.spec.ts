import { readFileSync } from 'node:fs';
import { contains, grown, intersection } from '../geometry/box';
import { isPicture, type Graphic, type Layer } from '../graphic/graphic';
import { checkGraphic } from '../graphic/check';
import { pictureGeometry, stretchOf } from '../graphic/picture-geometry';
import { layerBounds } from '../graphic/shape-geometry';
import { roomOf } from '../report/free-move';
import { smallestScale } from '../slot/shown';
import type { Slot } from '../slot/slot';
import { layoutOf } from '../words/layout';
import { textOf } from '../words/words';
import { blank, everySlot, photo, random, shape, slotOf, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { ADDED, composed, compositions, type Source } from './compose';
import { proposedRoles } from './roles';
import { leastType } from './slot-room';
import { balanceMeasure, letterMeasure, marginMeasure, measured, measures, readMeasure, scoreOf } from './score';

const shaper = await realShaper();
const source = (graphic: Graphic, subject = { x: 0.55, y: 0.2, width: 0.3, height: 0.5 }): Source => ({
  graphic,
  roles: proposedRoles(graphic, shaper),
  subjects: new Map(graphic.layers.filter(isPicture).map((l) => [l.id, subject])),
});
const header = () =>
  withLayers(
    blank(),
    photo(),
    veil(),
    words('Notes from the Wheel', { place: { x: 40, y: 40 } }),
    words('a diary from the mill', { id: 'line', name: 'Line', place: { x: 40, y: 110 } }, { size: 22 }),
  );

/** Slots as people make them, of any proportions, with zones, round shapes, safe areas, devices that cut. */
function anySlot(r: () => number): Slot {
  const base = everySlot[Math.floor(r() * everySlot.length)]!;
  const width = Math.round(120 + r() * 1600);
  const height = Math.round(Math.max(60, width / (0.6 + r() * 8)));
  const portrait = { what: 'portrait', kind: 'portrait' as const, x: width * r() * 0.7, y: height * (0.3 + r() * 0.6) };
  return {
    ...base,
    width,
    height,
    shownWidth: Math.min(width, base.shownWidth),
    shape: r() < 0.15 ? { kind: 'ellipse' } : { kind: 'rectangle' },
    safe:
      r() < 0.3
        ? { kind: 'insets', top: height * 0.1, bottom: height * 0.1, left: width * 0.05, right: width * 0.05 }
        : { kind: 'all' },
    covered: r() < 0.4 ? [{ ...portrait, width: height * 0.5, height: height * 0.5 }] : [],
  };
}

/** Graphics as people make them. */
function anySource(r: () => number, i: number): Source {
  const texts = [
    'Notes from the Wheel',
    'Evening\nclasses',
    'Sale',
    'Öfen & Åre: what a cone tells you',
    'New jugs, just out of the kiln',
  ];
  const pick = <T>(list: readonly T[]) => list[Math.floor(r() * list.length)]!;
  const slot = pick(['blog-header', 'page-cover', 'link-card', 'profile-banner', 'menu-tile']);
  const { width, height } = blank(slot).canvas;
  const layers: Layer[] = [];
  if (r() < 0.85)
    layers.push(
      photo({
        natural: { width: 2000 + r() * 3000, height: 1200 + r() * 2500 },
        flip: { across: r() < 0.3, down: false },
      }),
    );
  if (r() < 0.4) layers.push(veil({ form: { kind: 'side', side: 'left', reach: width / 2 } }));
  if (r() < 0.3) layers.push(shape({ place: { mode: 'band', side: 'bottom', size: height * 0.3 } }));
  layers.push(
    words(
      pick(texts),
      { place: { x: width * r(), y: height * r() * 0.6 } },
      { size: 14 + r() * 60, colour: pick(['#ffffff', '#1f2a30']) },
    ),
  );
  if (r() < 0.6) layers.push(words('a diary from the mill', { id: 'line' }, { size: 10 + r() * 20 }));
  if (r() < 0.3)
    layers.push(
      photo({
        id: 'logo',
        role: 'logo',
        vector: true,
        natural: { width: 200, height: 80 },
        place: { mode: 'free', x: 10, y: 10, width: width * 0.15 },
      }),
    );
  if (r() < 0.2) {
    layers.push(
      shape({
        id: 'note',
        place: { mode: 'around', words: 'said', across: 8, down: 5, last: { x: 0, y: 0, width: 9, height: 9 } },
      }),
    );
    layers.push(words('fired twice', { id: 'said' }, { size: 13, colour: '#1f2a30' }));
  }
  if (i % 5 === 0)
    layers.push(
      photo({
        id: 'thing',
        role: 'logo',
        cutout: { kind: 'flat', colour: '#ffffff', where: 'border', at: null, tolerance: 10, soft: 1 } as never,
        place: { mode: 'free', x: 30, y: 5, width: width * 0.8 },
      }),
    );
  return source(withLayers(blank(slot), ...layers), {
    x: r() * 0.6,
    y: r() * 0.5,
    width: 0.15 + r() * 0.25,
    height: 0.2 + r() * 0.3,
  });
}

describe('what layers are for', () => {
  it('is told from what they are', () => {
    const g = withLayers(
      blank(),
      photo(),
      veil(),
      shape({ id: 'band', place: { mode: 'band', side: 'left', size: 200 } }),
      words('Notes'),
      words('a line', { id: 'line' }, { size: 20 }),
      shape({
        id: 'n',
        place: { mode: 'around', words: 'note', across: 4, down: 4, last: { x: 0, y: 0, width: 9, height: 9 } },
      }),
      words('twice', { id: 'note' }, { size: 70 }),
      photo({ id: 'mark', role: 'logo', place: { mode: 'free', x: 9, y: 9, width: 60 } }),
      photo({ id: 'hid', visible: false }),
    );
    expect(Object.fromEntries(proposedRoles(g, shaper))).toEqual({
      p: 'photo',
      v: 'veil',
      band: 'band',
      w: 'title',
      line: 'line',
      note: 'note',
      mark: 'logo',
    });
  });
});

describe('composing for a slot', () => {
  it('stands words beside the subject of a header, and keeps what they are', () => {
    const c = composed(source(header()), slotOf('page-cover'), 'left', shaper)!;
    expect(c.graphic.canvas).toEqual({ width: 851, height: 315 });
    expect(c.graphic.layers.map((l) => l.id)).toEqual(['p', 'v', 'w', 'line']);
    expect(c.graphic.layers[1]).toMatchObject({ form: { kind: 'side', side: 'left' }, justEnough: true });
    expect(c.words!.x + c.words!.width).toBeLessThan(851 * 0.6);
    expect(c.left).toEqual([]);
  });

  it('puts a band under the words where it is asked for, and says what it leaves out', () => {
    const c = composed(source(header()), slotOf('menu-tile'), 'band', shaper)!;
    expect(c.graphic.layers.find((l) => l.id === ADDED.band)).toMatchObject({
      place: { mode: 'band', side: 'bottom' },
      fill: { colour: '#1f2a30' },
    });
    expect(c.left).toEqual([{ layer: 'v', name: 'Veil', why: 'the words stand on a band' }]);
  });

  it('leaves words out of an avatar, and keeps the subject in the circle', () => {
    const all = compositions(source(header()), slotOf('chat-avatar'), shaper);
    expect(all.map((c) => c.way)).toEqual(['bare']);
    expect(all[0]!.left.map((l) => l.why)).toContain('too small to read there');
  });

  it('is the same each time', () => {
    expect(compositions(source(header()), slotOf('link-card'), shaper)).toEqual(
      compositions(source(header()), slotOf('link-card'), shaper),
    );
  });

  it('for any slot, from any graphic: covered, never stretched, words safe, clear and large enough', () => {
    const seed = 20261130;
    const r = random(seed);
    const sources = Array.from({ length: 40 }, (_, i) => anySource(r, i));
    let made = 0;
    for (let i = 0; i < 200; i++) {
      const slot = anySlot(r);
      const from = sources[i % sources.length]!;
      const rect = { x: 0, y: 0, width: slot.width, height: slot.height };
      const found = compositions(from, slot, shaper);
      const where = `slot ${i} (${slot.width} × ${slot.height}) of seed ${seed}`;
      if (!found.length) throw new Error(`no way at all: ${where}`);
      for (const c of found) {
        made++;
        const { graphic } = c;
        if (!checkGraphic(graphic).ok) throw new Error(`cannot be kept: ${where}, ${c.way}`);
        const covers = from.graphic.layers.some((l) => from.roles.get(l.id) === 'photo');
        const photos = graphic.layers.filter((l) => isPicture(l) && from.roles.get(l.id) === 'photo');
        if (
          covers !== photos.some((l) => isPicture(l) && contains(pictureGeometry(l, graphic.canvas).image, rect, 1e-6))
        )
          throw new Error(`not covered: ${where}, ${c.way}`);
        for (const l of graphic.layers) {
          if (isPicture(l)) {
            const { image } = pictureGeometry(l, graphic.canvas);
            const was = from.graphic.layers.find((b) => b.id === l.id)!;
            if (isPicture(was)) expect(stretchOf(l.place)).toBe(stretchOf(was.place));
            expect(image.width / image.height / (l.natural.width / l.natural.height)).toBeCloseTo(1, 6);
          }
          if (l.role !== 'words') continue;
          const box = layerBounds(l, graphic, shaper);
          if (!roomOf({ slot, rect }).some((room) => contains(room, box, 0.01)))
            throw new Error(`“${textOf(l)}” is not safe: ${where}, ${c.way}`);
          for (const zone of slot.covered)
            if (intersection(zone, grown(box, -0.01))) throw new Error(`“${textOf(l)}” is covered: ${where}, ${c.way}`);
          for (const item of layoutOf(l, shaper).items)
            if (item.size * smallestScale(slot) < 9 - 0.05)
              throw new Error(`“${textOf(l)}” is ${item.size} px: ${where}, ${c.way}`);
        }
        // All that was there is there, or is told of.
        for (const l of from.graphic.layers)
          if (!graphic.layers.some((n) => n.id === l.id) && !c.left.some((o) => o.layer === l.id))
            throw new Error(`${l.id} is lost: ${where}, ${c.way}`);
        expect(new Set(c.left.map((o) => o.layer)).size).toBe(c.left.length);
        // No two blocks of words lie on each other.
        const blocks = graphic.layers.filter((l) => l.role === 'words').map((l) => layerBounds(l, graphic, shaper));
        for (const [n, a] of blocks.entries())
          for (const b of blocks.slice(n + 1))
            if (intersection(grown(a, -0.5), grown(b, -0.5))) throw new Error(`words on words: ${where}, ${c.way}`);
        const m = measured(c, from, slot, shaper, 1);
        for (const value of Object.values(m) as number[]) {
          expect(value).toBeGreaterThanOrEqual(0);
          expect(value).toBeLessThanOrEqual(1);
        }
        expect(m.clear).toBeGreaterThan(0.999);
      }
    }
    console.info(`${made} compositions of 200 slots, seed ${seed}`);
  });
});

describe('scores', () => {
  it('weigh all measures, and rise with each', () => {
    const weight = Object.values(measures).reduce((sum, m) => sum + m.weight, 0);
    expect(weight).toBeCloseTo(1, 9);
    const plain = { read: 0.5, subject: 0.5, clear: 0.5, letters: 0.5, margins: 0.5, balance: 0.5, likeness: 0.5 };
    for (const name of Object.keys(plain) as (keyof typeof plain)[]) {
      let before = -1;
      for (const value of [0, 0.25, 0.5, 0.75, 1]) {
        const score = scoreOf({ ...plain, [name]: value });
        expect(score).toBeGreaterThan(before);
        before = score;
      }
    }
    expect(scoreOf({ ...plain, read: null })).toBeCloseTo(0.5, 9);
  });

  it('are monotone in what is measured', () => {
    for (const measure of [readMeasure, letterMeasure, marginMeasure, (n: number) => balanceMeasure(1 - n)]) {
      const values = Array.from({ length: 60 }, (_, i) => measure(i / 20));
      for (const [i, v] of values.entries()) if (i) expect(v).toBeGreaterThanOrEqual(values[i - 1]!);
      expect(values.at(-1)!).toBeGreaterThan(values[0]!);
    }
  });

  it('fall where the subject is covered, or words are not clear', () => {
    const from = source(header());
    const slot = slotOf('page-cover');
    const c = composed(from, slot, 'left', shaper)!;
    const m = measured(c, from, slot, shaper);
    const over = { ...from, subjects: new Map([['p', { x: 0, y: 0.2, width: 0.35, height: 0.6 }]]) };
    expect(measured(c, over, slot, shaper).subject).toBeLessThan(m.subject);
    const zone = { what: 'portrait', kind: 'portrait' as const, x: 0, y: 0, width: 851, height: 315 };
    expect(measured(c, from, { ...slot, covered: [zone] }, shaper).clear).toBe(0);
  });

  it('of a smallest type is what the fit report asks for', () => {
    for (const slot of everySlot) expect(leastType(slot) * smallestScale(slot)).toBeGreaterThanOrEqual(9 - 1e-9);
  });
});

it('the docs say what ways are ordered by', () => {
  const docs = readFileSync(new URL('../../../docs/carrying-over.md', import.meta.url), 'utf8');
  for (const { name, weight, what } of Object.values(measures))
    expect(docs).toContain(`| ${name} | ${weight} | ${what} |`);
});
