import { hasQuality, pictureFormats } from '../formats/registry';
import { weightText } from '../formats/weight';
import { bestUnder, lightestSame, type Trial } from './trials';

/** A file in a few words: “JPEG at quality 74”, “PNG”. */
export const fileText = ({ format, quality, chroma }: Pick<Trial, 'format' | 'quality' | 'chroma'>): string => {
  const { name } = pictureFormats[format];
  if (!hasQuality(format)) return name;
  return `${name}${chroma === '420' ? ' 4:2:0' : ''} at quality ${quality}`;
};

/**
 * What helps where no file of at most `most` bytes looks the same as the canvas, the surest first; null where one does,
 * or none is known yet. `lower`: what the chosen file has at a lower density.
 */
export function whatHelps(
  trials: readonly Trial[],
  most: number,
  lower: { readonly density: number; readonly bytes: number } | null,
): string[] | null {
  const same = lightestSame(trials);
  if (!trials.length || (same && same.bytes <= most)) return null;
  const best = bestUnder(trials, most);
  const said: string[] = [];
  if (lower && lower.bytes <= most)
    said.push(`At ${lower.density}× it has ${weightText(lower.bytes)}: take ${lower.density}× in Slots.`);
  if (same) said.push(`${fileText(same)} looks the same and has ${weightText(same.bytes)}: a limit of that would do.`);
  if (lower && lower.bytes > most)
    said.push(
      `At ${lower.density}× it still has ${weightText(lower.bytes)}, ${weightText(lower.bytes - most)} too many.`,
    );
  if (best)
    said.push(`Under the limit ${fileText(best)} differs least, ${weightText(best.bytes)}; look at it in the loupes.`);
  said.push('Less detail is lighter: a calmer photo, a veil over it, or a look that softens it.');
  return said;
}
