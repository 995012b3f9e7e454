import { QuantizerCelebi } from '@material/material-color-utilities';
import { differenceEuclidean, modeLrgb, modeOklab, modeRgb, useMode } from 'culori/fn';
import type { Pixels } from './reduce';

useMode(modeRgb);
useMode(modeLrgb);
useMode(modeOklab);
const apart = differenceEuclidean('oklab');

/** Nearer than this in OKLab two colours are one to the eye of someone who chooses among eight. Common practice, no source. */
const ALIKE = 0.045;

export interface PaletteColour {
  readonly colour: string;
  /** How much of what is to be seen it stands for, 0…1. */
  readonly share: number;
}

/**
 * The colours a picture is made of, most of it first, at most `most`: its visible pixels (straight alpha, encoded sRGB)
 * gathered by a quantiser, what is alike put together.
 */
export function paletteOf({ data }: Pixels, most = 8): PaletteColour[] {
  const argb: number[] = [];
  for (let i = 0; i < data.length; i += 4)
    if (data[i + 3]! >= 128) argb.push(((255 << 24) | (data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!) >>> 0);
  if (!argb.length) return [];
  const found = [...QuantizerCelebi.quantize(argb, most * 2)]
    .map(([colour, count]) => ({ colour: `#${(colour & 0xffffff).toString(16).padStart(6, '0')}`, count }))
    .sort((a, b) => b.count - a.count);
  const kept: { colour: string; count: number }[] = [];
  for (const one of found) {
    const like = kept.find((k) => apart(k.colour, one.colour) < ALIKE);
    if (like) like.count += one.count;
    else kept.push(one);
  }
  return kept
    .sort((a, b) => b.count - a.count)
    .slice(0, most)
    .map(({ colour, count }) => ({ colour, share: count / argb.length }));
}
