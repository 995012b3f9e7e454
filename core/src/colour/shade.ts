import { clampChroma, converter, formatHex, modeOklch, modeRgb, modeLrgb, modeOklab, useMode } from 'culori/fn';
import { luminance } from './contrast';

useMode(modeRgb);
useMode(modeLrgb);
useMode(modeOklab);
useMode(modeOklch);
const toOklch = converter('oklch');

/** Chroma below which a colour is a grey; its shades then run from black to white. */
const GREY = 0.03;

/**
 * The shade of a colour, nearest to it in lightness, whose luminance passes; null when none does.
 * A shade has the same hue in OKLCH (CSS Color 4, section 9.4) and at least half of what chroma it began with,
 * so that it is still that colour; what lies outside sRGB loses chroma (CSS Color 4, section 13).
 */
export function nearestShade(hex: string, passes: (luminance: number, hex: string) => boolean): string | null {
  const own = toOklch(hex);
  if (!own) return null;
  if (passes(luminance(hex), hex)) return hex;
  const grey = own.c < GREY;
  for (let step = 1; step <= 250; step++)
    for (const l of [own.l + step / 250, own.l - step / 250]) {
      if (l < 0 || l > 1) continue;
      const shade = clampChroma({ ...own, l }, 'oklch');
      if (!grey && shade.c < own.c / 2) continue;
      const made = formatHex(shade);
      if (passes(luminance(made), made)) return made;
    }
  return null;
}
