import { stretchOf, pictureBounds } from '../graphic/picture-geometry';
import { concernsFrame } from '../graphic/frame';
import { visiblePictures } from './uncovered';
import { defineRule, type Finding } from './rule';
import { thresholds } from './thresholds';

/** How far a picture is from its true proportions, in words; empty where it is true. */
export function stretchText(stretch: number): string {
  if (Math.abs(stretch - 1) < 0.0005) return '';
  const [by, way] = stretch > 1 ? [stretch - 1, 'wider'] : [1 / stretch - 1, 'taller'];
  return `${(by * 100).toFixed(1)} % ${way} than true`;
}

/** A picture drawn out of its proportions: sometimes meant, always worth a second look. */
export const stretched = defineRule({
  id: 'stretched',
  about: 'Sharp',
  what: 'Pictures out of their true proportions.',
  by: ['stretched'],
  mends: 'True proportions.',
  passed: 'Every picture has its true proportions',
  needs: ['layers', 'canvas', 'rect', 'frames'],
  judge({ layers, canvas, rect, frames }): Finding[] {
    return visiblePictures(layers).flatMap((layer): Finding[] => {
      const stretch = stretchOf(layer.place);
      const by = Math.max(stretch, 1 / stretch) - 1;
      if (by <= thresholds.stretched.value || layer.place.mode !== 'free') return [];
      const text = stretchText(stretch);
      const at = pictureBounds(layer, canvas);
      if (!concernsFrame(at, rect, frames)) return [];
      const place = { ...layer.place, stretch: 1 };
      return [
        {
          id: `stretched:${layer.id}`,
          group: 'time',
          title: `${layer.name} is ${text}`,
          detail: 'Its proportions were unlocked. Faces and round things show it first.',
          at,
          layer: layer.id,
          figures: [by],
          fixes: [
            {
              label: 'True proportions',
              edit: { type: 'replace-layer', name: `${layer.name} in true proportions`, layer: { ...layer, place } },
            },
          ],
        },
      ];
    });
  },
});
