import { intersection, type Box, type Size } from '../geometry/box';
import type { PictureLayer } from '../graphic/graphic';
import { pictureScale } from '../graphic/picture-geometry';
import { hiddenShare, subjectBox } from '../report/subject-hidden';
import { topDensity, type Slot } from '../slot/slot';

/** How much further than covering a photo is enlarged. */
const ZOOMS = [1, 1.12, 1.25, 1.4];

/** A photo that covers the canvas, its subject kept, clear of the words and of what the page lays over it. */
export function coveringPhoto(
  layer: PictureLayer,
  subject: Box | undefined,
  slot: Slot,
  words: Box | null,
): PictureLayer {
  const canvas: Size = { width: slot.width, height: slot.height };
  const frame = { slot, rect: { x: 0, y: 0, ...canvas } };
  const own = subject ?? { x: layer.focus.x - 0.12, y: layer.focus.y - 0.12, width: 0.24, height: 0.24 };
  const plain: PictureLayer = { ...layer, role: 'photo', crop: null, turn: layer.turn % 90 === 0 ? layer.turn : 0 };
  const at = (focus: { x: number; y: number }, zoom: number): PictureLayer => ({
    ...plain,
    place: { mode: 'cover', focus, zoom },
  });
  let best: { layer: PictureLayer; cost: number } | null = null;
  const middle = { x: own.x + own.width / 2, y: own.y + own.height / 2 };
  const steps = Array.from({ length: 13 }, (_, i) => i / 12);
  for (const zoom of ZOOMS) {
    // Enlarged beyond its own pixels it would be soft.
    if (zoom > 1 && pictureScale(at(middle, zoom), canvas) * topDensity(slot) > 1) break;
    for (const x of [...steps, middle.x])
      for (const y of [0, 0.25, 0.5, 0.75, 1, middle.y]) {
        const tried = at({ x, y }, zoom);
        const box = subjectBox(tried, own, canvas);
        const area = box.width * box.height || 1;
        const shared = words && intersection(box, words);
        const under = shared ? (shared.width * shared.height) / area : 0;
        const off = Math.abs(x - middle.x) + Math.abs(y - middle.y);
        const least = 2 * under + 0.5 * (zoom - 1) + 0.05 * off;
        // Looking at what is hidden takes longest, and only adds to that.
        if (best && least >= best.cost - 1e-9) continue;
        const cost = 3 * hiddenShare(box, frame) + least;
        if (!best || cost < best.cost - 1e-9) best = { layer: tried, cost };
      }
  }
  return best!.layer;
}
