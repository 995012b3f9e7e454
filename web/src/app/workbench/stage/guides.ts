import Konva from 'konva';
import type { Distance, Guide } from '@bright-slot/core';
import type { View } from './canvas-handles';

const INK = '#1f2a30';
const SPRUCE = '#1f6f5c';

const figure = (n: number) => String(Math.round(n * 10) / 10);

/** The lines along which something has met something else, and the distances there, drawn over the canvas. */
export class Guides {
  private readonly group = new Konva.Group({ listening: false });

  constructor(layer: Konva.Layer) {
    layer.add(this.group);
  }

  clear(): void {
    this.group.destroyChildren();
  }

  show(view: View, guides: readonly Guide[], distances: readonly Distance[]): void {
    this.clear();
    const at = { x: (n: number) => view.x + n * view.zoom, y: (n: number) => view.y + n * view.zoom };
    for (const g of guides) {
      const [along, where] = g.axis === 'x' ? (['y', 'x'] as const) : (['x', 'y'] as const);
      const w = at[where](g.at);
      const [a, b] = [at[along](g.from) - 10, at[along](g.to) + 10];
      const points = g.axis === 'x' ? [w, a, w, b] : [a, w, b, w];
      const dash = { canvas: [], safe: [10, 4], thing: [6, 4], baseline: [2, 3] }[g.of];
      this.group.add(new Konva.Line({ points, stroke: '#ffffff', strokeWidth: 3, opacity: 0.85 }));
      this.group.add(new Konva.Line({ points, stroke: SPRUCE, strokeWidth: 1, dash }));
    }
    for (const d of distances) {
      const [a, b, w] =
        d.axis === 'x' ? [at.x(d.from), at.x(d.to), at.y(d.at)] : [at.y(d.from), at.y(d.to), at.x(d.at)];
      const put = (p: number, q: number) => (d.axis === 'x' ? [p, q] : [q, p]);
      const lines = [
        [...put(a, w), ...put(b, w)],
        [...put(a, w - 4), ...put(a, w + 4)],
        [...put(b, w - 4), ...put(b, w + 4)],
      ];
      for (const points of lines) {
        this.group.add(new Konva.Line({ points, stroke: '#ffffff', strokeWidth: 3 }));
        this.group.add(new Konva.Line({ points, stroke: INK, strokeWidth: 1 }));
      }
      this.word(figure(d.to - d.from), ...(put((a + b) / 2, w) as [number, number]));
    }
    this.group.getLayer()?.batchDraw();
  }

  /** A figure on a light sheet, its middle at a place. */
  private word(text: string, x: number, y: number): void {
    const word = new Konva.Text({ text, fontSize: 11, fontFamily: 'Public Sans Variable', fill: INK, padding: 3 });
    const [width, height] = [word.width(), word.height()];
    const put = { x: x - width / 2, y: y - height / 2 };
    this.group.add(
      new Konva.Rect({ ...put, width, height, fill: '#ffffff', stroke: INK, strokeWidth: 0.5, cornerRadius: 3 }),
    );
    word.position(put);
    this.group.add(word);
  }
}
