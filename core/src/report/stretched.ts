import { stretchOf, pictureBounds } from '../graphic/picture-geometry';
import { visiblePictures } from './uncovered';
import { defineRule, type Finding } from './rule';

/** How far a picture is from its true proportions, in words; empty where it is true. */
export function stretchText(stretch: number): string {
  if (Math.abs(stretch - 1) < 0.0005) return '';
  const [by, way] = stretch > 1 ? [stretch - 1, 'wider'] : [1 / stretch - 1, 'taller'];
  return `${(by * 100).toFixed(1)} % ${way} than true`;
}

/** A picture drawn out of its proportions: sometimes meant, always worth a second look. */
export const stretched = defineRule({
  id: 'stretched',
  passed: 'Every picture has its true proportions',
  needs: ['layers', 'canvas'],
  judge({ layers, canvas }): Finding[] {
    return visiblePictures(layers).flatMap((layer): Finding[] => {
      const text = stretchText(stretchOf(layer.place));
      if (!text || layer.place.mode !== 'free') return [];
      const place = { ...layer.place, stretch: 1 };
      return [
        {
          id: `stretched:${layer.id}`,
          group: 'time',
          title: `${layer.name} is ${text}`,
          detail: 'Its proportions were unlocked. Faces and round things show it first.',
          at: pictureBounds(layer, canvas),
          layer: layer.id,
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
