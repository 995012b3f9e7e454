import { potterySets } from '../../../demo/src/slots';
import { intersection } from '../geometry/box';
import { applyEdit } from '../graphic/edit';
import { isPicture, withLayer, type Graphic, type Layer } from '../graphic/graphic';
import { pictureGeometry, stretchOf } from '../graphic/picture-geometry';
import { setGraphic } from '../graphic/set-graphic';
import { contextOf } from '../testing/context';
import { photo, random, slotOf, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import type { AssetFacts } from './asset-facts';
import { createReporter } from './report';
import type { Finding } from './rule';
import { subjectBox } from './subject-hidden';

const shaper = await realShaper();
const own = { id: 'g', name: 'Five', created: '2026-11-30T00:00:00Z' };
const facts = (subject: AssetFacts['subject']) => ({
  assets: new Map<string, AssetFacts>([['a'.repeat(64), { silhouette: null, ...(subject ? { subject } : {}) }]]),
});
function setOf(id: string, ...layers: Layer[]): Graphic {
  const made = setGraphic(
    own,
    potterySets.find((s) => s.id === id)!,
    slotOf,
  );
  if (!made.ok) throw new Error(made.problem.message);
  return { ...made.value, layers };
}
/** What a rule finds in each frame of a graphic. */
const found = (g: Graphic, rule: string, subject?: AssetFacts['subject']): Finding[][] =>
  g.frames.map((frame) => {
    const context = { ...contextOf(g, shaper, facts(subject)), frame };
    return createReporter()(context).findings.filter((f) => f.id.startsWith(`${rule}:`));
  });

describe('a subject on a seam', () => {
  // Of the strip's 670 px the second tile begins at 134: the subject is 100 px wide, 60 of them before it.
  const wide = photo({ natural: { width: 6700, height: 1340 } });
  const subject = { x: 74 / 670, y: 0.2, width: 100 / 670, height: 0.6 };
  it('is told once, in the tile where most of it is, and moved the least way', () => {
    const all = found(setOf('five', wide), 'seam', subject);
    expect(all.map((f) => f.length)).toEqual([1, 0, 0, 0, 0]);
    expect(all[0]![0]!.title).toBe('40 % of what Shelf is of is cut off at a seam of place 1');
    // It covers the strip exactly: there is nothing to move it by.
    expect(all[0]![0]!.fixes).toEqual([]);
    const wider = withLayer(setOf('five', wide), { ...wide, place: { mode: 'free', x: -100, y: -10, width: 900 } });
    const shifted = { x: (74 + 100) / 900, y: 0.2, width: 100 / 900, height: 0.5 };
    const [finding] = found(wider, 'seam', shifted).flat();
    expect(finding!.fixes.map((f) => f.label)).toEqual(['Move the photo left 40 px']);
    expect(found(applyEdit(wider, finding!.fixes[0]!.edit), 'seam', shifted).flat()).toEqual([]);
  });
  it('is none where it lies within one tile, or is larger than one', () => {
    expect(found(setOf('five', wide), 'seam', { ...subject, x: 10 / 670 }).flat()).toEqual([]);
    expect(found(setOf('five', wide), 'seam', { x: 0.1, y: 0.2, width: 0.5, height: 0.6 }).flat()).toEqual([]);
  });
  it('is none where the canvas’s own edge cuts it, or the crop took it away', () => {
    const left = withLayer(setOf('five', wide), { ...wide, place: { mode: 'free', x: -100, y: -10, width: 900 } });
    // 100 px of it, 40 of them off the canvas.
    expect(found(left, 'seam', { x: 60 / 900, y: 0.2, width: 100 / 900, height: 0.5 }).flat()).toEqual([]);
    const cropped = { ...wide, crop: { x: 0, y: 0, width: 1300, height: 1340 } };
    const g = withLayer(setOf('five', wide), { ...cropped, place: { mode: 'free', x: 0, y: 0, width: 130 } });
    expect(found(g, 'seam', subject).flat()).toEqual([]);
  });
  it('its fix takes it off all seams, uncovers nothing and stretches nothing: 400 random photos (seed 17)', () => {
    const r = random(17);
    let [told, mended] = [0, 0];
    for (let n = 0; n < 400; n++) {
      const layer = photo({
        natural: { width: 2000 + r() * 4000, height: 1500 + r() * 1500 },
        place: { mode: 'cover', focus: { x: r(), y: r() }, zoom: 1 + r() },
      });
      const g = setOf(n % 2 ? 'five' : 'window', layer);
      const own = { x: r() * 0.8, y: r() * 0.8, width: 0.03 + r() * 0.15, height: 0.05 + r() * 0.15 };
      for (const f of found(g, 'seam', own).flat()) {
        told++;
        for (const fix of f.fixes) {
          mended++;
          const next = applyEdit(g, fix.edit);
          const moved = next.layers.find(isPicture)!;
          const at = subjectBox(moved, own, g.canvas);
          expect(
            g.frames.filter(({ rect }) => {
              const s = intersection(at, rect);
              return s !== null && s.width * s.height > 0.01 * at.width * at.height;
            }),
          ).toHaveLength(1);
          expect(stretchOf(moved.place)).toBe(1);
          const { shown } = pictureGeometry(moved, g.canvas);
          expect(shown.x).toBeLessThanOrEqual(1e-6);
          expect(shown.x + shown.width).toBeGreaterThanOrEqual(g.canvas.width - 1e-6);
        }
      }
    }
    console.log(`subjects on seams: ${told}, of which ${mended} can be mended by a press`);
    expect(mended).toBeGreaterThan(20);
  });
});

describe('words on a seam', () => {
  it('are told as such, and moved into one tile', () => {
    const title = words('Kiln', { place: { x: 134, y: 50 } }, { size: 30 });
    const g = setOf('five', title);
    const all = found(g, 'outside');
    const [finding] = all.flat();
    expect(finding!.title).toMatch(/^“Title” reaches \d+ px over a seam$/);
    const mended = applyEdit(g, finding!.fixes[0]!.edit);
    expect(found(mended, 'outside').flat()).toEqual([]);
  });
  it('that reach over the canvas’s own edge are told as before', () => {
    const title = words('Kiln', { place: { x: 4, y: 50 } }, { size: 30 });
    expect(found(setOf('five', title), 'outside')[0]![0]!.title).toMatch(/over the canvas’s edge$/);
  });
});
