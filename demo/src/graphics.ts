import {
  lineStretch,
  newGraphic,
  newWords,
  withLook,
  withRuns,
  type DemoGraphic,
  type DemoLaidOut,
  type DemoPicture,
  type LayoutLook,
  type WordsLayer,
} from '@bright-slot/core';
import { potterySlots } from './slots';

/** A photograph of the shelf, covering the canvas unless said otherwise. */
const photo = (picture: string, name: string, own: DemoPicture['own']): DemoPicture => ({
  picture,
  name,
  role: 'photo',
  own,
});
/** A cut-out of the shelf, at a place of its own. */
const thing = (picture: string, name: string, x: number, y: number, width: number, own = {}): DemoPicture => ({
  picture,
  name,
  role: 'logo',
  own: { place: { mode: 'free', x, y, width }, ...own },
});
const cover = (x: number, y: number, zoom = 1) => ({ place: { mode: 'cover', focus: { x, y }, zoom } });
const ground = (colour: string) => ({ kind: 'colour', colour }) as const;
const bare = { kind: 'none' } as const;

const lora = { family: 'Lora', weight: 600, italic: false };
const plain = { family: 'Public Sans', weight: 600, italic: false };

/** Words with their place and look set: `x` and `y` of the anchor, as the alignment has it. */
function title(
  slot: string,
  text: string,
  own: { name: string; x: number; y: number; align?: 'left' | 'centre' | 'right' },
  run: Parameters<typeof withRuns>[1],
): WordsLayer {
  const { name, x, y, align = 'left' } = own;
  const base = newGraphic({ id: 'demo', name, created: '', slot: potterySlots.find((s) => s.id === slot)! });
  const styled = withRuns(newWords(base, text, name.toLowerCase()), run);
  return { ...styled, name, place: { x, y }, paragraphs: styled.paragraphs.map((p) => ({ ...p, align })) };
}
/** The same, all lines after the first in another look. */
const twoLooks = (words: WordsLayer, look: Parameters<typeof withLook>[1]) => withLook(words, look, lineStretch(words, 1));

/** The pottery's type and colours for layouts, one of them leading. */
const look = (leading: string): LayoutLook => ({
  ink: '#2b211b',
  paper: '#f7ecd7',
  leading,
  colours: [leading, ...['#6b3a22', '#c98a4b', '#35574a', '#4a5f6e'].filter((c) => c !== leading)],
  heading: lora,
  body: { family: 'Public Sans', weight: 500, italic: false },
});
const clay = '#6b3a22';
const sage = '#35574a';
const slate = '#3d5363';

/** The pottery's graphics, the oldest first: those in which something is to be mended, then the finished ones. */
export const graphics: readonly (DemoGraphic | DemoLaidOut)[] = [
  {
    id: 'demo-tuesday-wheel',
    name: 'Tuesday wheel, to mend',
    slot: 'chat-avatar',
    alt: 'Ottermill Pottery: a mug',
    backdrop: ground('#f4e7cb'),
    layers: [
      thing('cutout-mug.png', 'Mug', 28, 12, 72),
      // Typed in a corner of the square, and the page cuts it round.
      title(
        'chat-avatar',
        'Ottermill',
        { name: 'Name', x: 64, y: 100, align: 'centre' },
        { size: 21, colour: '#6b3a22', face: lora },
      ),
    ],
  },
  {
    id: 'demo-wren',
    name: 'Wren’s banner, to mend',
    slot: 'profile-banner',
    alt: '',
    backdrop: bare,
    // The only file left of it is smaller than the place it goes to.
    layers: [photo('old-header.jpg', 'Old header', cover(0.5, 0.72, 1.1))],
  },
  {
    id: 'demo-evening-classes',
    name: 'Evening classes, to mend',
    slot: 'form-header',
    alt: 'Hands and a bowl on the wheel: throw your first bowl',
    backdrop: bare,
    layers: [
      // Pulled a little to the left, as happens: the right edge is uncovered.
      photo('wheel.jpg', 'A bowl on the wheel', { place: { mode: 'free', x: -24, y: -320, width: 1612 } }),
      title(
        'form-header',
        'Throw\nyour first\nbowl',
        { name: 'Title', x: 60, y: 90 },
        { size: 62, colour: '#ffffff' },
      ),
    ],
  },
  {
    id: 'demo-autumn-glazes',
    name: 'Autumn glazes, to mend',
    slot: 'blog-header',
    alt: '',
    backdrop: bare,
    layers: [
      photo('shelf.jpg', 'Drying shelf', cover(0.5, 0.3)),
      // A glaze's own brown, chosen with more love than light.
      title(
        'blog-header',
        'Notes from the Wheel',
        { name: 'Title', x: 470, y: 22, align: 'centre' },
        { size: 52, colour: '#8a5a3a' },
      ),
      title(
        'blog-header',
        'a diary from the mill',
        { name: 'Line', x: 470, y: 84, align: 'centre' },
        { size: 24, colour: '#2a211a', face: plain },
      ),
    ],
  },
  {
    id: 'demo-shelves',
    name: 'Shelves at the mill',
    slot: 'profile-banner',
    alt: 'Two long shelves of jugs, bowls and mugs in every glaze of the mill',
    backdrop: bare,
    layers: [photo('pano.jpg', 'All the shelves', cover(0.5, 0.42))],
  },
  {
    id: 'demo-blue-bowl',
    name: 'Mug on sage',
    slot: 'chat-avatar',
    alt: 'A honey-coloured mug',
    backdrop: ground('#35574a'),
    layers: [
      thing('cutout-mug.png', 'Mug', 24, 25, 84, {
        shadow: { distance: 4, angle: 90, blur: 10, colour: '#0d1a15', strength: 0.55 },
      }),
    ],
  },
  {
    id: 'demo-shop-sign',
    name: 'Shop sign',
    slot: 'slim-header',
    alt: 'Stoneware for the table: thrown, glazed and fired by the water. A jug and bowls',
    backdrop: ground('#f4e7cb'),
    layers: [
      thing('cutout-jug-tall.png', 'Tall jug', 826, 8, 42),
      thing('cutout-bowls.png', 'Bowls', 868, 30, 62),
      twoLooks(
        title(
          'slim-header',
          'Stoneware for the table\nthrown, glazed and fired by the water',
          { name: 'Title', x: 34, y: 12 },
          { size: 36, colour: '#4a2617', face: lora },
        ),
        { size: 24, face: plain, colour: '#3d4f47' },
      ),
    ],
  },
  {
    id: 'demo-tile-shop',
    name: 'Shop tile',
    slot: 'menu-tile',
    alt: 'Shop: jugs on a window sill',
    layout: 'arch',
    photo: { file: 'sill.jpg', name: 'Jugs on the sill' },
    title: 'Shop',
    line: '',
    note: '',
    look: look(sage),
  },
  {
    id: 'demo-tile-classes',
    name: 'Classes tile',
    slot: 'menu-tile',
    alt: 'Classes: a bowl on the wheel',
    layout: 'arch',
    photo: { file: 'wheel.jpg', name: 'A bowl on the wheel' },
    title: 'Classes',
    line: '',
    note: '',
    look: look(clay),
  },
  {
    id: 'demo-tile-journal',
    name: 'Journal tile',
    slot: 'menu-tile',
    alt: 'Journal: pots drying on a shelf',
    layout: 'arch',
    photo: { file: 'shelf.jpg', name: 'Drying shelf' },
    title: 'Journal',
    line: '',
    note: '',
    look: look(slate),
  },
  {
    id: 'demo-winter-market',
    name: 'Winter market',
    slot: 'page-cover',
    alt: 'Winter market, 12 and 13 December, at the mill. A grey-green jug on a clay-coloured table',
    layout: 'table',
    cutout: { file: 'cutout-jug.png', name: 'Jug' },
    title: 'Winter market',
    line: '12 and 13 December, at the mill',
    note: '',
    look: look(clay),
  },
  {
    id: 'demo-forty-glazes',
    name: 'Forty glazes',
    slot: 'profile-banner',
    alt: 'Forty glazes, one clay. Rows of glaze tests',
    layout: 'slant',
    photo: { file: 'tiles.jpg', name: 'Glaze tests' },
    title: 'Forty glazes, one clay',
    line: 'every tile fired at the mill',
    note: '',
    look: look(sage),
  },
  {
    id: 'demo-six-weeks',
    name: 'Six weeks at the wheel',
    slot: 'link-card',
    alt: 'Six weeks at the wheel, evening classes from 14 January. A stack of bowls',
    layout: 'disc',
    cutout: { file: 'cutout-bowls.png', name: 'Bowls' },
    title: 'Six weeks at the wheel',
    line: 'evening classes from 14 January',
    note: '',
    look: look(clay),
  },
  {
    id: 'demo-notes',
    name: 'Notes from the Wheel',
    slot: 'blog-header',
    alt: 'Pots drying on a shelf. Notes from the Wheel, a diary from the mill',
    backdrop: ground('#2b211b'),
    layers: [
      // The pots at the right, melting into the dark of the clay at the left.
      photo('shelf.jpg', 'Drying shelf', {
        look: { brightness: 0.92 },
        fades: [{ kind: 'side', side: 'left', length: 0.42 }],
        crop: { x: 0, y: 640, width: 3500, height: 1090 },
        place: { mode: 'free', x: 304, y: 0, width: 636 },
      }),
      {
        ...title(
          'blog-header',
          'Notes from\nthe Wheel',
          { name: 'Title', x: 44, y: 24 },
          { size: 54, colour: '#f7e9cd', face: lora },
        ),
        lineSpacing: 1.08,
      },
      title(
        'blog-header',
        'a diary from the mill',
        { name: 'Line', x: 46, y: 148 },
        { size: 24, colour: '#e6cfa4', face: plain },
      ),
    ],
  },
  {
    id: 'demo-kiln-opening',
    name: 'Kiln opening',
    slot: 'page-cover',
    alt: 'A glowing kiln at night. Kiln opening, Saturday at four',
    backdrop: bare,
    layers: [
      // On the dark bricks beside the glow, clear of the page's portrait.
      photo('kiln.jpg', 'Kiln at night', cover(0.5, 0.42)),
      twoLooks(
        title(
          'page-cover',
          'Kiln opening\nSaturday at four',
          { name: 'Title', x: 150, y: 92 },
          { size: 30, colour: '#ffe9c2', face: lora },
        ),
        { size: 21, face: plain, colour: '#ffffff' },
      ),
    ],
  },
  {
    id: 'demo-new-jugs',
    name: 'New jugs',
    slot: 'link-card',
    alt: 'Three stoneware jugs on a window sill. New jugs, from Friday',
    backdrop: bare,
    layers: [
      // As much of the bright window above the jugs as there is, for the words.
      photo('sill.jpg', 'Jugs on the sill', cover(0.5, 0)),
      title(
        'link-card',
        'New jugs, from Friday',
        { name: 'Title', x: 600, y: 62, align: 'centre' },
        { size: 92, colour: '#10171a', face: lora },
      ),
    ],
  },
];
