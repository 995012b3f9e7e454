import type { LayoutContents, PlacedPicture } from '../graphic/contents';
import { isPicture } from '../graphic/graphic';
import { plainHouseStyle } from '../house/house-style';
import { laidOut, layoutNamed } from '../layouts/laid-out';
import { layoutLook } from '../layouts/look';
import { layouts } from '../layouts/layouts';
import { places } from '../layouts/stage';
import { subjectBox } from '../report/subject-hidden';
import { everySlot, random, slotOf } from '../testing/samples';
import { realShaper } from '../testing/type';
import { layoutOf } from '../words/layout';
import { typeSize } from '../compose/roles';
import type { Derived } from '../graphic/follows';
import { alikeText, tilesAlike, type Alike } from './alike';

const shaper = await realShaper();
const look = layoutLook(plainHouseStyle);
const slot = slotOf('menu-tile');
const photo = (n: number, subject: PlacedPicture['subject']): PlacedPicture => ({
  asset: n.toString(16).padStart(64, '0'),
  name: `Photo ${n}`,
  natural: { width: 3500, height: 2332 },
  opaque: true,
  vector: false,
  focus: subject ? { x: subject.x + subject.width / 2, y: subject.y + subject.height / 2 } : { x: 0.5, y: 0.5 },
  subject,
});
const tile = (title: string, of: PlacedPicture | null): LayoutContents => ({
  photo: of,
  cutout: null,
  logo: null,
  title,
  line: '',
  note: '',
});
const words = ['Bowls', 'Jugs', 'Mugs', 'Bottles', 'Plates', 'Teapots & lids', 'Seconds'];
const subject = (height: number) => ({ x: 0.4, y: 0.5 - height / 2, width: 0.2, height });
const seven = words.map((w, i) => tile(w, photo(i, subject(0.3 + 0.02 * i))));
const titleOf = (d: Derived) => {
  const title = d.layers.find((l) => l.id === places.title);
  return title?.role === 'words' ? title : null;
};
const sizes = ({ derived }: Alike) => derived.map((d) => titleOf(d)).map((t) => (t ? typeSize(t, shaper) : null));
const heights = ({ derived }: Alike, of: readonly LayoutContents[], on = slot) =>
  derived.flatMap((d, i) => {
    const layer = d.layers.find((l) => l.id === places.photo);
    return layer && isPicture(layer) && of[i]!.photo?.subject
      ? [subjectBox(layer, of[i]!.photo.subject, on).height / on.height]
      : [];
  });

describe('tiles alike', () => {
  it('have words of one size, the longest deciding', () => {
    for (const { id } of layouts.filter((l) => !l.needs.includes('cutout') && !l.needs.includes('logo'))) {
      const alone = seven.map((t) => laidOut(layoutNamed(id)!, t, look, slot, shaper));
      if (alone.some((d) => !d || !titleOf(d))) continue;
      const least = Math.min(...alone.map((d) => typeSize(titleOf(d!)!, shaper)));
      const found = tilesAlike(id, seven, look, slot, shaper);
      const all = sizes(found).filter((s) => s !== null);
      expect({ id, all, spread: Math.max(...all) - Math.min(...all) < 0.11 }).toEqual({ id, all, spread: true });
      expect(Math.max(...all)).toBeLessThanOrEqual(least + 0.01);
      expect(found.size).toMatchObject({ least: Math.min(...all), most: Math.max(...all) });
      // Lines, as the words are laid: as many on each, or told.
      const lines = found.derived.map((d) => layoutOf(titleOf(d)!, shaper).lines);
      const most = lines.flatMap((n, i) => (n > Math.min(...lines) ? [i] : []));
      expect(found.longer).toEqual(most);
    }
  });

  it('say which word decides, and where one takes a line more whatever is done', () => {
    const long = [
      ...seven,
      tile('Everything that came out of the last firing and found no shelf', photo(9, subject(0.3))),
    ];
    const found = tilesAlike('band', long, look, slot, shaper);
    expect(found.longer).toContain(7);
    expect(
      alikeText(
        found,
        long.map((t) => t.title),
      ),
    ).toContain('“Everything that came out of the last firing and found no shelf” takes a line more');
  });

  it('whose word has no room in any way are told; nothing is left out without a word', () => {
    const much = [...seven.slice(0, 2), tile(words.join(' and ').repeat(3).slice(0, 120), photo(9, subject(0.3)))];
    for (const id of ['band', 'quiet', 'label']) {
      const found = tilesAlike(id, much, look, slot, shaper);
      const bare = found.derived.flatMap((d, i) => (titleOf(d) ? [] : [i]));
      expect({ id, without: found.without }).toEqual({ id, without: bare });
      if (bare.length)
        expect(
          alikeText(
            found,
            much.map((t) => t.title),
          ),
        ).toContain('no room for words');
    }
  });

  it('have subjects as high as each other as far as enlarging goes, none of a photo beyond its pixels', () => {
    const next = random(20261130);
    let worst = { gain: Infinity, seed: 20261130 };
    for (let round = 0; round < 6; round++) {
      const some = words.map((w, i) => tile(w, photo(i, subject(0.15 + next() * 0.5))));
      for (const id of ['quiet', 'band', 'beside']) {
        const before = some.map((t) => laidOut(layoutNamed(id)!, t, look, slot, shaper)!);
        const found = tilesAlike(id, some, look, slot, shaper);
        const spread = (list: readonly number[]) => Math.max(...list) / Math.min(...list);
        const was = spread(heights({ ...found, derived: before }, some));
        const is = spread(heights(found, some));
        worst = { ...worst, gain: Math.min(worst.gain, was / is) };
        // Never less alike than without.
        expect(is).toBeLessThanOrEqual(was + 0.03);
        expect(found.subjects!.least / found.subjects!.most).toBeCloseTo(1 / is, 6);
        for (const d of found.derived)
          for (const l of d.layers)
            if (isPicture(l) && l.crop) expect(l.crop.width * 1.0001).toBeGreaterThanOrEqual(slot.width);
      }
    }
    expect(worst.gain).toBeGreaterThan(0.97);
  });

  it('of photos taken alike stand within a few hundredths; of unlike ones that is told, and of which', () => {
    const like = words.map((w, i) => tile(w, photo(i, subject(0.3 + 0.005 * i))));
    expect(alikeText(tilesAlike('band', like, look, slot, shaper), words)).toMatch(/subjects within \d %/);
    const unlike = words.map((w, i) => tile(w, photo(i, subject(i === 3 ? 0.08 : 0.6))));
    expect(alikeText(tilesAlike('band', unlike, look, slot, shaper), words)).toMatch(
      /subjects differ by \d\d % in height, “Bottles” most/,
    );
  });

  it('without a photo have their words all the same; none at all is none', () => {
    const bare = [tile('Bowls', null), ...seven.slice(1)];
    const found = tilesAlike('band', bare, look, slot, shaper);
    expect(titleOf(found.derived[0]!)).not.toBeNull();
    expect(tilesAlike('band', [], look, slot, shaper)).toMatchObject({ derived: [], size: null, subjects: null });
  });

  it('are made for every slot there is', () => {
    for (const s of everySlot) {
      const found = tilesAlike('band', seven.slice(0, 3), look, s, shaper);
      expect(found.derived).toHaveLength(3);
    }
  });
});
