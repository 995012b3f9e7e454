import { checkGraphic } from '../graphic/check';
import type { LayoutContents, PlacedPicture } from '../graphic/contents';
import { isPicture, layerOf, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { pictureGeometry, stretchOf } from '../graphic/picture-geometry';
import type { Source } from '../compose/compose';
import { proposedRoles } from '../compose/roles';
import { leastType } from '../compose/slot-room';
import { blank, photo, random, shape, slotOf, veil, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { layoutOf, wordsBounds } from '../words/layout';
import { firstRun, textOf } from '../words/words';
import { withContents } from './own';

const shaper = await realShaper();
const header = withLayers(
  blank(),
  photo({ crop: null }),
  veil(),
  shape({ id: 'frame' }),
  words('Notes from the Wheel', { id: 'title', place: { x: 470, y: 40 } }),
  words('a diary from the mill', { id: 'line', name: 'Line', place: { x: 470, y: 120 } }, { size: 22 }),
);
const source: Source = { graphic: header, roles: proposedRoles(header, shaper), subjects: new Map() };
const nothing: LayoutContents = { photo: null, cutout: null, logo: null, title: '', line: '', note: '' };
const picture: PlacedPicture = {
  asset: 'd'.repeat(64),
  name: 'Kiln',
  natural: { width: 1200, height: 3000 },
  opaque: true,
  vector: false,
  focus: { x: 0.4, y: 0.7 },
  subject: { x: 0.3, y: 0.6, width: 0.2, height: 0.2 },
};
const bounds = (l: WordsLayer) => wordsBounds(l, layoutOf(l, shaper));
const titleIn = (s: Source) => layerOf(s.graphic, 'title') as WordsLayer;

describe('a graphic of one’s own as a layout', () => {
  it('stays as it is where nothing is put in', () => {
    expect(withContents(source, nothing, shaper).graphic).toEqual(header);
  });
  it('takes a photo and words, and keeps the rest', () => {
    const next = withContents(source, { ...nothing, photo: picture, title: 'Kiln opening' }, shaper);
    for (const id of ['v', 'frame', 'line']) expect(layerOf(next.graphic, id)).toBe(layerOf(header, id));
    const put = next.graphic.layers.find(isPicture) as PictureLayer;
    expect(put.asset).toBe(picture.asset);
    expect(stretchOf(put.place)).toBe(1);
    const { shown } = pictureGeometry(put, header.canvas);
    expect(shown.x <= 0 && shown.y <= 0 && shown.x + shown.width >= 940 && shown.y + shown.height >= 198).toBe(true);
    expect(next.subjects.get('p')).toEqual(picture.subject);
    expect(textOf(titleIn(next))).toBe('Kiln opening');
    expect(firstRun(titleIn(next)).size).toBe(firstRun(titleIn(source)).size);
  });
  it('has longer words smaller, never wider than those they replace unless they could not be read, at the same edge', () => {
    const seed = 1130;
    const r = random(seed);
    const least = leastType(slotOf('blog-header'));
    const texts = [
      'A',
      'Sale',
      'Notes from the Wheel and the mill stream',
      'Ö'.repeat(60),
      'New jugs\nfrom Friday',
      '陶器',
    ];
    for (let i = 0; i < 60; i++) {
      const align = (['left', 'centre', 'right'] as const)[Math.floor(r() * 3)]!;
      const was = titleIn(source);
      const own = { ...was, paragraphs: was.paragraphs.map((p) => ({ ...p, align })) };
      const from = {
        ...source,
        graphic: { ...header, layers: header.layers.map((l) => (l.id === 'title' ? own : l)) },
      };
      const text = texts[Math.floor(r() * texts.length)]!;
      const next = withContents(from, { ...nothing, title: text }, shaper);
      expect(checkGraphic(next.graphic)).toMatchObject({ ok: true });
      const [a, b] = [bounds(own), bounds(titleIn(next))];
      const size = firstRun(titleIn(next)).size;
      if (size > least + 0.01 && b.width > a.width + 0.5)
        throw new Error(`seed ${seed}, case ${i}: “${text}” is ${b.width} wide, was ${a.width}`);
      const edge = { left: 0, centre: 0.5, right: 1 }[align];
      expect(b.x + b.width * edge).toBeCloseTo(a.x + a.width * edge, 1);
      expect(b.y + b.height / 2).toBeCloseTo(a.y + a.height / 2, 1);
    }
  });
});
