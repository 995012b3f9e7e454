import { lineStretch, withLook, withRuns, type Graphic, type Layer, type WordsLayer } from '@bright-slot/core';

export interface DemoMaterials {
  picture(file: string, graphic: Graphic, as?: 'photo' | 'logo'): Layer & { role: 'photo' | 'logo' };
  words(text: string, graphic: Graphic): Layer & { role: 'words' };
}

interface DemoGraphic {
  readonly id: string;
  readonly name: string;
  readonly slot: string;
  /** Files of the shelf it uses, and what their layers are called. */
  readonly pictures: Readonly<Record<string, string>>;
  make(base: Graphic, from: DemoMaterials): Graphic;
}

const add = (g: Graphic, ...layers: Layer[]): Graphic => ({ ...g, layers: [...g.layers, ...layers] });
const described = (g: Graphic, alt: string): Graphic => ({
  ...g,
  frames: g.frames.map((f) => ({ ...f, export: { ...f.export, alt } })),
});

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

/** The pottery's graphics, the oldest first: those in which something is to be mended, then the finished ones. */
export const demoGraphics: readonly DemoGraphic[] = [
  {
    id: 'demo-tuesday-wheel',
    name: 'Tuesday wheel, to mend',
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
    name: 'Wren’s banner, to mend',
    slot: 'profile-banner',
    pictures: { 'old-header.jpg': 'Old header' },
    make(base, from) {
      // The only file left of it is smaller than the place it goes to.
      const photo = from.picture('old-header.jpg', base, 'photo');
      return add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.72 }, zoom: 1.1 } });
    },
  },
  {
    id: 'demo-evening-classes',
    name: 'Evening classes, to mend',
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
    name: 'Autumn glazes, to mend',
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
  {
    id: 'demo-shelves',
    name: 'Shelves at the mill',
    slot: 'profile-banner',
    pictures: { 'pano.jpg': 'All the shelves' },
    make(base, from) {
      const photo = from.picture('pano.jpg', base);
      const g = add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.42 }, zoom: 1 } });
      return described(g, 'Two long shelves of jugs, bowls and mugs in every glaze of the mill');
    },
  },
  {
    id: 'demo-blue-bowl',
    name: 'Mug on sage',
    slot: 'chat-avatar',
    pictures: { 'cutout-mug.png': 'Mug' },
    make(base, from) {
      const ground: Graphic = { ...base, backdrop: { kind: 'colour', colour: '#35574a' } };
      const mug = from.picture('cutout-mug.png', ground, 'logo');
      const shadow = { distance: 4, angle: 90, blur: 10, colour: '#0d1a15', strength: 0.55 };
      const g = add(ground, { ...mug, shadow, place: { mode: 'free', x: 24, y: 25, width: 84 } });
      return described(g, 'A honey-coloured mug');
    },
  },
  {
    id: 'demo-shop-sign',
    name: 'Shop sign',
    slot: 'slim-header',
    pictures: { 'cutout-bowls.png': 'Bowls', 'cutout-jug-tall.png': 'Tall jug' },
    make(base, from) {
      const ground: Graphic = { ...base, backdrop: { kind: 'colour', colour: '#f4e7cb' } };
      const jug = from.picture('cutout-jug-tall.png', ground, 'logo');
      const bowls = from.picture('cutout-bowls.png', ground, 'logo');
      const g = add(
        ground,
        { ...jug, place: { mode: 'free', x: 826, y: 8, width: 42 } },
        { ...bowls, place: { mode: 'free', x: 868, y: 30, width: 62 } },
      );
      const words = title(
        from.words('Ottermill Pottery\nstoneware for the table, made by the water', g),
        { name: 'Title', x: 34, y: 16 },
        { size: 36, colour: '#4a2617', face: lora },
      );
      const looks = withLook(words, { size: 17, face: plain, colour: '#3d4f47' }, lineStretch(words, 1));
      return add(described(g, 'Ottermill Pottery: stoneware for the table, made by the water. A jug and bowls'), looks);
    },
  },
  {
    id: 'demo-notes',
    name: 'Notes from the Wheel',
    slot: 'blog-header',
    pictures: { 'shelf.jpg': 'Drying shelf' },
    make(base, from) {
      const ground: Graphic = { ...base, backdrop: { kind: 'colour', colour: '#2b211b' } };
      const photo = from.picture('shelf.jpg', ground);
      // The pots at the right, melting into the dark of the clay at the left.
      const g = add(ground, {
        ...photo,
        look: { ...photo.look, brightness: 0.92 },
        fades: [{ kind: 'side', side: 'left', length: 0.42 }],
        crop: { x: 0, y: 640, width: 3500, height: 1090 },
        place: { mode: 'free', x: 304, y: 0, width: 636 },
      });
      const words = title(
        from.words('Notes from\nthe Wheel', g),
        { name: 'Title', x: 44, y: 30 },
        { size: 54, colour: '#f7e9cd', face: lora },
      );
      const line = title(
        from.words('a diary from the mill', g),
        { name: 'Line', x: 46, y: 152 },
        { size: 19, colour: '#e6cfa4', face: plain },
      );
      return add(
        described(g, 'Pots drying on a shelf. Notes from the Wheel, a diary from the mill'),
        { ...words, lineSpacing: 1.08 },
        line,
      );
    },
  },
  {
    id: 'demo-kiln-opening',
    name: 'Kiln opening',
    slot: 'page-cover',
    pictures: { 'kiln.jpg': 'Kiln at night', 'ottermill.svg': 'Logo' },
    make(base, from) {
      const photo = from.picture('kiln.jpg', base);
      // On the dark bricks beside the glow, clear of the page's portrait.
      const g = add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.42 }, zoom: 1 } });
      const words = title(
        from.words('Kiln opening\nSaturday at four', g),
        { name: 'Title', x: 96, y: 92 },
        { size: 36, colour: '#ffe9c2', face: lora },
      );
      const looks = withLook(words, { size: 21, face: plain, colour: '#ffffff' }, lineStretch(words, 1));
      return add(described(g, 'A glowing kiln at night. Kiln opening, Saturday at four'), looks);
    },
  },
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
];
