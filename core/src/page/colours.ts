import {
  clampChroma,
  converter,
  differenceCiede2000,
  formatHex,
  interpolate,
  modeLab65,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeRgb,
  modeXyz65,
  useMode,
} from 'culori/fn';
import '../zod-setup';
import * as z from 'zod';
import { contrast, contrastOfLuminance, luminance } from '../colour/contrast';
import { nearestShade } from '../colour/shade';
import type { Slot } from '../slot/slot';
import { Colour } from '../values';
import { cssString } from './html';
import type { PageLook } from './look';

useMode(modeRgb);
useMode(modeLrgb);
useMode(modeXyz65);
useMode(modeLab65);
useMode(modeOklab);
useMode(modeOklch);

/** The colours of a page that go with a graphic, and the type of its headings. */
export const PageColours = z.object({
  /** What it stands on. */
  ground: Colour,
  /** Running text. */
  words: Colour,
  /** Headings, marks, buttons. */
  accent: Colour,
  /** The line around the graphic; null for none. */
  border: Colour.nullable(),
  /** A family that ships; null for the page's own. */
  heading: z.string().min(1).max(80).nullable(),
});
export type PageColours = z.infer<typeof PageColours>;

/** What a page's colours have to reach: WCAG 2.2, 1.4.6 (AAA) for running text, 1.4.3 (AA) for headings, 1.4.11 for lines. */
const NEEDED = { words: 7, accent: 4.5, border: 3 };
/** How light (OKLCH) and how strongly tinted grounds are, and how many of each kind are offered: pale before dark. */
const GROUNDS = [
  { l: 0.975, chroma: 0.018, most: 3 },
  { l: 0.92, chroma: 0.045, most: 1 },
  { l: 0.24, chroma: 0.04, most: 2 },
];
/** So many of the most vivid colours become headings in turn. */
const VIVID = 3;
/** Grounds nearer than this (CIEDE2000) are one. */
const ALIKE = 2.5;

const oklch = converter('oklch');
const apart = differenceCiede2000();
const mixed = (a: string, b: string, share: number) => formatHex(interpolate([a, b], 'oklab')(share));

/** A colour's hue at another lightness and no more than a chroma (OKLCH), within sRGB. */
function toned(colour: string, l: number, most: number): string {
  const own = oklch(colour) ?? { mode: 'oklch' as const, l: 0.5, c: 0 };
  return formatHex(clampChroma({ ...own, l, c: Math.min(own.c, most) }, 'oklch'));
}

/** The colours a page has now: a slot's ground and border, and its site's look. */
export function coloursOf({ ground, border }: Pick<Slot, 'ground' | 'border'>, look: PageLook): PageColours {
  const { ink: words, accent } = look.colours;
  return { ground, words, accent, border: border?.colour ?? null, heading: null };
}

/** A contrast that a palette's colours miss, and what they have: empty where all can be read. */
export function missedContrasts({
  ground,
  words,
  accent,
}: PageColours): { of: 'words' | 'accent'; contrast: number; needed: number }[] {
  // Of what is chosen by hand no more is asked than WCAG 2.2, 1.4.3 (AA).
  return (['words', 'accent'] as const).flatMap((of) => {
    const own = contrast(of === 'words' ? words : accent, ground);
    return own < 4.5 ? [{ of, contrast: own, needed: 4.5 }] : [];
  });
}

/**
 * Palettes for a page around a graphic, made of the colours it is made of (most of it first): a ground tinted with each,
 * pale before dark, words and headings that pass on it, a line where the slot has one. In order: first what goes with
 * most of the picture. All pass: words 7 : 1, headings 4.5 : 1, lines 3 : 1.
 */
export function palettesFor(made: readonly string[], bordered: boolean): PageColours[] {
  const found: PageColours[] = [];
  const vivid = [...made].sort((a, b) => (oklch(b)?.c ?? 0) - (oklch(a)?.c ?? 0)).slice(0, VIVID);
  for (const { l, chroma, most } of GROUNDS) {
    let left = most;
    for (const colour of made) {
      if (!left) break;
      const ground = toned(colour, l, chroma);
      if (found.some((f) => apart(f.ground, ground) < ALIKE)) continue;
      const behind = luminance(ground);
      const passing = (needed: number) => (own: number) => contrastOfLuminance(own, behind) >= needed;
      const words = nearestShade(toned(colour, l > 0.5 ? 0.28 : 0.94, 0.03), passing(NEEDED.words));
      // Another of the vivid ones each time, so that there is something to choose.
      const turned = vivid.map((_, i) => vivid[(i + found.length) % vivid.length]!);
      let accent: string | null = null;
      for (const c of turned) accent ??= nearestShade(c, passing(NEEDED.accent));
      const border = bordered ? nearestShade(colour, passing(NEEDED.border)) : null;
      if (!words || !accent || (bordered && !border)) continue;
      found.push({ ground, words, accent, border, heading: null });
      left--;
    }
  }
  return found;
}

/** A slot on a page of other colours. */
export function slotWith<S extends Pick<Slot, 'ground' | 'border'>>(slot: S, { ground, border }: PageColours): S {
  return { ...slot, ground, border: border ? { width: slot.border?.width ?? 1, colour: border } : null };
}

/** A look in other colours: what is said by the way, lines and the foot between words and ground. */
export function lookWith(look: PageLook, { ground, words, accent, heading }: PageColours): PageLook {
  const quiet = mixed(words, ground, 0.25);
  return {
    ...look,
    type: heading ? { ...look.type, heading } : look.type,
    colours: {
      ...look.colours,
      ink: words,
      title: accent,
      quiet: contrast(quiet, ground) >= 4.5 ? quiet : words,
      accent,
      soft: mixed(accent, ground, 0.5),
      paper: ground,
      foot: mixed(words, ground, 0.92),
      line: mixed(words, ground, 0.8),
    },
  };
}

/** Colours and type as CSS custom properties, for whoever keeps the page. */
export function coloursCss({ ground, words, accent, border, heading }: PageColours): string {
  const lines = [
    `  --page-ground: ${ground};`,
    `  --page-words: ${words};`,
    `  --page-accent: ${accent};`,
    ...(border ? [`  --page-border: ${border};`] : []),
    ...(heading ? [`  --page-heading: ${/^[\w ]+$/.test(heading) ? `"${heading}"` : cssString(heading)};`] : []),
  ];
  return `:root {\n${lines.join('\n')}\n}\n`;
}
