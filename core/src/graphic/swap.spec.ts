import { contains } from '../geometry/box';
import { blank, committed, photo, random, slotOf, withLayers, words } from '../testing/samples';
import { applyEdit, type Edit } from './edit';
import { adaptToSlot } from './adapt-to-slot';
import { current, startHistory, undo } from './history';
import type { Graphic, PictureLayer } from './graphic';
import { canvasPoint, mirroredPoint, pictureGeometry, placedBox } from './picture-geometry';
import { bySuit, meeting, movedSeam, partAsLayer, seamsOf, suitOf, swapped, withFocus, type Replacement } from './swap';

const canvas = { width: 940, height: 198 };
const tall: Replacement = {
  asset: 'c'.repeat(64),
  name: 'The drying rack',
  natural: { width: 2400, height: 3600 },
  opaque: true,
  vector: false,
  focus: { x: 0.5, y: 0.25 },
};
const focusOn = (layer: PictureLayer, size = canvas) => {
  const { image } = pictureGeometry(layer, size);
  const f = mirroredPoint(layer.focus, layer.flip);
  return { x: image.x + f.x * image.width, y: image.y + f.y * image.height };
};

describe('swapping a photo', () => {
  it('keeps everything but the photo, and names the layer after it', () => {
    const layer = photo({
      look: { brightness: 0.8, contrast: 1.1, saturation: 0, warmth: 0, sharpening: 0.2 },
      fades: [{ kind: 'side', side: 'left', length: 0.4 }],
      opacity: 0.9,
    });
    const now = swapped(layer, tall, canvas);
    expect(now).toMatchObject({ look: layer.look, fades: layer.fades, opacity: 0.9, id: layer.id, name: tall.name });
    expect(now.place.mode).toBe('cover');
  });

  it('brings the new focus to where the old one stood', () => {
    const layer = photo({ focus: { x: 0.5, y: 0.3 }, place: { mode: 'cover', focus: { x: 0.5, y: 0.35 }, zoom: 1.2 } });
    const before = focusOn(layer);
    const after = focusOn(swapped(layer, tall, canvas));
    expect(after.y).toBeCloseTo(before.y);
    expect(contains(pictureGeometry(swapped(layer, tall, canvas), canvas).image, { x: 0, y: 0, ...canvas }, 1e-6)).toBe(
      true,
    );
  });

  it('fills a frame of any shape, turned or mirrored, to the last px', () => {
    const r = random(11);
    for (let i = 0; i < 100; i++) {
      const layer = photo({
        turn: Math.round(r() * 100) - 50,
        flip: { across: r() < 0.5, down: r() < 0.5 },
        place: { mode: 'free', x: r() * 300, y: r() * 100, width: 50 + r() * 300 },
        crop: { x: 100, y: 100, width: 200 + r() * 2000, height: 200 + r() * 1500 },
        focus: { x: r(), y: r() },
      });
      const now = swapped(layer, { ...tall, focus: { x: r(), y: r() } }, canvas);
      const { image, shown } = pictureGeometry(now, canvas);
      expect(contains(image, shown, 1e-6)).toBe(true);
      const [a, b] = [placedBox(layer, canvas), placedBox(now, canvas)];
      for (const k of ['x', 'y', 'width', 'height'] as const) expect(b[k]).toBeCloseTo(a[k], 4);
    }
  });

  it('what is shown whole goes on being shown whole', () => {
    expect(swapped(photo({ place: { mode: 'contain' } }), tall, canvas)).toMatchObject({
      place: { mode: 'contain' },
      crop: null,
    });
  });

  it('a logo keeps to its box in proportion; a mask made for the old picture goes', () => {
    const logo = photo({
      role: 'logo',
      natural: { width: 300, height: 100 },
      place: { mode: 'free', x: 10, y: 10, width: 300 },
      cutout: { kind: 'subject', box: { x: 0, y: 0, width: 9, height: 9 }, strokes: [], mask: 'd'.repeat(64), soft: 0 },
    });
    const now = swapped(logo, { ...tall, natural: { width: 100, height: 100 } }, canvas);
    expect(placedBox(now, canvas)).toEqual({ x: 110, y: 10, width: 100, height: 100 });
    expect(now.cutout).toBeNull();
  });
});

describe('focus', () => {
  it('moves a covering photo, and only marks a free one', () => {
    expect(withFocus(photo(), { x: 0.2, y: 0.9 }).place).toMatchObject({ focus: { x: 0.2, y: 0.9 } });
    const free = photo({ place: { mode: 'free', x: 0, y: 0, width: 10 } });
    expect(withFocus(free, { x: 0.2, y: 0.9 }).place).toEqual(free.place);
  });

  it('stays in sight when the slot becomes another', () => {
    const layer = photo({ focus: { x: 0.5, y: 0.15 }, place: { mode: 'cover', focus: { x: 0.5, y: 0.7 }, zoom: 1 } });
    const graphic = withLayers(blank('link-card'), layer);
    const now = adaptToSlot(graphic, 'main', slotOf('profile-banner'));
    const moved = now.layers[0] as PictureLayer;
    const p = focusOn(moved, now.canvas);
    expect(p.y).toBeGreaterThan(0);
    expect(p.y).toBeLessThan(now.canvas.height);
  });
});

describe('which photo suits', () => {
  const about = { focus: { x: 0.5, y: 0.5 }, subject: { x: 0.4, y: 0.3, width: 0.2, height: 0.4 } };
  const frame = { width: 1584, height: 396 };

  it('says what part would show, how much of the subject, and whether the pixels suffice', () => {
    const suit = suitOf({ natural: { width: 3168, height: 2000 }, ...about }, frame);
    expect(suit.part).toEqual({ x: 0, y: 604, width: 3168, height: 792 });
    // The subject is 800 px high, of which 792 are in sight.
    expect(suit.kept).toBeCloseTo(0.99);
    expect(suit.scale).toBe(0.5);
  });

  it('puts those first that are large enough, then those whose subject survives', () => {
    const list = [
      { name: 'small', suit: suitOf({ natural: { width: 800, height: 600 }, ...about }, frame) },
      { name: 'tall', suit: suitOf({ natural: { width: 2400, height: 3600 }, ...about }, frame) },
      { name: 'wide', suit: suitOf({ natural: { width: 6000, height: 1500 }, ...about }, frame) },
    ];
    expect(bySuit(list).map((l) => l.name)).toEqual(['wide', 'tall', 'small']);
  });

  it('prefers what is calm where words stand', () => {
    const busy = (left: number, right: number) => ({ across: 2, down: 1, parts: [left, right] });
    const at = (map: ReturnType<typeof busy>) =>
      suitOf({ natural: { width: 1584, height: 396 }, ...about, busy: map }, frame, [
        { x: 0.05, y: 0.2, width: 0.4, height: 0.5 },
      ]);
    const list = [
      { name: 'busy there', suit: at(busy(0.09, 0.01)) },
      { name: 'busy elsewhere', suit: at(busy(0.01, 0.09)) },
    ];
    expect(list.map((l) => Math.round(l.suit.busy! * 100))).toEqual([9, 1]);
    expect(bySuit(list)[0]!.name).toBe('busy elsewhere');
  });
});

describe('pictures that meet', () => {
  const [wall, table] = [photo({ id: 'wall' }), photo({ id: 'table', natural: { width: 2000, height: 2000 } })];

  it('fill the canvas between them, and the line can be moved and moved back', () => {
    const pair = meeting({ before: wall, after: table }, 'y', 120, canvas);
    expect(placedBox(pair.before, canvas)).toEqual({ x: 0, y: 0, width: 940, height: 120 });
    expect(placedBox(pair.after, canvas)).toEqual({ x: 0, y: 120, width: 940, height: 78 });
    expect(seamsOf([pair.before, pair.after], canvas)).toEqual([
      { axis: 'y', at: 120, before: 'wall', after: 'table' },
    ]);
    const moved = movedSeam(pair, 'y', 60, canvas);
    expect(placedBox(moved.before, canvas).height).toBeCloseTo(60);
    expect(placedBox(moved.after, canvas)).toMatchObject({ y: 60, height: 138 });
    expect(seamsOf([moved.before, moved.after], canvas)).toHaveLength(1);
  });

  it('side by side too, never bare, however far the line goes', () => {
    const pair = meeting({ before: wall, after: table }, 'x', 470, canvas);
    for (const at of [-100, 30, 900, 5000]) {
      const moved = movedSeam(pair, 'x', at, canvas);
      for (const l of [moved.before, moved.after]) {
        const { image, shown } = pictureGeometry(l, canvas);
        expect(contains(image, shown, 1e-6)).toBe(true);
      }
      const [a, b] = [placedBox(moved.before, canvas), placedBox(moved.after, canvas)];
      expect(a.x + a.width).toBeCloseTo(b.x);
      expect(a.x).toBeCloseTo(0);
      expect(b.x + b.width).toBeCloseTo(940);
    }
  });

  it('are told from pictures that only touch at a corner, or are locked', () => {
    const at = (id: string, x: number, y: number, own = {}) =>
      photo({ id, natural: { width: 100, height: 100 }, place: { mode: 'free', x, y, width: 100 }, ...own });
    expect(seamsOf([at('a', 0, 0), at('b', 95, 100)], canvas)).toEqual([]);
    expect(seamsOf([at('a', 0, 0), at('b', 0, 100, { locked: true })], canvas)).toEqual([]);
  });
});

it('a part as a layer lies where that part lay, mirrored and turned alike', () => {
  const layer = photo({
    turn: 15,
    flip: { across: true, down: false },
    natural: { width: 700, height: 400 },
    place: { mode: 'free', x: 100, y: 20, width: 350 },
  });
  const part = { x: 50, y: 100, width: 200, height: 100 };
  const own = partAsLayer(layer, part, canvas);
  for (const p of [
    { x: 50, y: 100 },
    { x: 250, y: 200 },
  ]) {
    const [a, b] = [canvasPoint(layer, canvas, p), canvasPoint(own, canvas, p)];
    expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(1e-6);
  }
  expect(placedBox(own, canvas).width).toBeCloseTo(100);
});

describe('many edits', () => {
  it('together are one step', () => {
    const graphic = withLayers(blank(), photo());
    const edit: Edit = {
      type: 'together',
      name: 'Two things',
      edits: [
        { type: 'remove-layer', id: 'p' },
        { type: 'add-layer', layer: words('Later') },
      ],
    };
    expect(applyEdit(graphic, edit).layers.map((l) => l.id)).toEqual(['w']);
  });

  it('200 random ones, undone, give the first state byte for byte', () => {
    const r = random(42);
    const start = withLayers(
      blank(),
      photo(),
      photo({ id: 'q', role: 'logo', place: { mode: 'free', x: 9, y: 9, width: 90 } }),
      words('Notes'),
    );
    let history = startHistory(start, 'start', 0);
    const first = JSON.stringify(start);
    const pick = <T>(list: readonly T[]) => list[Math.floor(r() * list.length)]!;
    for (let i = 0; i < 200; i++) {
      const now: Graphic = current(history);
      const pictures = now.layers.filter((l): l is PictureLayer => l.role !== 'words');
      const layer = pictures.length ? pick(pictures) : null;
      const changes: Partial<PictureLayer>[] = [
        { turn: Math.round(r() * 90) },
        { opacity: r() },
        { flip: { across: r() < 0.5, down: r() < 0.5 } },
        { crop: { x: 1, y: 1, width: 10 + r() * 100, height: 10 + r() * 100 } },
        { shadow: { distance: r() * 9, angle: 45, blur: 8, colour: '#000000', strength: r() } },
        { fades: [{ kind: 'side', side: 'top', length: 0.1 + r() * 0.8 }] },
        { corners: { kind: 'round' } },
        { cutout: { kind: 'flat', where: 'border', colour: null, tolerance: r() * 20, soft: 0 } },
        { beyond: { style: 'gradient' } },
        { tint: { kind: 'one', colour: '#1f6f5c' } },
      ];
      const edit: Edit =
        layer && r() < 0.85
          ? { type: 'replace-layer', name: `edit ${i}`, layer: { ...layer, ...pick(changes) } }
          : pick<Edit>([
              { type: 'add-layer', name: `edit ${i}`, layer: photo({ id: `n${i}` }) },
              { type: 'set-backdrop', name: `edit ${i}`, backdrop: { kind: 'colour', colour: '#102030' } },
              { type: 'rename', name: `edit ${i}`, to: `Name ${i}` },
            ]);
      history = committed(history, edit, `s${i}`, i + 1);
    }
    expect(JSON.stringify(current(history))).not.toBe(first);
    while (history.head !== 'start') history = undo(history);
    expect(JSON.stringify(current(history))).toBe(first);
  });
});
