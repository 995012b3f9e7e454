import { hasQuality, pictureFormats } from '../formats/registry';
import { weightText } from '../formats/weight';
import { defineRule, fixable, type FileWeight, type Finding, type Fix } from './rule';
import { thresholds } from './thresholds';

/** A page that takes so many bytes refuses a heavier file, or packs it anew itself, which looks worse. */
export const heavy = defineRule({
  id: 'heavy',
  about: 'Weight and file',
  what: 'A file heavier than the page takes.',
  by: ['lowestQuality'],
  mends: 'The best quality that is light enough, or a lighter format.',
  passed: ({ slot, weights }) =>
    slot.mostBytes !== null && weights
      ? `The file has ${weightText(weights.chosen.bytes)}; the page takes ${weightText(slot.mostBytes)}`
      : 'The page takes a file of any weight',
  needs: ['slot', 'weights', 'frame'],
  judge({ slot, weights, frame }): Finding[] | null {
    if (slot.mostBytes === null) return [];
    if (!weights) return null;
    const { chosen, tried } = weights;
    if (chosen.bytes <= slot.mostBytes) return [];
    const light = tried.filter((t) => t.bytes <= slot.mostBytes!);
    const lightest = [chosen, ...tried].reduce((a, b) => (b.bytes < a.bytes ? b : a));
    const fixes = (): Fix[] =>
      // The format that was chosen first.
      [...light]
        .sort((a, b) => Number(b.format === chosen.format) - Number(a.format === chosen.format))
        .map(({ format, quality, bytes }) => ({
          label: `${inWords(format, quality)}, ${weightText(bytes)}`,
          edit: {
            type: 'set-export',
            frame,
            name: `File: ${inWords(format, quality)}`,
            choices: { format, quality, own: true },
          },
        }));
    const at = hasQuality(chosen.format) ? ` at quality ${chosen.quality}` : '';
    return [
      fixable(
        {
          id: 'heavy',
          group: 'before',
          title: `The file has ${weightText(chosen.bytes)}; the page takes ${weightText(slot.mostBytes)}`,
          detail: light.length
            ? `As ${pictureFormats[chosen.format].name}${at} it is too heavy, and the page may refuse it.`
            : `The lightest that still looks right, ${inWords(lightest.format, lightest.quality)}, has ${weightText(lightest.bytes)}. Fewer details, a veil over the photo or a lower density make it lighter.`,
          at: null,
          figures: [chosen.bytes],
        },
        fixes,
      ),
    ];
  },
});

const inWords = (format: FileWeight['format'], quality: number) =>
  `${pictureFormats[format].name}${hasQuality(format) ? ` at quality ${quality}` : ''}`;

/**
 * The best quality, from `from` down to the lowest that still looks right, at which a file has no more than `most`
 * bytes, or the lowest with what it has then. `weigh` gives the bytes at a quality; it is asked six times at most.
 */
export async function lightEnough(
  from: number,
  most: number,
  weigh: (quality: number) => Promise<number>,
): Promise<{ quality: number; bytes: number }> {
  let low = Math.min(from, thresholds.lowestQuality.value);
  let bytes = await weigh(low);
  let high = from;
  for (let asked = 1; asked < 6 && bytes <= most && high - low > 1; asked++) {
    const middle = Math.floor((low + high) / 2);
    const there = await weigh(middle);
    if (there <= most) [low, bytes] = [middle, there];
    else high = middle;
  }
  return { quality: low, bytes };
}
