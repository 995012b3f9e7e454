import type { PictureLayer } from '../graphic/graphic';
import { concernsFrame } from '../graphic/frame';
import { pictureBounds, pictureGeometry, pictureScale, stretchOf } from '../graphic/picture-geometry';
import { topDensity } from '../slot/slot';
import { visiblePictures } from './uncovered';
import { thresholds } from './thresholds';
import { defineRule, fixable, type Finding, type Fix } from './rule';

/** Rounding in the fitting sums must not count as enlargement. */
export const SLACK = 1.001;

const percent = (n: number) => `${Math.round(n * 100)} %`;

function fixesFor(layer: PictureLayer, canvas: { width: number; height: number }, density: number): Fix[] {
  if (layer.place.mode === 'cover') {
    const least = pictureScale({ ...layer, place: { ...layer.place, zoom: 1 } }, canvas) * density;
    if (least > SLACK || layer.place.zoom <= 1) return [];
    return [
      {
        label: 'Only as large as its pixels allow',
        edit: {
          type: 'replace-layer',
          name: `${layer.name} at its own pixels`,
          layer: { ...layer, place: { ...layer.place, zoom: Math.max(1, 1 / least) } },
        },
      },
    ];
  }
  const { shown } = pictureGeometry(layer, canvas);
  // So many canvas px that each of its own is one of the densest file's.
  const width = (layer.crop?.width ?? layer.natural.width) / density;
  const height = shown.height * (width / shown.width);
  return [
    {
      label: 'Show it at its own pixels',
      edit: {
        type: 'replace-layer',
        name: `${layer.name} at its own pixels`,
        layer: {
          ...layer,
          place: {
            mode: 'free',
            width,
            x: shown.x + (shown.width - width) / 2,
            y: shown.y + (shown.height - height) / 2,
            ...(stretchOf(layer.place) === 1 ? {} : { stretch: stretchOf(layer.place) }),
          },
        },
      },
    },
  ];
}

/** A photo drawn larger than its own pixels looks soft. Scale above 1 by more than a thousandth. */
export const enlarged = defineRule({
  id: 'enlarged',
  about: 'Sharp',
  what: 'Photos drawn larger than their own pixels at the densest file that is wanted.',
  by: ['enlarged'],
  mends: 'As large as its pixels allow.',
  passed({ layers, canvas, slot }) {
    const density = topDensity(slot);
    const photos = visiblePictures(layers).filter((l) => !l.vector);
    const scale = Math.max(...photos.map((l) => pictureScale(l, canvas)));
    if (!photos.length) return 'There is no photo that could be too small';
    // Rounded down: what is told is there.
    const times = (at: number) => Math.floor((1 / (scale * at)) * 10 + 1e-9) / 10;
    const has = photos.length === 1 ? `${photos[0]!.name} has` : 'Every photo has';
    if (times(density) <= 1) return `${has} the pixels it needs at ${density}×: sharp`;
    const each = slot.densities.map((at) => `${times(at)} times at ${at}×`);
    return `${has} more pixels than it needs, ${each.join(', ')}: sharp`;
  },
  needs: ['layers', 'canvas', 'slot', 'rect', 'frames'],
  judge({ layers, canvas, slot, rect, frames }): Finding[] {
    return visiblePictures(layers)
      .filter((l) => !l.vector)
      .flatMap((layer) => {
        const density = topDensity(slot);
        const scale = pictureScale(layer, canvas) * density;
        if (scale <= SLACK) return [];
        const { shown } = pictureGeometry(layer, canvas);
        if (!concernsFrame(pictureBounds(layer, canvas), rect, frames)) return [];
        const size = (by: number) => `${Math.round(shown.width * by)} × ${Math.round(shown.height * by)}`;
        const [has, needs] = [size(density / scale), size(density)];
        const at = density > 1 ? ` at ${density}×` : '';
        const finding = fixable(
          {
            id: `enlarged:${layer.id}`,
            group: scale > thresholds.enlarged.value ? 'before' : 'time',
            title: `${layer.name} is drawn at ${percent(scale)} of its own pixels`,
            detail: `It has ${has} px where the file needs ${needs}${at}, so it will look soft. A larger picture is sharp.`,
            at: shown,
            layer: layer.id,
            figures: [scale],
          },
          () => fixesFor(layer, canvas, density),
        );
        return [finding];
      });
  },
});
