import type { Layer, WordsLayer } from '../graphic/graphic';
import { STRENGTHS } from '../graphic/shape';
import { passingColours } from '../legibility/passing-colours';
import { veilBehind } from '../legibility/veil-behind';
import { allLetters, faintestLetter, type Legibility } from '../legibility/legibility';
import { shownOnDevices, smallestScale } from '../slot/shown';
import type { Slot } from '../slot/slot';
import { movedWords } from '../words/layout';
import { moveText } from './free-move';
import { defineRule, type Finding, type Fix } from './rule';
import { visibleWords } from './said';
import { thresholds } from './thresholds';
import { withRuns } from '../words/words';
import { onDevice } from './wording';

/** Rounded down, so that 4.49 never reads as the 4.5 it misses. */
const ratio = (n: number) => (Math.floor(n * 10) / 10).toFixed(1);

function recolour(layer: WordsLayer, colour: string, label: string): Fix {
  return {
    label,
    edit: { type: 'replace-layer', name: `${layer.name}: colour ${colour}`, layer: withRuns(layer, { colour }) },
  };
}

/** What would mend it, the gentlest first, and what is to be said of it. */
function mend(
  layer: WordsLayer,
  read: Legibility,
  shownScale: number,
  layers: readonly Layer[],
): { detail: string; fixes: Fix[] } {
  if (layer.locked) return { detail: 'The layer is locked; unlock it to change it.', fixes: [] };
  const over = read.letters.some((l) => l.over !== null)
    ? 'What is seen of them is not their colour alone: something lies over them, or their strokes are thinner than a pixel.'
    : '';
  const fixes: Fix[] = [];
  if (read.atFront)
    fixes.push({
      label: 'Bring the words to the front',
      edit: { type: 'move-layer', name: `${layer.name} to the front`, id: layer.id, to: layers.length - 1 },
    });
  // Found where the words were looked at: with much over them it takes longer than a frame.
  const { shade, ink } =
    read.colours ?? passingColours(layer.paragraphs[0]!.runs[0]!.colour, allLetters(read), shownScale);
  if (shade) fixes.push(recolour(layer, shade, `Use the nearest shade that passes, ${shade}`));
  if (ink) fixes.push(recolour(layer, ink.hex, `Make the words ${ink.name}`));
  if (read.calm) {
    const { by, contrast } = read.calm;
    fixes.push({
      label: `${moveText({ by, scale: 1 })}, to ${ratio(contrast)}`,
      edit: { type: 'replace-layer', name: `${layer.name} to a calm place`, layer: movedWords(layer, by) },
    });
  }
  if (read.larger) {
    const { size, contrast } = read.larger;
    fixes.push({
      label: `Make it ${size} px: large type needs ${thresholds.largeContrast.value} only, it has ${ratio(contrast)}`,
      edit: { type: 'replace-layer', name: `${layer.name} at ${size} px`, layer: read.larger.layer },
    });
  }
  if (read.outlined) {
    const { outline, contrast } = read.outlined;
    fixes.push({
      label: `A ${outline.colour === '#000000' ? 'black' : 'white'} line around the letters, to ${ratio(contrast)}`,
      edit: { type: 'replace-layer', name: `${layer.name}: a line around its letters`, layer: { ...layer, outline } },
    });
  }
  const veil = veilBehind(layer, layers, allLetters(read), shownScale);
  if (veil)
    fixes.push({
      label: `Veil behind it, just enough: about ${Math.round((veil.strength / (STRENGTHS - 1)) * 100)} %`,
      edit: { type: 'add-layer', name: `Veil behind ${layer.name}`, at: layers.indexOf(layer), layer: veil },
    });
  const colours = shade
    ? ''
    : ink
      ? `No shade of this colour passes; ${ink.name} would.`
      : read.atFront
        ? ''
        : `No one colour passes here.${read.calm || veil ? '' : ' Move the words to a calmer place.'}`;
  return { detail: [over, colours].filter(Boolean).join(' '), fixes };
}

/** How large a page shows the slot on each device, CSS px per slot px, and how that is said: the widest first. */
function scalesOf(slot: Slot): { scale: number; said: string }[] {
  const own = { scale: slot.shownWidth / slot.width, said: '' };
  const others = shownOnDevices(slot).map(({ device, shown }) => ({
    scale: Math.min(shown.scale.x, shown.scale.y),
    said: `${onDevice[device]} `,
  }));
  // Type that is shown larger needs no more than where it is shown smaller.
  return [own, ...others.filter((o) => o.scale < own.scale - 1e-6)];
}

/**
 * Words have to stand out from the pixels really behind them. WCAG 2.2, 1.4.3 (AA), at the sizes shown on the page of a
 * desktop, a tablet and a phone, with the page's darkening in both its states where it can be switched; the sampling is
 * our own (see `groundSampler`). Logos are exempt: 1.4.3 exempts logotypes.
 */
export const faint = defineRule({
  id: 'faint',
  about: 'Readable',
  what: 'Words that do not stand out from the pixels really behind them, at the size each screen shows them, with the page’s darkening on and off.',
  by: ['contrast', 'largeContrast'],
  mends:
    'To the front, a calm place nearby, the nearest shade of their colour, a larger size, a line around their letters, a veil behind them.',
  passed: 'All words stand out from what is behind them (logos are exempt)',
  needs: ['layers', 'legibility', 'slot'],
  judge({ layers, legibility, slot }): Finding[] | null {
    const words = visibleWords(layers);
    if (words.length === 0) return [];
    if (!legibility) return null;
    const scales = scalesOf(slot);
    const smallest = smallestScale(slot);
    return words.flatMap((layer) => {
      const ground = legibility.find((l) => l.layer === layer.id);
      if (!ground) return [];
      const failing = scales.flatMap(({ scale, said }) =>
        [ground.letters, ground.switched ?? []].flatMap((letters, k) => {
          const found = faintestLetter({ letters }, scale);
          return found && found.contrast < found.needed ? [{ ...found, said, switched: k === 1 }] : [];
        }),
      );
      const worst = failing[0];
      if (!worst) return [];
      const { letter, contrast, needed, said, switched } = worst;
      const { detail, fixes } = mend(layer, { ...ground, letters: allLetters(ground) }, smallest, layers);
      const samples = ground.letters.reduce((n, l) => n + l.samples, 0).toLocaleString('en-GB');
      const state = switched ? `With the page’s darkening ${slot.darkening?.on ? 'off' : 'on'}.` : '';
      return [
        {
          id: `faint:${layer.id}`,
          group: 'before' as const,
          title: `${said}“${layer.name}” is too faint: ${ratio(contrast)}, needs ${needed}`,
          detail: [
            state,
            `At its faintest letter, “${letter.letter}”; ${samples} samples of the pixels behind the words.`,
            detail,
          ]
            .filter(Boolean)
            .join(' '),
          at: letter.box,
          layer: layer.id,
          figures: [contrast],
          fixes,
        },
      ];
    });
  },
});
