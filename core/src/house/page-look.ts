import { neutralLook, type PageLook } from '../page/look';
import type { HouseStyle } from './house-style';

/** The pages of a person's own site, as far as the house style says what they look like. */
export function lookOf({ business, address, type, colours }: HouseStyle): PageLook {
  const accent = colours.find((c) => c.role === 'accent')?.colour ?? neutralLook.colours.accent;
  const host = address
    .trim()
    .replace(/^https?:\/\//, '')
    .replace(/\/$/, '');
  return {
    ...neutralLook,
    business: business.trim(),
    address: host,
    type: { heading: type.heading.family, body: type.body.family },
    colours: { ...neutralLook.colours, accent },
  };
}
