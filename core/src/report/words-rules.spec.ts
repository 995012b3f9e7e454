import { applyEdit } from '../graphic/edit';
import { type Graphic, type Layer } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { contrast, luminance } from '../colour/contrast';
import { middleOf, turnedPoint } from '../geometry/turn';
import { blank, photo, random, withLayers, words } from '../testing/samples';
import { contextOf } from '../testing/context';
import { realShaper } from '../testing/type';
import { layoutOf, wordsExtent } from '../words/layout';
import type { Legibility } from '../legibility/legibility';
import { polygonsOf } from '../words/stroke';
import type { Shaper } from '../words/shaper';
import type { AssetFacts } from './asset-facts';
import { createReporter } from './report';
import type { Finding } from './rule';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

interface Known {
  assets?: ReadonlyMap<string, AssetFacts>;
  legibility?: readonly Legibility[];
}
const judge = (graphic: Graphic, { assets = new Map(), legibility }: Known = {}) =>
  createReporter()(contextOf(graphic, shaper, { assets, legibility }));
const find = (graphic: Graphic, rule: string, known?: Known): Finding[] =>
  judge(graphic, known).findings.filter((f) => f.id.startsWith(rule));

/** Words of one colour and size on a ground of one colour. */
const standing = (layer: Layer & { role: 'words' }, ground: string | readonly string[]): Legibility => {
  const { size, colour, face } = layer.paragraphs[0]!.runs[0]!;
  return {
    layer: layer.id,
    letters: [
      {
        letter: 'W',
        index: 0,
        over: null,
        box: { x: 10, y: 10, width: 20, height: 20 },
        colour,
        size,
        weight: face.weight,
        ground: Float32Array.from([ground].flat(), luminance).sort(),
        samples: 400,
      },
    ],
  };
};

describe('faint', () => {
  const grey = words('Pale', {}, { colour: '#8a8a8a' });
  it('names the figures and mends with the nearest shade of the same colour', () => {
    const g = withLayers(blank(), photo(), grey);
    const [finding] = find(g, 'faint', { legibility: [standing(grey, '#777777')] });
    expect(finding).toMatchObject({ group: 'before', title: '“Title” is too faint: 1.2, needs 3', layer: 'w' });
    expect(finding!.detail).toContain('“W”; 400 samples');
    const mended = applyEdit(g, finding!.fixes[0]!.edit).layers[1]!;
    const colour = mended.role === 'words' ? mended.paragraphs[0]!.runs[0]!.colour : '';
    expect(contrast(colour, '#777777')).toBeGreaterThanOrEqual(3);
  });
  it('says when no shade passes, and which ink would', () => {
    const yellow = words('Sun', {}, { colour: '#f2d01e', size: 14 });
    const [finding] = find(withLayers(blank(), yellow), 'faint', { legibility: [standing(yellow, '#8c8c8c')] });
    expect(finding!.detail).toContain('No shade of this colour passes; black would.');
    expect(finding!.fixes[0]!.label).toBe('Make the words black');
  });
  it('says when no ink passes at all', () => {
    const any = words('Busy', {}, { size: 14 });
    const [finding] = find(withLayers(blank(), any), 'faint', {
      legibility: [standing(any, ['#000000', '#777777', '#ffffff'])],
    });
    expect(finding!.detail).toContain('No one colour passes here');
    // But over a veil that takes the white away.
    expect(finding!.fixes.map((f) => f.label)).toEqual([
      expect.stringMatching(/^Veil behind it, just enough: about \d+ %$/),
    ]);
  });
  it('never rounds up to what it misses: 4.48 reads 4.4', () => {
    const small = words('x', {}, { colour: '#777777', size: 14 });
    const [finding] = find(withLayers(blank(), small), 'faint', { legibility: [standing(small, '#ffffff')] });
    expect(finding!.title).toContain('4.4, needs 4.5');
  });
  it('waits for the pixels rather than pass, and passes what stands out', () => {
    const waiting = judge(withLayers(blank(), photo(), grey));
    expect(waiting.waiting).toBe(true);
    expect(waiting.passed.join()).not.toContain('stand out');
    const done = judge(withLayers(blank(), photo(), grey), { legibility: [standing(grey, '#000000')] });
    expect(done.waiting).toBe(false);
    expect(done.passed.join()).toContain('stand out');
  });
});

describe('outside', () => {
  it('a block of two thousand letters reaches as far out as its furthest point, however it lies', () => {
    const r = random(21);
    const said = 'The shelf nearest the burner came out a shade greener than the rest, ';
    for (let i = 0; i < 12; i++) {
      const layer = words(
        said.repeat(30),
        {
          place: { x: 470 + (r() - 0.5) * 900, y: (r() - 0.5) * 300 },
          sizing: { kind: 'wrap', width: 200 + r() * 500 },
          turn: i % 3 ? 0 : (r() - 0.5) * 120,
        },
        { size: 6 + r() * 8 },
      );
      const layout = layoutOf(layer, shaper);
      const about = middleOf(wordsExtent(layer, layout));
      let most = 0;
      for (const item of layout.items) {
        if (item.kind !== 'outline') continue;
        for (const { x, y } of polygonsOf(item.outline).flat()) {
          const p = turnedPoint({ x: item.x + x * item.scale, y: item.y + y * item.scale }, layer.turn, about);
          most = Math.max(most, -p.x, -p.y, p.x - 940, p.y - 198);
        }
      }
      const [finding] = find(withLayers(blank(), layer), 'outside');
      expect(finding?.title).toBe(
        most > 0.5 ? `“Title” reaches ${Math.max(1, Math.round(most))} px over the canvas’s edge` : undefined,
      );
    }
  });
  it('finds words over the edge by what is drawn, to the px, and moves them just inside', () => {
    const g = withLayers(blank(), words('Notes from the Wheel', { place: { x: 120, y: 60 } }));
    const [finding] = find(g, 'outside');
    expect(finding!.title).toMatch(/^“Title” reaches \d+ px over the canvas’s edge$/);
    const mended = applyEdit(g, finding!.fixes[0]!.edit);
    expect(find(mended, 'outside')).toEqual([]);
    const layer = mended.layers[0]!;
    // Moved to the right only, and no further than it takes.
    expect(layer.role === 'words' && layer.place.y).toBe(60);
  });
  it('makes words that are too wide smaller', () => {
    const g = withLayers(blank(), words('A very long title that no header of this width can hold', {}, { size: 80 }));
    const mended = applyEdit(g, find(g, 'outside')[0]!.fixes[0]!.edit);
    expect(find(mended, 'outside')).toEqual([]);
  });
  it('knows the round slot: what fits the square can still be cut', () => {
    const corner = words('Ottermill', { place: { x: 64, y: 100 } }, { size: 18 });
    const middle = words('Wren', { place: { x: 64, y: 54 } }, { size: 18 });
    expect(find(withLayers(blank('chat-avatar'), middle), 'outside')).toEqual([]);
    const g = withLayers(blank('chat-avatar'), corner);
    const [finding] = find(g, 'outside');
    expect(finding!.title).toContain('outside the round slot');
    expect(find(applyEdit(g, finding!.fixes[0]!.edit), 'outside')).toEqual([]);
  });
  it('judges a logo by what is to be seen of it, not by its empty corners', () => {
    const logo = photo({
      role: 'logo',
      opaque: false,
      natural: { width: 128, height: 128 },
      place: { mode: 'free', x: 0, y: 0, width: 128 },
    });
    const g = withLayers(blank('chat-avatar'), logo);
    expect(find(g, 'outside')).toHaveLength(1);
    const side = 128;
    const alpha = Uint8Array.from({ length: side * side }, (_, i) =>
      Math.hypot((i % side) + 0.5 - 64, Math.floor(i / side) + 0.5 - 64) < 62 ? 255 : 0,
    );
    const assets = new Map([[logo.asset, { silhouette: { width: side, height: side, alpha } }]]);
    expect(find(g, 'outside', { assets })).toEqual([]);
  });
  it('lets photos reach over the edge', () => {
    expect(find(withLayers(blank(), photo()), 'outside')).toEqual([]);
  });
});

describe('transparency', () => {
  it('finds a transparent canvas saved as JPEG, and saves it as PNG', () => {
    const own = blank('logo');
    const g = applyEdit(own, { type: 'set-export', frame: 'main', choices: { format: 'jpeg' } });
    const [finding] = find(withLayers(g, words('O')), 'transparency');
    expect(finding!.title).toBe('JPEG cannot keep the transparent canvas');
    expect(frameOf(applyEdit(g, finding!.fixes[0]!.edit)).export.format).toBe('png');
    expect(find(blank('logo'), 'transparency')).toEqual([]);
    expect(find({ ...g, backdrop: { kind: 'colour', colour: '#ffffff' } }, 'transparency')).toEqual([]);
  });
});

describe('makeable', () => {
  it('says so where no file of the slot’s pixels can be made, in figures', () => {
    const at = (width: number, height: number, density: Graphic['frames'][0]['slot']['densities'][0]) => {
      const g = blank();
      const [frame] = g.frames as [(typeof g.frames)[0]];
      return {
        ...g,
        frames: [
          { ...frame, slot: { ...frame.slot, width, height, densities: [density] as typeof frame.slot.densities } },
        ],
      };
    };
    expect(find(at(8192, 8192, 3), 'makeable')[0]).toMatchObject({
      group: 'before',
      detail: expect.stringContaining('24576 × 24576 px') as string,
    });
    expect(find(at(8192, 8192, 1), 'makeable')).toEqual([]);
    expect(find(at(5400, 100, 3), 'makeable')).toHaveLength(1);
    expect(find(at(5300, 100, 3), 'makeable')).toEqual([]);
  });
});

describe('undescribed', () => {
  it('notes the absence (WCAG 2.2, 1.1.1) and proposes what the words say, and nothing that files or layers are called', () => {
    const g = withLayers(
      blank(),
      photo({ name: 'Drying shelf' }),
      photo({ id: 'q', name: 'IMG_20261101' }),
      words('Notes\nfrom the Wheel'),
    );
    const [finding] = find(g, 'undescribed');
    expect(finding).toMatchObject({ group: 'time', detail: 'Suggested: “Notes from the Wheel”' });
    const described = applyEdit(g, finding!.fixes[0]!.edit);
    expect(find(described, 'undescribed')).toEqual([]);
    expect(find(withLayers(blank(), photo()), 'undescribed')[0]).toMatchObject({ fixes: [] });
  });
  it('says so when words or photo changed since it was written, until it is said again', () => {
    const g = withLayers(blank(), photo(), words('Open on Saturdays'));
    const described = applyEdit(g, {
      type: 'set-export',
      frame: 'main',
      choices: { alt: 'A shelf of pots. Open on Saturdays.' },
    });
    expect(find(described, 'undescribed')).toEqual([]);
    // What neither shows nor says anything else makes nothing stale.
    const [shelf, title] = described.layers;
    const moved = { ...title!, name: 'Other', locked: true } as typeof title & object;
    expect(find(applyEdit(described, { type: 'replace-layer', layer: moved }), 'undescribed')).toEqual([]);
    for (const layer of [
      { ...shelf!, asset: 'b'.repeat(64) } as typeof shelf & object,
      words('Closed', { id: title!.id }),
    ]) {
      const stale = applyEdit(described, { type: 'replace-layer', layer });
      const [finding] = find(stale, 'undescribed');
      expect(finding!.title).toBe('The description is of an earlier state');
      expect(finding!.fixes.length).toBeGreaterThan(0);
      for (const { edit } of finding!.fixes) expect(find(applyEdit(stale, edit), 'undescribed')).toEqual([]);
    }
  });
});
