import { cornersOf, intersection, moved, type Box, type Size } from '../geometry/box';
import { reachesEllipse } from '../geometry/clip';
import { concernsFrame, type Frame } from '../graphic/frame';
import type { PictureLayer } from '../graphic/graphic';
import { canvasPoint } from '../graphic/picture-geometry';
import { seenEverywhere } from '../slot/shown';
import { factsKey } from './asset-facts';
import { boxOf } from './extent';
import { defineRule, fixable, type Finding, type Fix } from './rule';
import { thresholds } from './thresholds';
import { visiblePictures } from './uncovered';

/** Where a photo's subject lies, upright, canvas px. */
export function subjectBox(layer: PictureLayer, subject: Box, canvas: Size): Box {
  const { width, height } = layer.natural;
  return boxOf(cornersOf(subject).map(({ x, y }) => canvasPoint(layer, canvas, { x: x * width, y: y * height })));
}

/** Cells along each side in which a subject is looked at. */
const CELLS = 12;

/** The share of a box (canvas px) that is not to be seen: under a zone, cut off on some device, beyond a round shape. */
export function hiddenShare(box: Box, { slot, rect }: Pick<Frame, 'slot' | 'rect'>): number {
  const everywhere = seenEverywhere(slot);
  const seen = everywhere && moved(everywhere, rect);
  const zones = slot.covered.map((z) => ({ kind: z.kind, box: moved(z, rect) }));
  let hidden = 0;
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const cell: Box = {
        x: box.x + (i / CELLS) * box.width,
        y: box.y + (j / CELLS) * box.height,
        width: box.width / CELLS,
        height: box.height / CELLS,
      };
      const middle: Box = { x: cell.x + cell.width / 2, y: cell.y + cell.height / 2, width: 0.01, height: 0.01 };
      const corners = [
        { x: middle.x, y: middle.y },
        { x: middle.x + 0.01, y: middle.y },
        { x: middle.x, y: middle.y + 0.01 },
      ];
      const beyond = slot.shape.kind === 'ellipse' && !reachesEllipse(corners, rect);
      const under = zones.some(
        (z) => intersection(middle, z.box) && (z.kind !== 'portrait' || reachesEllipse(corners, z.box)),
      );
      if (!(seen && intersection(middle, seen)) || under || beyond) hidden++;
    }
  return hidden / CELLS ** 2;
}

/** A covering photo with its focus moved the least way after which half as much of its subject is hidden; null where none is. */
function shownAgain(
  layer: PictureLayer,
  subject: Box,
  canvas: Size,
  frame: Pick<Frame, 'slot' | 'rect'>,
): PictureLayer | null {
  const { place } = layer;
  if (place.mode !== 'cover' || layer.locked) return null;
  const now = hiddenShare(subjectBox(layer, subject, canvas), frame);
  const steps = Array.from({ length: 41 }, (_, i) => (i - 20) / 20);
  const moves = steps
    .flatMap((x) => steps.map((y) => ({ x, y })))
    .sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y));
  for (const by of moves) {
    const focus = { x: place.focus.x + by.x, y: place.focus.y + by.y };
    if (focus.x < 0 || focus.x > 1 || focus.y < 0 || focus.y > 1) continue;
    const there = { ...layer, place: { ...place, focus } };
    const hidden = hiddenShare(subjectBox(there, subject, canvas), frame);
    if (hidden <= now / 2 && hidden < thresholds.subjectHidden.value / 2) return there;
  }
  return null;
}

/** What a photo is of, hidden by the page: under its portrait, cut off on a phone, outside its circle. */
export const subjectHidden = defineRule({
  id: 'subject-hidden',
  about: 'Shape and zones',
  what: 'A photo of which what it is of lies under what the page lays over it, or is cut off on some device.',
  by: ['subjectHidden'],
  mends: 'The photo moved the least way after which its subject is seen.',
  passed: 'What photos are of is to be seen on every screen',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'assets'],
  judge({ layers, canvas, rect, frames, slot, assets }): Finding[] {
    return visiblePictures(layers).flatMap((layer): Finding[] => {
      const subject = layer.role === 'photo' ? assets.get(factsKey(layer))?.subject : undefined;
      if (!subject) return [];
      const at = subjectBox(layer, subject, canvas);
      // A subject that hardly fits the frame is a background: it fills whatever is seen.
      const inFrame = intersection(at, rect);
      if (!inFrame || at.width > rect.width || at.height > rect.height || !concernsFrame(at, rect, frames)) return [];
      const hidden = hiddenShare(at, { slot, rect });
      if (hidden < thresholds.subjectHidden.value) return [];
      return [
        fixable(
          {
            id: `subject-hidden:${layer.id}`,
            group: 'time',
            title: `${Math.round(hidden * 100)} % of what ${layer.name} is of is not to be seen`,
            detail:
              'The page covers it or cuts it off on some screen. Move the photo, or draw its subject anew in Place.',
            at: inFrame,
            layer: layer.id,
            figures: [hidden],
          },
          (): Fix[] => {
            const there = shownAgain(layer, subject, canvas, { slot, rect });
            if (!there) return [];
            return [
              {
                label: 'Move the photo so that it is seen',
                edit: { type: 'replace-layer', name: `${layer.name}: its subject in sight`, layer: there },
              },
            ];
          },
        ),
      ];
    });
  },
});
