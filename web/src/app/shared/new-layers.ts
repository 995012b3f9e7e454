import type { Graphic, PictureLayer, WordsLayer } from '@bright-slot/core';
import { containBox, contrast, withText } from '@bright-slot/core';
import type { AssetRecord } from '../storage/database';

const layerId = () => crypto.randomUUID().slice(0, 8);

/**
 * A layer for a picture: a photo covers the canvas in proportion, whatever its
 * size; a logo (a drawing, or a picture with transparent parts or a plain sheet around it) arrives whole.
 */
export function pictureLayer(asset: AssetRecord, graphic: Graphic, as?: 'photo' | 'logo'): PictureLayer {
  const vector = asset.type === 'svg';
  const role = as ?? (vector || !asset.opaque || asset.flatBorder ? 'logo' : 'photo');
  const { canvas } = graphic;
  const natural = { width: asset.width, height: asset.height };
  const common = {
    id: layerId(),
    name: asset.name,
    visible: true,
    locked: false,
    role,
    asset: asset.hash,
    natural,
    opaque: asset.opaque,
    vector,
    crop: null,
  };
  if (role === 'photo') return { ...common, place: { mode: 'cover', focus: { x: 0.5, y: 0.5 }, zoom: 1 } };
  const room = { width: canvas.width * 0.6, height: canvas.height * 0.64 };
  const box = containBox(natural, {
    x: (canvas.width - room.width) / 2,
    y: (canvas.height - room.height) / 2,
    ...room,
  });
  // A pixel logo is not enlarged on arrival.
  const by = vector ? 1 : Math.min(1, natural.width / box.width);
  const width = box.width * by;
  const height = box.height * by;
  return { ...common, place: { mode: 'free', x: (canvas.width - width) / 2, y: (canvas.height - height) / 2, width } };
}

/** A line of words in the middle of the canvas, a size that suits it, light over pictures. */
export function wordsLayer(graphic: Graphic, text: string): WordsLayer {
  const { width, height } = graphic.canvas;
  const size = Math.max(12, Math.round(Math.min(height * 0.28, width * 0.09)));
  const onPicture = graphic.layers.some((l) => l.role === 'photo' && l.visible);
  const ground = graphic.backdrop.kind === 'colour' ? graphic.backdrop.colour : '#ffffff';
  const colour = onPicture || contrast('#ffffff', ground) > contrast('#1f2a30', ground) ? '#ffffff' : '#1f2a30';
  const layer: WordsLayer = {
    id: layerId(),
    role: 'words',
    name: text.replace(/\s+/g, ' ').slice(0, 40) || 'Words',
    visible: true,
    locked: false,
    lineSpacing: 1.2,
    place: { x: width / 2, y: (height - size * 1.2) / 2 },
    paragraphs: [
      {
        align: 'centre',
        runs: [{ text, size, colour, face: { family: 'Bricolage Grotesque', weight: 700, italic: false } }],
      },
    ],
  };
  return withText(layer, text);
}
