import { Graphic, GRAPHIC_VERSION, type Layer, type WordsLayer } from './graphic';
import { applyEdit } from './edit';
import { checkGraphic } from './check';
import { clipOf, clipText, pastedLayers, readClip } from './clip';
import { layerBounds } from './shape-geometry';
import { intersection } from '../geometry/box';
import { anyLayers } from '../testing/any';
import { blank, photo, random, shape, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';

const shaper = await realShaper();
const ids = () => {
  let n = 0;
  return () => `new${n++}`;
};
const paste = (text: string, into: Graphic) => {
  const read = readClip(text);
  if (!read.ok) throw new Error(read.problem.message);
  return pastedLayers(read.value, into, shaper, ids());
};

describe('layers on the clipboard', () => {
  it('come back as they were, under other ids, set off from what they are copies of', () => {
    const g = withLayers(blank(), photo(), words('Autumn'), shape());
    const [w, s] = paste(clipOf(g, g.layers.slice(1)), g);
    expect(w).toMatchObject({ role: 'words', name: 'Title, copy', place: { x: 482, y: 72 } });
    expect(s).toMatchObject({ id: 'new1', place: { mode: 'box', box: { x: 112, y: 52 } } });
  });

  it('are set off further each time', () => {
    let g = withLayers(blank(), shape());
    const text = clipOf(g, g.layers);
    const seen = new Set<string>();
    for (let i = 0; i < 6; i++) {
      const read = readClip(text);
      if (!read.ok) throw new Error('not read');
      const layers = pastedLayers(read.value, g, shaper, () => `copy${i}`);
      g = applyEdit(g, { type: 'add-layers', layers });
      seen.add(JSON.stringify((layers[0] as ReturnType<typeof shape>).place));
    }
    expect(seen.size).toBe(6);
  });

  it('keep following one another, and nothing that is not there', () => {
    const note = shape({
      id: 'n',
      place: { mode: 'around', words: 'w', across: 8, down: 4, last: { x: 5, y: 6, width: 70, height: 20 } },
    });
    const g = withLayers(blank(), words('Autumn'), note, veil({ words: ['w'] }));
    const [w, n, v] = paste(clipOf(g, g.layers), blank('chat-avatar'));
    expect(n).toMatchObject({ place: { mode: 'around', words: w!.id } });
    expect(v).toMatchObject({ words: [w!.id] });
    const [alone] = paste(clipOf(g, [note]), blank());
    expect(alone).toMatchObject({ place: { mode: 'box' } });
    expect(paste(clipOf(g, [g.layers[2]!]), blank())[0]).toMatchObject({ words: [] });
  });

  it('are groups of their own', () => {
    const group = { id: 'G', name: 'Badge' };
    const g = withLayers(blank(), shape({ id: 'a', group }), shape({ id: 'b', group }));
    const [a, b] = paste(clipOf(g, g.layers), g);
    expect(a!.group).toEqual(b!.group);
    expect(a!.group!.id).not.toBe('G');
  });

  it('of a part of a group stay of it beside what they are copies of, and are of none elsewhere', () => {
    const group = { id: 'G', name: 'Badge' };
    const g = withLayers(blank(), ...['a', 'b', 'c'].map((id) => shape({ id, group })));
    const layers = paste(clipOf(g, [g.layers[1]!]), g);
    const beside = applyEdit(g, { type: 'add-layers', layers, at: 2 });
    expect(beside.layers.map((l) => l.group?.id)).toEqual(['G', 'G', 'G', 'G']);
    const apart = applyEdit({ ...g, layers: [...g.layers, shape({ id: 'x' })] }, { type: 'add-layers', layers });
    expect(apart.layers.map((l) => l.group?.id)).toEqual(['G', 'G', 'G', undefined, undefined]);
  });

  it('say their words to other programs', () => {
    expect(clipText([words('Autumn\nglazes'), shape(), words('a diary')])).toBe('Autumn\nglazes\na diary');
    expect(clipText([shape(), photo()])).toBe('Rectangle\nShelf');
  });

  it('are on the canvas wherever they come from, and can be kept', () => {
    for (let seed = 900; seed < 1020; seed++) {
      const any = anyLayers(random(seed));
      const r = random(seed + 1);
      const from = withLayers(
        blank(),
        ...Array.from({ length: 1 + Math.floor(r() * 4) }, (_, i) => any.layer(`l${i}`)),
      );
      const into = blank(['blog-header', 'chat-avatar', 'link-card', 'menu-tile'][seed % 4]);
      const layers = paste(clipOf(from, from.layers), into);
      const g = applyEdit(into, { type: 'add-layers', layers });
      expect(checkGraphic(g).ok).toBe(true);
      const free = layers.filter((l) => !(l.role === 'veil' || (l.role === 'shape' && l.place.mode !== 'box')));
      const seen = free.some((l) => intersection(layerBounds(l, g, shaper), { x: 0, y: 0, ...g.canvas }));
      if (free.length && !seen) throw new Error(`nothing on the canvas, seed ${seed}`);
    }
  });
});

describe('what else lies on a clipboard', () => {
  it('is met with a word', () => {
    const hostile = [
      '',
      '{',
      'null',
      '[]',
      '{"kind":"layers"}',
      JSON.stringify({ kind: 'layers', version: 8, canvas: { width: 1e9, height: 5 }, layers: [1] }),
      JSON.stringify({ kind: 'layers', version: GRAPHIC_VERSION + 1, canvas: { width: 9, height: 5 }, layers: [{}] }),
      JSON.stringify({ kind: 'layers', version: 8, canvas: { width: 9, height: 5 }, layers: Array(501).fill({}) }),
      JSON.stringify({ kind: 'layers', version: 8, canvas: { width: 9, height: 5 }, layers: [{ role: 'words' }] }),
      '{"kind":"layers","version":8,"canvas":{"width":9,"height":5},"layers":[{"__proto__":{"x":1}}]}',
      `{"kind":"layers","version":8,"canvas":{"width":9,"height":5},"layers":${'['.repeat(5000)}${']'.repeat(5000)}}`,
      'x'.repeat(9_000_000),
    ];
    for (const text of hostile) {
      const read = readClip(text);
      expect(read.ok).toBe(false);
      if (!read.ok) expect(read.problem.message).toMatch(/\.$/);
    }
  });

  it('is left out where it is beside layers of ours, and counted', () => {
    const text = JSON.stringify({
      kind: 'layers',
      version: GRAPHIC_VERSION,
      canvas: blank().canvas,
      layers: [{ role: 'words' }, shape()],
    });
    expect(readClip(text)).toMatchObject({ ok: true, value: { passed: 1, layers: [{ id: 's' }] as Layer[] } });
  });

  it('of an earlier version is brought up to date', () => {
    const old: Partial<WordsLayer> = words('Autumn');
    delete old.paragraphSpacing;
    const text = JSON.stringify({ kind: 'layers', version: 4, canvas: blank().canvas, layers: [old] });
    expect(readClip(text)).toMatchObject({ ok: true, value: { layers: [{ role: 'words', paragraphSpacing: 0 }] } });
  });
});
