import { withRuns, type Graphic, type Layer, type WordsLayer } from '@bright-slot/core';
import type { DemoMaterials } from './demo.service';

interface DemoGraphic {
  readonly id: string;
  readonly name: string;
  readonly slot: string;
  /** Files of the shelf it uses, and what their layers are called. */
  readonly pictures: Readonly<Record<string, string>>;
  make(base: Graphic, from: DemoMaterials): Graphic;
}

const add = (g: Graphic, ...layers: Layer[]): Graphic => ({ ...g, layers: [...g.layers, ...layers] });
const described = (g: Graphic, alt: string): Graphic => ({ ...g, export: { ...g.export, alt } });

/** Words with their place and look set: `x` and `y` of the anchor, as the alignment has it. */
function title(
  words: WordsLayer,
  own: { name: string; x: number; y: number; align?: 'left' | 'centre' | 'right' },
  run: Parameters<typeof withRuns>[1],
): WordsLayer {
  const { name, x, y, align = 'left' } = own;
  const styled = withRuns(words, run);
  return { ...styled, name, place: { x, y }, paragraphs: styled.paragraphs.map((p) => ({ ...p, align })) };
}

const lora = { family: 'Lora', weight: 600, italic: false };
const plain = { family: 'Public Sans', weight: 600, italic: false };

/** The pottery's graphics, finished and unfinished; the oldest first. */
export const demoGraphics: readonly DemoGraphic[] = [
  {
    id: 'demo-new-jugs',
    name: 'New jugs',
    slot: 'link-card',
    pictures: { 'sill.jpg': 'Jugs on the sill' },
    make(base, from) {
      const photo = from.picture('sill.jpg', base);
      // As much of the bright window above the jugs as there is, for the words.
      const g = add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0 }, zoom: 1 } });
      const words = title(
        from.words('New jugs, from Friday', g),
        { name: 'Title', x: 600, y: 62, align: 'centre' },
        { size: 84, colour: '#10171a', face: lora },
      );
      return add(described(g, 'Three stoneware jugs on a window sill. New jugs, from Friday'), words);
    },
  },
  {
    id: 'demo-tuesday-wheel',
    name: 'Tuesday wheel',
    slot: 'chat-avatar',
    pictures: { 'cutout-mug.png': 'Mug' },
    make(base, from) {
      const ground: Graphic = { ...base, backdrop: { kind: 'colour', colour: '#f4e7cb' } };
      const mug = from.picture('cutout-mug.png', ground, 'logo');
      const g = add(ground, { ...mug, place: { mode: 'free', x: 28, y: 12, width: 72 } });
      // Typed in a corner of the square, and the page cuts it round.
      const words = title(
        from.words('Ottermill', g),
        { name: 'Name', x: 64, y: 100, align: 'centre' },
        { size: 21, colour: '#6b3a22', face: lora },
      );
      return add(described(g, 'Ottermill Pottery: a mug'), words);
    },
  },
  {
    id: 'demo-wren',
    name: 'Wren’s banner',
    slot: 'profile-banner',
    pictures: { 'old-header.jpg': 'Old header' },
    make(base, from) {
      // The only file left of it is smaller than the place it goes to.
      const photo = from.picture('old-header.jpg', base, 'photo');
      return add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.72 }, zoom: 1.1 } });
    },
  },
  {
    id: 'demo-kiln-opening',
    name: 'Kiln opening',
    slot: 'page-cover',
    pictures: { 'kiln.jpg': 'Kiln at night', 'ottermill.svg': 'Logo' },
    make(base, from) {
      const photo = from.picture('kiln.jpg', base);
      const g = add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.5 }, zoom: 1 } });
      const words = title(
        from.words('Kiln opening\nSaturday at four', g),
        { name: 'Title', x: 34, y: 178 },
        { size: 38, colour: '#ffffff', face: lora },
      );
      return add(described(g, 'A glowing kiln at night. Kiln opening, Saturday at four'), words);
    },
  },
  {
    id: 'demo-evening-classes',
    name: 'Evening classes',
    slot: 'form-header',
    pictures: { 'wheel.jpg': 'A bowl on the wheel' },
    make(base, from) {
      const photo = from.picture('wheel.jpg', base);
      // Pulled a little to the left, as happens: the right edge is bare.
      const g = add(base, { ...photo, place: { mode: 'free', x: -24, y: -320, width: 1612 } });
      const words = title(
        from.words('Throw\nyour first\nbowl', g),
        { name: 'Title', x: 60, y: 90 },
        { size: 62, colour: '#ffffff' },
      );
      return add(described(g, 'Hands and a bowl on the wheel: throw your first bowl'), words);
    },
  },
  {
    id: 'demo-autumn-glazes',
    name: 'Autumn glazes',
    slot: 'blog-header',
    pictures: { 'shelf.jpg': 'Drying shelf' },
    make(base, from) {
      const photo = from.picture('shelf.jpg', base);
      const g = add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.3 }, zoom: 1 } });
      // A glaze's own brown, chosen with more love than light.
      const name = title(
        from.words('Notes from the Wheel', g),
        { name: 'Title', x: 470, y: 22, align: 'centre' },
        { size: 52, colour: '#8a5a3a' },
      );
      const line = title(
        from.words('a diary from the mill', g),
        { name: 'Line', x: 470, y: 84, align: 'centre' },
        { size: 24, colour: '#2a211a', face: plain },
      );
      return add(g, name, line);
    },
  },
];
