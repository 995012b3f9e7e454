import { bottom, moved, right, type Box, type Size } from '../geometry/box';
import type { Layer, PictureLayer } from '../graphic/graphic';
import { ownPoint } from '../graphic/picture-geometry';
import { uncoveredParts, visiblePictures } from './uncovered';
import { defineRule, type Finding, type Fix } from './rule';

type Side = 'left' | 'right' | 'top' | 'bottom';

const px = (n: number) => `${n < 10 && n % 1 ? n.toFixed(1) : Math.round(n)} px`;

/**
 * What a photo is centred on now, in shares of it: the middle of its crop, what lies on the canvas's middle where it was
 * placed by hand and is there, or its own focus.
 */
function focusNow(layer: PictureLayer, canvas: Size): PictureLayer['focus'] {
  const { crop, natural, focus, place } = layer;
  if (crop) return { x: (crop.x + crop.width / 2) / natural.width, y: (crop.y + crop.height / 2) / natural.height };
  if (place.mode !== 'free') return focus;
  const own = ownPoint(layer, canvas, { x: canvas.width / 2, y: canvas.height / 2 });
  const at = { x: own.x / natural.width, y: own.y / natural.height };
  return at.x >= 0 && at.x <= 1 && at.y >= 0 && at.y <= 1 ? at : focus;
}

/** The edit that lays a photo over the whole canvas again, what is seen of it staying where it is as far as it can. */
export function coverFix(photo: PictureLayer, canvas: Size): Fix {
  return {
    label: 'Cover the canvas',
    edit: {
      type: 'replace-layer',
      name: `${photo.name} covers the canvas`,
      layer: { ...photo, crop: null, place: { mode: 'cover', focus: focusNow(photo, canvas), zoom: 1 } },
    },
  };
}

/** The page's own ground as the backdrop: what a visitor would see there anyway, and no gap any more. */
function groundFix(colour: string): Fix {
  return {
    label: 'The page’s ground as backdrop',
    edit: {
      type: 'set-backdrop',
      backdrop: { kind: 'colour', colour },
      name: `Backdrop: the page’s ground, ${colour}`,
    },
  };
}

/** What is said where no part of the canvas is covered whole: by nothing, or by something that lets the ground through. */
function emptyText(layers: readonly Layer[]): { title: string; detail: string } {
  const some = layers.some((l) => l.visible && l.role !== 'words' && l.role !== 'veil');
  if (!some)
    return {
      title: layers.some((l) => l.visible) ? 'Nothing covers the canvas' : 'The canvas is empty',
      detail: 'The page’s own ground will show through. Add a photo, or choose a backdrop colour.',
    };
  return {
    title: 'The canvas is not covered to the last pixel',
    detail:
      'What lies on it has clear parts, a fade, rounded corners or a turn, so the page’s own ground will show through beside or under it. Choose a backdrop colour, or cover the canvas with a photo.',
  };
}

/** The canvas has to be covered to the last pixel, unless the slot keeps transparency. */
export const covered = defineRule({
  id: 'covered',
  about: 'Cover and cut',
  what: 'Parts of the canvas that nothing covers, where the slot keeps no transparency.',
  by: ['bare'],
  mends: 'The photo over the whole canvas, or the page’s ground as backdrop.',
  passed: 'The canvas is covered to the last pixel',
  needs: ['layers', 'backdrop', 'canvas', 'rect', 'slot'],
  judge({ layers, backdrop, canvas, rect, slot }): Finding[] {
    if (slot.keepsTransparency) return [];
    // In the frame's own coordinates from here on; told in the canvas's.
    const parts = uncoveredParts(layers, backdrop, canvas, rect).map((b) => moved(b, { x: -rect.x, y: -rect.y }));
    if (parts.length === 0) return [];
    const photo = visiblePictures(layers).find((p) => p.role === 'photo' && p.opaque && !p.locked);
    const some = layers.some((l) => l.visible);
    const fixes = [...(photo ? [coverFix(photo, canvas)] : []), ...(some ? [groundFix(slot.ground)] : [])];
    if (parts.length === 1 && parts[0]!.width === rect.width && parts[0]!.height === rect.height)
      return [
        {
          id: 'covered:empty',
          group: 'before',
          ...emptyText(layers),
          at: null,
          fixes,
        },
      ];
    const depth: Record<Side, number> = { left: 0, right: 0, top: 0, bottom: 0 };
    for (const b of parts) {
      // A strip belongs to the side it runs along; where that leaves a choice, to the one it is thinnest against.
      const along = { across: b.width >= rect.width - 1e-9, down: b.height >= rect.height - 1e-9 };
      const touches: [Side, number][] = [];
      if (!along.across) {
        if (b.x <= 0) touches.push(['left', b.width]);
        if (right(b) >= rect.width - 1e-9) touches.push(['right', b.width]);
      }
      if (!along.down) {
        if (b.y <= 0) touches.push(['top', b.height]);
        if (bottom(b) >= rect.height - 1e-9) touches.push(['bottom', b.height]);
      }
      const thinnest = touches.sort((p, q) => p[1] - q[1])[0];
      if (thinnest) depth[thinnest[0]] = Math.max(depth[thinnest[0]], thinnest[1]);
    }
    const place: Record<Side, string> = {
      left: 'at the left',
      right: 'at the right',
      top: 'at the top',
      bottom: 'at the bottom',
    };
    const boxes: Record<Side, Box> = {
      left: { x: 0, y: 0, width: depth.left, height: rect.height },
      right: { x: rect.width - depth.right, y: 0, width: depth.right, height: rect.height },
      top: { x: 0, y: 0, width: rect.width, height: depth.top },
      bottom: { x: 0, y: rect.height - depth.bottom, width: rect.width, height: depth.bottom },
    };
    const short = (Object.keys(depth) as Side[]).filter((s) => depth[s] > 0);
    const finding = (id: string, title: string, at: Box): Finding => ({
      id: `covered:${id}`,
      group: 'before',
      title,
      detail: 'The page’s own ground will show there.',
      at: moved(at, rect),
      ...(photo ? { layer: photo.id } : {}),
      fixes,
    });
    if (short.length === 0) return [finding('hole', 'There is a gap within the canvas', parts[0]!)];
    return short.map((s) =>
      finding(
        s,
        photo ? `The photo stops ${px(depth[s])} short ${place[s]}` : `${px(depth[s])} are bare ${place[s]}`,
        boxes[s],
      ),
    );
  },
});
