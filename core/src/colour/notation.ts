import {
  clampChroma,
  converter,
  formatHex,
  modeHsl,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeRgb,
  useMode,
  parse,
  type Color,
} from 'culori/fn';

useMode(modeRgb);
useMode(modeLrgb);
useMode(modeHsl);
useMode(modeOklab);
useMode(modeOklch);

/** How a colour is written in figures. */
export type Notation = 'rgb' | 'hsl' | 'oklch';

export interface Channel {
  readonly name: string;
  readonly most: number;
  readonly unit: string;
  readonly places: number;
}

/** The figures of each notation, as CSS Color 4 has them: sections 5 (rgb), 7 (hsl), 9.4 (oklch). */
export const notations: Readonly<Record<Notation, readonly [Channel, Channel, Channel]>> = {
  rgb: [
    { name: 'Red', most: 255, unit: '', places: 0 },
    { name: 'Green', most: 255, unit: '', places: 0 },
    { name: 'Blue', most: 255, unit: '', places: 0 },
  ],
  hsl: [
    { name: 'Hue', most: 360, unit: '°', places: 0 },
    { name: 'Saturation', most: 100, unit: '%', places: 0 },
    { name: 'Lightness', most: 100, unit: '%', places: 0 },
  ],
  oklch: [
    { name: 'Lightness', most: 100, unit: '%', places: 1 },
    { name: 'Chroma', most: 0.4, unit: '', places: 3 },
    { name: 'Hue', most: 360, unit: '°', places: 0 },
  ],
};

/** A colour as sRGB has it: as it is where it fits, else with less chroma (CSS Color 4, section 13). */
function fitting(colour: Color): string {
  const { r, g, b } = to.rgb(colour);
  const fits = [r, g, b].every((n) => n > -1e-4 && n < 1 + 1e-4);
  return formatHex(fits ? { mode: 'rgb', r, g, b } : clampChroma(to.oklch(colour), 'oklch'));
}

const to = { rgb: converter('rgb'), hsl: converter('hsl'), oklch: converter('oklch') };

type Figures = readonly [number, number, number];

/** A colour (`#rrggbb`) in the figures of a notation; a grey has hue 0. */
export function figuresOf(hex: string, notation: Notation): Figures {
  switch (notation) {
    case 'rgb': {
      const c = to.rgb(hex)!;
      return [c.r * 255, c.g * 255, c.b * 255];
    }
    case 'hsl': {
      const c = to.hsl(hex)!;
      return [c.h ?? 0, c.s * 100, c.l * 100];
    }
    case 'oklch': {
      const c = to.oklch(hex)!;
      return [c.l * 100, c.c, c.h ?? 0];
    }
  }
}

/** The colour that figures stand for; what lies outside sRGB loses chroma (CSS Color 4, section 13). */
export function colourOf(notation: Notation, [a, b, c]: Figures): string {
  switch (notation) {
    case 'rgb':
      return formatHex({ mode: 'rgb', r: a / 255, g: b / 255, b: c / 255 });
    case 'hsl':
      return formatHex({ mode: 'hsl', h: a, s: b / 100, l: c / 100 });
    case 'oklch':
      return fitting({ mode: 'oklch', l: a / 100, c: b, h: c });
  }
}

/** A colour as someone types or pastes it: hex with or without its mark, short or long, or any CSS notation known here. */
export function readColour(text: string): string | null {
  const typed = text.trim().toLowerCase();
  const read = parse(/^[0-9a-f]{3}([0-9a-f]{3})?$/.test(typed) ? `#${typed}` : typed);
  return read ? fitting(read) : null;
}
