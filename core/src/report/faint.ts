import { nearestShade } from '../colour/shade';
import { type WordsLayer } from '../graphic/graphic';
import { faintestLetter, type Legibility } from '../legibility/legibility';
import { defineRule, type Finding, type Fix } from './rule';
import { withRuns } from '../words/words';

/** Rounded down, so that 4.49 never reads as the 4.5 it misses. */
const ratio = (n: number) => (Math.floor(n * 10) / 10).toFixed(1);

const inks = [
  { name: 'white', hex: '#ffffff' },
  { name: 'black', hex: '#000000' },
];

function recolour(layer: WordsLayer, colour: string, label: string): Fix {
  return {
    label,
    edit: { type: 'replace-layer', name: `${layer.name}: colour ${colour}`, layer: withRuns(layer, { colour }) },
  };
}

function mend(
  layer: WordsLayer,
  read: Legibility,
  shownScale: number,
  front: number,
): { detail: string; fixes: Fix[] } {
  if (layer.locked) return { detail: 'The layer is locked; unlock it to change it.', fixes: [] };
  const margin = (colour: string) => {
    const f = faintestLetter(read, shownScale, colour);
    return f ? f.contrast / f.needed : 0;
  };
  const toFront: Fix[] = read.atFront
    ? [
        {
          label: 'Bring the words to the front',
          edit: { type: 'move-layer', name: `${layer.name} to the front`, id: layer.id, to: front },
        },
      ]
    : [];
  const over = read.letters.some((l) => l.over !== null)
    ? 'What is seen of them is not their colour alone: something lies over them, or their strokes are thinner than a pixel.'
    : '';
  const said = (detail: string) => [over, detail].filter(Boolean).join(' ');
  const shade = nearestShade(layer.paragraphs[0]!.runs[0]!.colour, (_, colour) => margin(colour) >= 1);
  if (shade)
    return {
      detail: said(''),
      fixes: [...toFront, recolour(layer, shade, `Use the nearest shade that passes, ${shade}`)],
    };
  const ink = inks.find((i) => margin(i.hex) >= 1);
  if (ink)
    return {
      detail: said(`No shade of this colour passes; ${ink.name} would.`),
      fixes: [...toFront, recolour(layer, ink.hex, `Make the words ${ink.name}`)],
    };
  if (toFront.length) return { detail: said(''), fixes: toFront };
  return { detail: said('No one colour passes here. Move the words to a calmer place.'), fixes: [] };
}

/**
 * Words have to stand out from the pixels really behind them. WCAG 2.2, 1.4.3 (AA), at the size
 * shown on the page; the sampling is our own (see `sampleGround`). Logos are exempt: 1.4.3 exempts logotypes.
 */
export const faint = defineRule({
  id: 'faint',
  passed: 'All words stand out from what is behind them (logos are exempt)',
  needs: ['layers', 'legibility', 'slot'],
  judge({ layers, legibility, slot }): Finding[] | null {
    const words = layers.filter((l): l is WordsLayer => l.role === 'words' && l.visible);
    if (words.length === 0) return [];
    if (!legibility) return null;
    const shownScale = slot.shownWidth / slot.width;
    return words.flatMap((layer) => {
      const ground = legibility.find((l) => l.layer === layer.id);
      const found = ground && faintestLetter(ground, shownScale);
      if (!found || found.contrast >= found.needed) return [];
      const { letter, contrast, needed } = found;
      const { detail, fixes } = mend(layer, ground, shownScale, layers.length - 1);
      const samples = ground.letters.reduce((n, l) => n + l.samples, 0).toLocaleString('en-GB');
      return [
        {
          id: `faint:${layer.id}`,
          group: 'before' as const,
          title: `“${layer.name}” is too faint: ${ratio(contrast)}, needs ${needed}`,
          detail: [
            `At its faintest letter, “${letter.letter}”; ${samples} samples of the pixels behind the words.`,
            detail,
          ]
            .filter(Boolean)
            .join(' '),
          at: letter.box,
          layer: layer.id,
          fixes,
        },
      ];
    });
  },
});
