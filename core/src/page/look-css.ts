import { cssString } from './html';
import type { PageLook } from './look';

/** A family as the app and a site's pages have it, after which what the system has stands in. */
const stack = (family: string) =>
  `${cssString(`${family} Variable`)},${cssString(family)},${/lora|serif|playfair|fraunces|bitter|slab/i.test(family) ? 'serif' : 'sans-serif'}`;

/** The type and colours of a site's pages, as CSS custom properties. */
export function lookCss({ type, colours }: PageLook): string {
  const { tints, ...plain } = colours;
  const own = Object.entries(plain).map(([name, colour]) => `--${name}:${colour}`);
  return `.page-frame{--heading:${stack(type.heading)};--body:${stack(type.body)};${own.join(';')}}
${tints.map(({ ground, mark }, i) => `.page .tint-${i}{background:${ground}}.page .tint-${i} svg{fill:${mark};stroke:${mark}}`).join('\n')}`;
}
