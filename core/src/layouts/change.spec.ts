import same from 'fast-deep-equal';
import type { LayoutContents, PlacedPicture } from '../graphic/contents';
import { applyEdit } from '../graphic/edit';
import { Follows, layerOf, withLayer, type Graphic, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { withText } from '../graphic/runs';
import { swapped } from '../graphic/swap';
import { plainHouseStyle } from '../house/house-style';
import { everySlot, random, slotOf, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { firstRun, textOf, withRuns } from '../words/words';
import { changedOfLayout, contentsOf, followedLayout, inLayout, layoutAgain, layoutGraphic } from './change';
import { allLaidOut, laidOut, layoutNamed } from './laid-out';
import { layoutLook } from './look';
import { layouts } from './layouts';
import { places } from './stage';

const shaper = await realShaper();
const look = layoutLook(plainHouseStyle);
const slot = slotOf('link-card');
const picture = (asset: string, own: Partial<PlacedPicture> = {}): PlacedPicture => ({
  asset: asset.repeat(64),
  name: 'Shelf',
  natural: { width: 3500, height: 2332 },
  opaque: true,
  vector: false,
  focus: { x: 0.6, y: 0.4 },
  subject: null,
  ...own,
});
const contents: LayoutContents = {
  photo: picture('a'),
  cutout: picture('c', { opaque: false, natural: { width: 600, height: 800 } }),
  logo: picture('b', { opaque: false, natural: { width: 640, height: 180 } }),
  title: 'Notes from the Wheel',
  line: 'a diary from the mill',
  note: 'New',
};
const none = new Map<string, PlacedPicture['subject']>();
const own = { id: 'g', name: 'Header', created: '2026-11-30T00:00:00Z', slot };
const derive = (layout: string, from = contents, on = slot) => laidOut(layoutNamed(layout)!, from, look, on, shaper)!;
const made = (layout = 'quiet'): Graphic => layoutGraphic(own, layout, derive(layout), contents, look);
const change = (graphic: Graphic, layout: string) => {
  const now = contentsOf(graphic, none)!;
  const { derived, follows } = inLayout(graphic, layout, derive(layout, now), now, look);
  return applyEdit(graphic, { type: 'follow', derived, follows });
};
const title = (g: Graphic) => layerOf(g, places.title) as WordsLayer;
const photo = (g: Graphic) => layerOf(g, places.photo) as PictureLayer;

describe('a graphic made from a layout', () => {
  it('follows it, and says what was put in', () => {
    const graphic = made();
    expect(followedLayout(graphic.follows)).toBe('quiet');
    expect(contentsOf(graphic, none)).toEqual(contents);
    expect(Follows.safeParse(graphic.follows).success).toBe(true);
    expect(changedOfLayout(graphic.follows!.last, graphic)).toEqual([]);
    expect(followedLayout({ ...graphic.follows!, of: 'some-graphic' })).toBeNull();
    expect(contentsOf({ ...graphic, follows: undefined }, none)).toBeNull();
  });

  it('untouched, is in any other layout what it would have been made as', () => {
    for (const { layout } of allLaidOut(contents, look, slot, shaper)) {
      const next = change(made(), layout);
      expect({ layers: next.layers, backdrop: next.backdrop }).toEqual(derive(layout));
      expect(followedLayout(next.follows)).toBe(layout);
    }
  });

  it('keeps what was written and which photo was put in, laid as the other layout lays them', () => {
    const start = made();
    const said = withLayer(start, withText(title(start), 'Evening classes begin again\nin January'));
    const by = { ...picture('d'), natural: { width: 2000, height: 3000 } };
    const shown = withLayer(said, swapped(photo(said), by, said.canvas));
    expect(changedOfLayout(shown.follows!.last, shown)).toEqual([]);
    const now = contentsOf(shown, none)!;
    expect(now.title).toBe('Evening classes begin again in January');
    expect(now.photo?.asset).toBe('d'.repeat(64));
    for (const layout of ['beside', 'arch', 'label', 'duotone']) {
      const next = change(shown, layout);
      expect({ layers: next.layers, backdrop: next.backdrop }).toEqual(derive(layout, now));
    }
  });

  it('keeps what was changed by hand, and follows in all else', () => {
    const start = made();
    const coloured = withLayer(start, withRuns(title(start), { colour: '#ffd400' }));
    const added = { ...coloured, layers: [...coloured.layers, words('free', { id: 'mine' })] };
    const removed = { ...added, layers: added.layers.filter((l) => l.id !== places.note) };
    const hand = changedOfLayout(removed.follows!.last, removed);
    expect(hand.map((h) => [h.layer, h.how])).toEqual([
      [places.title, 'changed'],
      ['mine', 'added'],
      [places.note, 'removed'],
    ]);
    const next = change(removed, 'disc');
    const fresh = derive('disc').layers.find((l) => l.id === places.title) as WordsLayer;
    expect(firstRun(title(next))).toEqual({ ...firstRun(fresh), colour: '#ffd400' });
    expect(title(next).place).toEqual(fresh.place);
    expect(layerOf(next, 'mine')).toBeDefined();
    expect(layerOf(next, places.note)).toBeUndefined();
  });

  it('goes there and back to what it was', () => {
    const start = made();
    const moved = withLayer(start, { ...title(start), place: { x: 33, y: 44 } });
    const back = change(change(moved, 'frame'), 'quiet');
    expect({ layers: back.layers, backdrop: back.backdrop }).toEqual({
      layers: moved.layers,
      backdrop: moved.backdrop,
    });
  });

  it('does so with anything in it, in any slot', () => {
    const seed = 30;
    const r = random(seed);
    const pick = <T>(list: readonly T[]) => list[Math.floor(r() * list.length)]!;
    for (let i = 0; i < 40; i++) {
      const on = pick(everySlot);
      const from = {
        ...contents,
        title: pick(['Sale', 'Ö', 'New jugs, just out of the kiln']),
        note: pick(['', 'New']),
      };
      const all = allLaidOut(from, look, on, shaper);
      const [a, b] = [pick(all), pick(all)];
      const graphic = layoutGraphic({ ...own, slot: on }, a.layout, a.derived, from, look);
      const now = contentsOf(graphic, none)!;
      const { derived } = inLayout(graphic, b.layout, derive(b.layout, now, on), now, look);
      if (!same(derived, b.derived)) throw new Error(`seed ${seed}, case ${i}: ${a.layout} to ${b.layout} in ${on.id}`);
    }
  });

  it('has a layer as the layout has it again, with what it says now', () => {
    const start = made();
    const changed = withLayer(start, {
      ...withRuns(withText(title(start), 'Evening classes'), { colour: '#ffd400' }),
      place: { x: 5, y: 5 },
    });
    const again = layoutAgain(changed.follows!.last, changed, places.title);
    const back = again.layers.find((l) => l.id === places.title) as WordsLayer;
    expect(textOf(back)).toBe('Evening classes');
    expect(back.place).toEqual(title(start).place);
    expect(firstRun(back).colour).toBe(firstRun(title(start)).colour);
  });
});

it('every layout has a name of its own that can be kept', () => {
  for (const { id } of layouts) expect(`layout:${id}`.length).toBeLessThanOrEqual(64);
});
