import { clampChroma, converter, formatHex, modeLrgb, modeOklab, modeOklch, modeRgb, useMode } from 'culori/fn';
import type { Stop } from './fill';
import { channelsOf } from './srgb';

useMode(modeRgb);
useMode(modeLrgb);
useMode(modeOklab);
useMode(modeOklch);
const toOklch = converter('oklch');

/** A stop as a canvas takes it: straight (not premultiplied) alpha in CSS notation. */
export interface DrawnStop {
  readonly at: number;
  readonly css: string;
}

/** Steps into which a stretch between unequal opacities is cut; with these no channel is off by more than one. */
const CUTS = 24;

/**
 * Stops so close that a canvas, which mixes straight colours (HTML, the 2D rendering context, fill styles), gives what
 * premultiplied mixing gives (CSS Images 4, section 3.4.2, "coloring the gradient line"): from transparent to a colour
 * without a dirty middle. Encoded sRGB.
 */
export function drawnStops(stops: readonly Stop[]): DrawnStop[] {
  const css = ([r, g, b]: readonly number[], a: number) =>
    `rgb(${[r, g, b].map((n) => Math.round(n! * 100) / 100).join(' ')} / ${Math.round(a * 1e5) / 1e5})`;
  return stops.flatMap((stop, i) => {
    const next = stops[i + 1];
    const own = channelsOf(stop.colour);
    const here = { at: stop.at, css: css(own, stop.opacity) };
    if (!next || next.opacity === stop.opacity || next.at <= stop.at) return [here];
    const theirs = channelsOf(next.colour);
    return Array.from({ length: CUTS + 1 }, (_, k) => {
      const t = k / CUTS;
      const a = stop.opacity + (next.opacity - stop.opacity) * t;
      const part = (n: number, m: number) => (n * stop.opacity * (1 - t) + m * next.opacity * t) / a;
      // Where nothing is left, the colour it goes to or comes from.
      const mixed = a > 0 ? own.map((n, c) => part(n, theirs[c]!)) : stop.opacity > 0 ? own : theirs;
      return { at: stop.at + (next.at - stop.at) * t, css: css(mixed, a) };
    });
  });
}

/** How far apart in lightness (OKLCH, 0…1) a darker and a lighter of one hue are made. Common practice, no source. */
const APART = 0.16;

/**
 * A darker and a lighter shade of one hue, the colour between them where there is room (OKLCH, CSS Color 4 section
 * 9.4); what lies outside sRGB loses chroma (section 13).
 */
export function twoShades(hex: string): [darker: string, lighter: string] {
  const own = toOklch(hex) ?? { mode: 'oklch' as const, l: 0.5, c: 0, h: 0 };
  const middle = Math.min(1 - APART / 2, Math.max(APART / 2, own.l));
  const at = (l: number) => formatHex(clampChroma({ ...own, l }, 'oklch'));
  return [at(middle - APART / 2), at(middle + APART / 2)];
}
