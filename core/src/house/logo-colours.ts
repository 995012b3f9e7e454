import { contrast, luminance } from '../colour/contrast';
import { channelsOf } from '../colour/srgb';
import { plainHouseStyle, type ColourRole, type HouseColour } from './house-style';

/** Least contrast of words to the ground they stand on. WCAG 2.2, success criterion 1.4.6 (enhanced). */
const READ = 7;

/** How far a colour is from grey: the largest of its encoded channels less the smallest, 0…1. */
function vividness(hex: string): number {
  const channels = channelsOf(hex);
  return (Math.max(...channels) - Math.min(...channels)) / 255;
}

/**
 * House colours from those of a logo (#rrggbb, the weightiest first): its most vivid the accent, the next the second,
 * its darkest for words and its lightest for grounds where those two are read on one another. What a logo lacks comes
 * from the usual ones.
 */
export function logoColours(palette: readonly string[]): HouseColour[] {
  const own = [...new Set(palette)];
  const byLight = [...own].sort((a, b) => luminance(a) - luminance(b));
  const usual = (role: ColourRole) => plainHouseStyle.colours.find((c) => c.role === role)!.colour;
  const darkest = byLight[0];
  const lightest = byLight.at(-1);
  const ground = lightest && contrast(lightest, usual('words')) >= READ ? lightest : usual('ground');
  const words = darkest && contrast(darkest, ground) >= READ ? darkest : usual('words');
  const vivid = own.filter((c) => vividness(c) > 0.12).sort((a, b) => vividness(b) - vividness(a));
  const [accent = words, second] = [...vivid, ...own.filter((c) => !vivid.includes(c) && c !== ground)];
  const roles: [string, string | undefined, ColourRole][] = [
    ['Words', words, 'words'],
    ['Ground', ground, 'ground'],
    ['Accent', accent, 'accent'],
    ['Second', second, 'second'],
  ];
  const named: HouseColour[] = [{ name: 'White', colour: '#ffffff', role: null }];
  for (const [name, colour, role] of roles) if (colour !== undefined) named.push({ name, colour, role });
  const rest = own.filter((c) => c !== '#ffffff' && !named.some((n) => n.colour === c));
  return [...named, ...rest.map((colour, i) => ({ name: `Logo ${i + 1}`, colour, role: null }))];
}
