import { contains, intersection, type Box } from '../geometry/box';
import type { Layer } from '../graphic/graphic';
import { layerBounds, type Scene } from '../graphic/shape-geometry';
import type { Shaper } from '../words/shaper';
import { solidBoxOf } from './uncovered';
import { defineRule, type Finding, type Fix } from './rule';
import { called } from './wording';

/** Why a layer is not to be seen at all: it lies off all frames, or behind what nothing shows through; null where it may be. */
function hiddenBy(
  layer: Layer,
  { layers, canvas }: Scene,
  frames: readonly { readonly rect: Box }[],
  shaper: Shaper,
): { readonly box: Box; readonly behind: Layer | null } | null {
  const box = layerBounds(layer, { layers, canvas }, shaper);
  if (box.width <= 0 || box.height <= 0) return null;
  if (!frames.some((f) => intersection(box, f.rect))) return { box, behind: null };
  // What hangs over the canvas's edge is not seen there anyway.
  const seen = intersection(box, { x: 0, y: 0, ...canvas });
  if (!seen) return { box, behind: null };
  const behind = layers.slice(layers.indexOf(layer) + 1).find((l) => {
    const solid = l.visible ? solidBoxOf(l, canvas) : null;
    return solid !== null && contains(solid, seen, 1e-6);
  });
  return behind ? { box: seen, behind } : null;
}

/** A layer that nobody can see: beside the canvas, or behind something that covers it wholly. */
export const hidden = defineRule({
  id: 'hidden',
  about: 'Cover and cut',
  what: 'Layers that lie wholly outside the canvas, or wholly behind something opaque.',
  by: [],
  mends: 'To the front, or away.',
  passed: 'Every layer is to be seen',
  needs: ['layers', 'canvas', 'frames', 'shaper'],
  judge({ layers, canvas, frames, shaper }): Finding[] {
    return layers
      .filter((l) => l.visible && l.role !== 'veil')
      .flatMap((layer): Finding[] => {
        const found = hiddenBy(layer, { layers, canvas }, frames, shaper);
        // Words beside the canvas are told as what the page cuts.
        if (!found || (layer.role === 'words' && !found.behind)) return [];
        const { box, behind } = found;
        const away: Fix = {
          label: 'Take it away',
          edit: { type: 'remove-layer', id: layer.id, name: `${layer.name} removed` },
        };
        const front: Fix = {
          label: 'Bring it to the front',
          edit: { type: 'move-layer', id: layer.id, to: layers.length - 1, name: `${layer.name} to the front` },
        };
        return [
          {
            id: `hidden:${layer.id}`,
            group: layer.role === 'words' ? 'before' : 'time',
            title: behind
              ? `${called(layer)} lies wholly behind ${called(behind)}`
              : `${called(layer)} lies wholly outside the canvas`,
            detail: behind ? 'Nothing shows through, so nobody will see it.' : 'No file will show it.',
            at: behind ? box : null,
            layer: layer.id,
            fixes: layer.locked ? [] : behind ? [front, away] : [away],
          },
        ];
      });
  },
});
