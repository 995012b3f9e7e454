import {
  pictureFormats,
  plan,
  surfacesOf,
  svgOf,
  withNotes,
  type FileNotes,
  type Frame,
  type Graphic,
  type SurfaceNeed,
  type SvgPicture,
} from '@bright-slot/core';
import { database } from '../../storage/database';
import type { Vectors } from './render';
import { makeSurface } from './surface';
import type { Turn } from './turn';
import { shaperFor } from './type';

/** How good pictures without transparent parts are that stand in a drawing, 0 to 1: as good as can be told from them. */
const JPEG_QUALITY = 0.93;

function dataAddress(blob: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as string);
    reader.onerror = () => failed(reader.error ?? new Error('A picture could not be read.'));
    reader.readAsDataURL(blob);
  });
}

/** What stands for a need in a drawing: a drawing itself, where nothing was done to its pixels; else its surface. */
async function pictureOf(need: SurfaceNeed, vectors: Vectors, turn: Turn): Promise<SvgPicture> {
  if (need.vector && !need.finish) {
    const original = (await database().assets.get(need.asset))?.blob;
    if (original) return { href: await dataAddress(original), as: 'drawing' };
  }
  const surface = await makeSurface(need, turn, vectors.find((v) => v.key === need.base)?.bitmap);
  const canvas = new OffscreenCanvas(surface.width, surface.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(surface, 0, 0);
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  const opaque = new Uint32Array(data.buffer).every((pixel) => pixel >>> 24 === 255);
  const file = await canvas.convertToBlob(
    opaque ? { type: 'image/jpeg', quality: JPEG_QUALITY } : { type: 'image/png' },
  );
  return { href: await dataAddress(file), as: 'surface' };
}

/** A frame as an SVG file, its pictures at a density within it. */
export async function drawingOf(
  graphic: Graphic,
  frame: Frame,
  density: number,
  { notes, forPage }: { readonly notes: FileNotes; readonly forPage: boolean },
  vectors: Vectors,
  turn: Turn,
): Promise<Blob> {
  const p = plan(graphic, frame, density, await shaperFor(graphic));
  const pictures = new Map<string, SvgPicture>();
  for (const need of surfacesOf(p))
    if (!pictures.has(need.key)) pictures.set(need.key, await pictureOf(need, vectors, turn));
  const { width, height } = frame.rect;
  const svg = svgOf(p, { width, height, title: graphic.name }, (need) => pictures.get(need.key)!);
  // A page would show them in whatever face its visitor has.
  if (forPage && svg.includes('<text '))
    throw new Error(
      'Some letters are in none of the fonts here, so an SVG would not look the same everywhere. Choose PNG or WebP.',
    );
  const file = withNotes(new TextEncoder().encode(svg), 'svg', notes);
  return new Blob([file], { type: pictureFormats.svg.mime });
}
