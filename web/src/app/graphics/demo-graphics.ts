import { withRuns, type Graphic, type Layer } from '@bright-slot/core';
import type { DemoMaterials } from './demo.service';

interface DemoGraphic {
  readonly id: string;
  readonly name: string;
  readonly slot: string;
  readonly pictures: readonly string[];
  readonly titles: Readonly<Record<string, string>>;
  make(base: Graphic, from: DemoMaterials): Graphic;
}

const add = (g: Graphic, ...layers: Layer[]): Graphic => ({ ...g, layers: [...g.layers, ...layers] });

/** The pottery's graphics, finished and unfinished. */
export const demoGraphics: readonly DemoGraphic[] = [
  {
    id: 'demo-autumn-glazes',
    name: 'Autumn glazes',
    slot: 'blog-header',
    pictures: ['shelf.jpg'],
    titles: { 'shelf.jpg': 'Drying shelf' },
    make(base, from) {
      const photo = from.picture('shelf.jpg', base);
      const g = add(base, { ...photo, place: { mode: 'cover', focus: { x: 0.5, y: 0.62 }, zoom: 1 } });
      return add(g, { ...from.words('Notes from the Wheel', g), name: 'Title' });
    },
  },
  {
    id: 'demo-evening-classes',
    name: 'Evening classes',
    slot: 'form-header',
    pictures: ['wheel.jpg'],
    titles: { 'wheel.jpg': 'A bowl on the wheel' },
    make(base, from) {
      const photo = from.picture('wheel.jpg', base);
      // Pulled a little to the left, as happens: the right edge is bare.
      const g = add(base, { ...photo, place: { mode: 'free', x: -24, y: -320, width: 1612 } });
      const words = from.words('Throw your first bowl', g);
      return add(g, { ...withRuns(words, { size: 96 }), name: 'Title', place: { x: 800, y: 150 } });
    },
  },
];
