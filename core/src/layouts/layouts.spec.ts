import { contrast } from '../colour/contrast';
import { contains, intersection, type Box } from '../geometry/box';
import { checkGraphic } from '../graphic/check';
import { isPicture, newGraphic, type Graphic, type Layer, type PictureLayer } from '../graphic/graphic';
import { pictureGeometry, stretchOf } from '../graphic/picture-geometry';
import { layerBounds } from '../graphic/shape-geometry';
import { plainHouseStyle } from '../house/house-style';
import { roomOf } from '../report/free-move';
import { smallestScale } from '../slot/shown';
import type { Slot } from '../slot/slot';
import { everySlot, random, slotOf } from '../testing/samples';
import { realShaper } from '../testing/type';
import { layoutOf } from '../words/layout';
import { firstRun, textOf } from '../words/words';
import { leastType } from '../compose/slot-room';
import type { LayoutContents, PlacedPicture } from '../graphic/contents';
import { inkOn, layoutLook } from './look';
import { allLaidOut, laidOut, layoutNamed, wanting } from './laid-out';
import { layouts } from './layouts';
import { places, slotShape } from './stage';

const shaper = await realShaper();
const look = layoutLook(plainHouseStyle);

const picture = (own: Partial<PlacedPicture> = {}): PlacedPicture => ({
  asset: 'a'.repeat(64),
  name: 'Shelf',
  natural: { width: 3500, height: 2332 },
  opaque: true,
  vector: false,
  focus: { x: 0.6, y: 0.4 },
  subject: { x: 0.45, y: 0.2, width: 0.3, height: 0.4 },
  ...own,
});
const cutout = picture({ asset: 'c'.repeat(64), natural: { width: 700, height: 900 }, opaque: false, subject: null });
const logo = picture({ asset: 'b'.repeat(64), natural: { width: 640, height: 180 }, opaque: false, vector: true });
const whole: LayoutContents = {
  photo: picture(),
  cutout,
  logo,
  title: 'Notes from the Wheel',
  line: 'a diary from the mill',
  note: 'New',
};

function graphicOf(slot: Slot, derived: Pick<Graphic, 'layers' | 'backdrop'>): Graphic {
  return { ...newGraphic({ id: 'g', name: 'Layout', created: '2026-11-30T00:00:00Z', slot }), ...derived };
}

/** What would be wrong with a graphic made from a layout, in words; empty where nothing is. */
function faults(graphic: Graphic, slot: Slot): string[] {
  const said: string[] = [];
  const canvas = { x: 0, y: 0, ...graphic.canvas };
  const room = roomOf({ slot, rect: canvas });
  const bounds = (l: Layer) => layerBounds(l, graphic, shaper);
  const words = graphic.layers.filter((l) => l.role === 'words');
  for (const layer of words) {
    const box = bounds(layer);
    if (!room.some((r) => contains(r, box, 0.5))) said.push(`${layer.name} is outside what is safe`);
    if (slot.covered.some((z) => intersection(z, box))) said.push(`${layer.name} is under what the page lays over it`);
    if (slot.shape.kind === 'ellipse' && !inEllipse(box, canvas)) said.push(`${layer.name} is cut by the round crop`);
    const size = firstRun(layer).size * layoutOf(layer, shaper).by * smallestScale(slot);
    if (size < leastType(slot) * smallestScale(slot) - 0.01) said.push(`${layer.name} is too small: ${size}`);
    for (const other of graphic.layers)
      if (other !== layer && (other.role === 'words' || other.id === places.logo))
        if (intersection(bounds(other), box)) said.push(`${layer.name} and ${other.name} lie on each other`);
    const ground = groundOf(layer.ground?.colour ?? null, box, graphic);
    if (ground && contrast(firstRun(layer).colour, ground) < 4.5) said.push(`${layer.name} is faint on ${ground}`);
    if (!ground && !graphic.layers.some((l) => l.role === 'veil')) said.push(`${layer.name} has no ground and no veil`);
  }
  for (const layer of graphic.layers.filter(isPicture)) {
    if (Math.abs(stretchOf(layer.place) - 1) > 1e-9) said.push(`${layer.name} is stretched`);
    const { shown } = pictureGeometry(layer, graphic.canvas);
    const inside = layer.id === places.photo ? intersection(shown, canvas) : contains(canvas, shown, 0.5);
    if (!inside) said.push(`${layer.name} is off the canvas`);
    if (layer.id !== places.photo && !room.some((r) => contains(r, shown, 0.5))) said.push(`${layer.name} is cut off`);
    if (layer.id === places.logo && slot.covered.some((z) => intersection(z, shown))) said.push('the logo is covered');
  }
  return said;
}

/** What flat colour lies under all of a box: the topmost of shapes that hold it; null where a photo does. */
function groundOf(own: string | null, box: Box, graphic: Graphic): string | null {
  if (own) return own;
  for (const layer of [...graphic.layers].reverse()) {
    if (layer.role === 'words' || layer.role === 'veil') continue;
    const area = layerBounds(layer, graphic, shaper);
    if (!intersection(area, box)) continue;
    if (isPicture(layer)) return null;
    if (layer.fill.kind === 'colour' && contains(area, box, 0.5)) return layer.fill.colour;
    if (layer.fill.kind === 'colour') return null;
  }
  return graphic.backdrop.kind === 'colour' ? graphic.backdrop.colour : null;
}

/** ((x − cx) / rx)² + ((y − cy) / ry)² ≤ 1 for all four corners. */
function inEllipse(b: Box, { width, height }: { width: number; height: number }): boolean {
  const corners = [b.x, b.x + b.width].flatMap((x) => [b.y, b.y + b.height].map((y) => [x, y] as const));
  return corners.every(([x, y]) => ((2 * x) / width - 1) ** 2 + ((2 * y) / height - 1) ** 2 <= 1.001);
}

describe('layouts', () => {
  it('are twelve and more, each of its own name', () => {
    expect(layouts.length).toBeGreaterThanOrEqual(12);
    expect(new Set(layouts.map((l) => l.id)).size).toBe(layouts.length);
    expect(new Set(layouts.map((l) => l.name)).size).toBe(layouts.length);
  });

  it.each(['blog-header', 'page-cover', 'link-card', 'menu-tile'])('twelve and more have something for %s', (slot) => {
    expect(allLaidOut(whole, look, slotOf(slot), shaper).length).toBeGreaterThanOrEqual(12);
  });
  it('an avatar has half a dozen to choose from', () => {
    const avatar = everySlot.find((s) => slotShape(s) === 'round')!;
    expect(allLaidOut(whole, look, avatar, shaper).length).toBeGreaterThanOrEqual(6);
  });

  it('for every slot that ships: safe, clear, large enough, read, never stretched', () => {
    const wrong: string[] = [];
    for (const slot of everySlot)
      for (const { layout, derived } of allLaidOut(whole, look, slot, shaper)) {
        const graphic = graphicOf(slot, derived);
        expect(checkGraphic(graphic)).toMatchObject({ ok: true });
        wrong.push(...faults(graphic, slot).map((f) => `${slot.id} ${layout}: ${f}`));
      }
    expect(wrong).toEqual([]);
  });

  it('for whatever is put in them, in slots of any shape', () => {
    const seed = 20261130;
    const r = random(seed);
    const titles = [
      '',
      'Sale',
      'Öfen & Åre: what a cone tells you',
      '陶器',
      '🫖 Tea bowls',
      'W'.repeat(120),
      'New jugs, just out of the kiln, and what the glaze did to them this time around',
    ];
    const pick = <T>(list: readonly T[]) => list[Math.floor(r() * list.length)]!;
    const colours = ['#ffffff', '#000000', '#a4512f', '#f4e7cb', '#1f2a30', '#5a7a6b', '#ffd400', '#777777'];
    const wrong: string[] = [];
    let made = 0;
    for (let i = 0; i < 60; i++) {
      const base = pick(everySlot);
      const width = Math.round(100 + r() * 1600);
      const height = Math.round(Math.max(50, width / (0.5 + r() * 9)));
      const zone = {
        what: 'portrait',
        kind: 'portrait' as const,
        x: r() * width * 0.8,
        y: r() * height * 0.8,
        width: width * 0.2,
        height: height * 0.4,
      };
      const slot: Slot = {
        ...base,
        width,
        height,
        shownWidth: Math.min(width, base.shownWidth),
        shape: r() < 0.2 ? { kind: 'ellipse' } : { kind: 'rectangle' },
        covered: r() < 0.4 ? [zone] : [],
      };
      const contents: LayoutContents = {
        photo: r() < 0.85 ? picture({ natural: { width: 300 + r() * 4000, height: 300 + r() * 4000 } }) : null,
        cutout: r() < 0.7 ? cutout : null,
        logo: r() < 0.7 ? picture({ ...logo, natural: { width: 100 + r() * 900, height: 100 + r() * 900 } }) : null,
        title: pick(titles),
        line: pick(titles),
        note: r() < 0.5 ? 'New' : '',
      };
      const own = { ...look, paper: pick(colours), leading: pick(colours), ink: pick(colours) };
      own.ink = inkOn([own.ink], own.paper);
      for (const { layout, derived } of allLaidOut(contents, own, slot, shaper)) {
        const graphic = graphicOf(slot, derived);
        made++;
        const checked = checkGraphic(graphic);
        if (!checked.ok) wrong.push(`${i} ${layout}: ${checked.problem.message}`);
        wrong.push(
          ...faults(graphic, slot).map((f) => `seed ${seed}, case ${i}, ${width} × ${height}, ${layout}: ${f}`),
        );
      }
    }
    expect(made).toBeGreaterThan(200);
    expect(wrong).toEqual([]);
  });

  it('put each thing in its place, and all that is said', () => {
    const slot = slotOf('link-card');
    for (const { layout, derived } of allLaidOut(whole, look, slot, shaper)) {
      const by = new Map(derived.layers.map((l) => [l.id, l]));
      for (const need of layoutNamed(layout)!.needs) expect(by.has(places[need])).toBe(true);
      const photo = by.get(places.photo) as PictureLayer | undefined;
      if (photo) expect(photo.asset).toBe(whole.photo!.asset);
      const title = by.get(places.title);
      if (title?.role === 'words') expect(textOf(title).replace(/\n/g, ' ')).toBe(whole.title);
      expect(by.size).toBe(derived.layers.length);
    }
  });
  it('are offered where there is what they need, and say what is wanting', () => {
    const none: LayoutContents = { photo: null, cutout: null, logo: null, title: '', line: '', note: '' };
    expect(allLaidOut(none, look, slotOf('blog-header'), shaper)).toEqual([]);
    expect(wanting(layoutNamed('disc')!, { ...whole, cutout: null })).toEqual(['cutout']);
    expect(laidOut(layoutNamed('disc')!, { ...whole, cutout: null }, look, slotOf('blog-header'), shaper)).toBeNull();
  });
  it('are the same each time', () => {
    const once = () => allLaidOut(whole, look, slotOf('page-cover'), shaper);
    expect(once()).toEqual(once());
  });
});

describe('what layouts are made of', () => {
  it('is the house’s own: its words on its ground, its accent to lead', () => {
    expect(look).toMatchObject({ paper: '#f4e7cb', ink: '#1f2a30', leading: '#a4512f' });
    expect(layoutLook(plainHouseStyle, '#5a7a6b').colours[0]).toBe('#5a7a6b');
  });
  it('is read, whatever colours a house has', () => {
    const grey = { ...plainHouseStyle, colours: [{ name: 'Grey', colour: '#777777', role: 'ground' as const }] };
    const { ink, paper } = layoutLook(grey);
    expect(contrast(ink, paper)).toBeGreaterThanOrEqual(4.4);
    expect(layoutLook({ ...plainHouseStyle, colours: [] }).colours.length).toBeGreaterThan(0);
  });
});
