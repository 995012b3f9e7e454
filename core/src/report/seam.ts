import { bottom, intersection, right, type Box, type Size } from '../geometry/box';
import { pictureBounds, pictureGeometry } from '../graphic/picture-geometry';
import { movedLayer } from '../graphic/arrange';
import { withImageAt } from '../graphic/cropping';
import type { PictureLayer } from '../graphic/graphic';
import { seamSides } from '../graphic/set-graphic';
import { factsKey } from './asset-facts';
import { defineRule, fixable, type Finding, type Fix } from './rule';
import { subjectBox } from './subject-hidden';
import { thresholds } from './thresholds';
import { visiblePictures } from './uncovered';

/** The share of a box that lies in a frame or beyond its seams: the smaller part. What is cut elsewhere is cut by no seam. */
function cutShare(box: Box, rect: Box, frames: readonly { readonly rect: Box }[]): number {
  const seams = seamSides(rect, frames);
  const left = seams.has('left') ? rect.x : Math.min(rect.x, box.x);
  const top = seams.has('top') ? rect.y : Math.min(rect.y, box.y);
  const width = (seams.has('right') ? right(rect) : Math.max(right(rect), right(box))) - left;
  const height = (seams.has('bottom') ? bottom(rect) : Math.max(bottom(rect), bottom(box))) - top;
  const shared = intersection(box, { x: left, y: top, width, height });
  const inside = shared ? (shared.width * shared.height) / (box.width * box.height) : 0;
  return Math.min(inside, 1 - inside);
}

/** What is seen of a photo's subject, canvas px; null where that was cropped away. */
function seenSubject(layer: PictureLayer, subject: Box, canvas: Size): Box | null {
  return intersection(subjectBox(layer, subject, canvas), pictureBounds(layer, canvas));
}

/** How much of the canvas a picture takes, px². */
function covers(layer: PictureLayer, canvas: Size): number {
  const seen = intersection(pictureGeometry(layer, canvas).shown, { x: 0, y: 0, ...canvas });
  return seen ? seen.width * seen.height : 0;
}

/** A photo moved by the least after which its subject is cut by no seam; null where it is locked, or no move is enough. */
function offSeams(layer: PictureLayer, subject: Box, canvas: Size, frames: readonly { readonly rect: Box }[]) {
  if (layer.locked) return null;
  const at = seenSubject(layer, subject, canvas);
  if (!at) return null;
  const { image } = pictureGeometry(layer, canvas);
  const ways = frames
    .flatMap(({ rect }) => {
      if (at.width > rect.width || at.height > rect.height) return [];
      const x = at.x < rect.x ? rect.x - at.x : Math.min(0, right(rect) - right(at));
      const y = at.y < rect.y ? rect.y - at.y : Math.min(0, bottom(rect) - bottom(at));
      return [{ x, y }];
    })
    .sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y));
  for (const by of ways) {
    // One that lies free with nothing cropped has no window to be moved in: all of it moves.
    const free = layer.place.mode === 'free' && !layer.crop;
    const moved = free
      ? movedLayer(layer, by, canvas)
      : withImageAt(layer, { ...image, x: image.x + by.x, y: image.y + by.y }, canvas);
    if (covers(moved, canvas) < covers(layer, canvas) - 1e-6) continue;
    const there = seenSubject(moved, subject, canvas);
    if (!there) continue;
    // As far as covering the canvas let it be moved.
    if (frames.every(({ rect }) => cutShare(there, rect, frames) < 0.01 || !intersection(there, rect)))
      return { layer: moved, by };
  }
  return null;
}

/** What a photo is of, cut in two by a seam of a strip or a mosaic. */
export const seam = defineRule({
  id: 'seam',
  about: 'Shape and zones',
  what: 'What a photo is of lies on a seam of a strip or a mosaic: part of it in one file, part in the next.',
  by: ['seam'],
  mends: 'The photo moved the least way after which its subject lies in one of them.',
  passed: 'What photos are of lies on no seam',
  needs: ['layers', 'canvas', 'rect', 'frames', 'assets'],
  judge({ layers, canvas, rect, frames, assets }): Finding[] {
    const seams = seamSides(rect, frames);
    if (!seams.size) return [];
    return visiblePictures(layers).flatMap((layer): Finding[] => {
      const subject = layer.role === 'photo' ? assets.get(factsKey(layer))?.subject : undefined;
      if (!subject) return [];
      const at = seenSubject(layer, subject, canvas);
      if (!at) return [];
      const inFrame = intersection(at, rect);
      // A subject larger than a tile is to run over several; and it is told once, where most of it is.
      if (!inFrame || at.width > rect.width || at.height > rect.height) return [];
      const share = (b: Box) => {
        const s = intersection(at, b);
        return s ? s.width * s.height : 0;
      };
      const most = frames.reduce((a, b) => (share(b.rect) > share(a.rect) ? b : a));
      const cut = cutShare(at, rect, frames);
      if (most.rect !== rect || cut < thresholds.seam.value) return [];
      const number = frames.findIndex((f) => f.rect === rect) + 1;
      return [
        fixable(
          {
            id: `seam:${layer.id}`,
            group: 'time',
            title: `${Math.round(cut * 100)} % of what ${layer.name} is of is cut off at a seam of place ${number}`,
            detail: 'On the page it stands in two pieces. Move the photo so that it lies in one.',
            at: inFrame,
            layer: layer.id,
            figures: [cut],
          },
          (): Fix[] => {
            const there = offSeams(layer, subject, canvas, frames);
            if (!there) return [];
            const { x, y } = there.by;
            const way = Math.abs(x) >= Math.abs(y) ? (x < 0 ? 'left' : 'right') : y < 0 ? 'up' : 'down';
            const px = Math.max(1, Math.round(Math.hypot(x, y)));
            return [
              {
                label: `Move the photo ${way} ${px} px`,
                edit: { type: 'replace-layer', name: `${layer.name} off the seam`, layer: there.layer },
              },
            ];
          },
        ),
      ];
    });
  },
});
