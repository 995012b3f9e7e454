import { concernsFrame } from '../graphic/frame';
import { pictureBounds, pictureGeometry, pictureScale } from '../graphic/picture-geometry';
import { topDensity } from '../slot/slot';
import { factsKey } from './asset-facts';
import { defineRule, type Finding } from './rule';
import { thresholds } from './thresholds';
import { visiblePictures } from './uncovered';

/** A photo out of focus, shaken or enlarged before stays soft, unless it is made so small that it is not seen. */
export const soft = defineRule({
  id: 'soft',
  about: 'Sharp',
  what: 'Photos whose sharpest edges are still blurred once they are as small as they are drawn.',
  by: ['blur'],
  mends: 'Nothing here mends it: a sharper picture, or this one smaller.',
  passed: 'Photos are sharp as small as they are drawn',
  needs: ['layers', 'canvas', 'slot', 'rect', 'frames', 'assets'],
  judge({ layers, canvas, slot, rect, frames, assets }): Finding[] {
    const density = topDensity(slot);
    return visiblePictures(layers).flatMap((layer): Finding[] => {
      const blur = layer.role === 'photo' ? assets.get(factsKey(layer))?.blur : undefined;
      const scale = pictureScale(layer, canvas) * density;
      // Of one that is enlarged another finding speaks.
      if (!blur || layer.vector || scale > thresholds.enlarged.value) return [];
      const seen = blur * scale;
      if (seen < thresholds.blur.value || !concernsFrame(pictureBounds(layer, canvas), rect, frames)) return [];
      // From a tenth to nine tenths of a blurred edge are 2.56 σ.
      const wide = Math.round(seen * 2.56);
      return [
        {
          id: `soft:${layer.id}`,
          group: 'time',
          title: `${layer.name} looks soft: its sharpest edges are ${wide} px wide`,
          detail: `It has pixels enough, but they are blurred: out of focus, shaken, or enlarged before. A sharper picture helps; so does showing it smaller.`,
          at: pictureGeometry(layer, canvas).shown,
          layer: layer.id,
          figures: [seen],
          fixes: [],
        },
      ];
    });
  },
});
