import same from 'fast-deep-equal';
import { contrast } from '../colour/contrast';
import type { LayoutLook } from '../graphic/contents';
import { colourRoles, type HouseStyle } from '../house/house-style';

const PAPER = '#f7f4ee';
const INK = '#1f2a30';

/** A house style as layouts are made of it; `leading` where another of its colours is to lead. */
export function layoutLook({ colours, type }: HouseStyle, leading?: string): LayoutLook {
  const of = (...roles: (typeof colourRoles)[number][]) =>
    roles.flatMap((role) => colours.find((c) => c.role === role)?.colour ?? [])[0];
  const paper = of('ground') ?? PAPER;
  const words = of('words') ?? INK;
  const lead = leading ?? of('accent', 'second', 'words') ?? INK;
  const rest = colours.map((c) => c.colour).filter((c) => c !== lead && c !== paper);
  return {
    paper,
    ink: contrast(words, paper) >= READ ? words : inkOn([INK, '#ffffff'], paper),
    leading: lead,
    colours: [lead, ...rest].slice(0, 24),
    heading: type.heading,
    body: type.body,
  };
}

/** Whether layouts made of two looks are alike. */
export const sameLook = (a: LayoutLook, b: LayoutLook): boolean => same(a, b);

/** Contrast that words of any size are read with: WCAG 2.2, success criterion 1.4.3. */
const READ = 4.5;

/** The first of some colours that is read on a ground; of black and white the better where none is. */
export function inkOn(colours: readonly string[], ground: string): string {
  const read = colours.find((c) => contrast(c, ground) >= READ);
  return read ?? (contrast('#ffffff', ground) >= contrast('#000000', ground) ? '#ffffff' : '#000000');
}
