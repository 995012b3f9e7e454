import '../zod-setup';
import * as z from 'zod';
import { PageKind } from '../slot/slot';
import { Colour } from '../values';

const text = z.string().max(600);
const family = z.string().min(1).max(80);

/** Path data of a drawing in a box of 60 × 56: letters of SVG's path commands, figures and what stands between them. */
const Drawing = z
  .string()
  .max(2000)
  .regex(/^[MLHVCSQTAZmlhvcsqtaz\d\s.,+-]*$/);

/** What a site's pages say, in which type and colours. */
export const PageLook = z.object({
  business: z.string().max(120),
  address: z.string().max(300),
  type: z.object({ heading: family, body: family }),
  colours: z.object({
    /** Running text, headings, what is said by the way. */
    ink: Colour,
    title: Colour,
    quiet: Colour,
    /** Marks and buttons, and the line under what is chosen. */
    accent: Colour,
    soft: Colour,
    /** What it stands on where nothing else does, its foot, and hairlines. */
    paper: Colour,
    foot: Colour,
    line: Colour,
    /** Grounds of drawings, and the drawings on them. */
    tints: z.array(z.object({ ground: Colour, mark: Colour })).length(6),
  }),
  /** Drawings that stand for goods where no picture of ours does. */
  goods: z.array(Drawing).min(1).max(12),
  menu: z.array(text).length(4),
  foot: z.object({ where: text, open: text, write: text }),
  /** The words of each kind of page; what is not given is as neutral as the page. */
  words: z.partialRecord(PageKind, z.record(z.string().max(20), text)),
});
export type PageLook = z.infer<typeof PageLook>;

/** Pages of nobody's: what shows where nothing was given. */
export const neutralLook: PageLook = {
  business: '',
  address: '',
  type: { heading: 'Public Sans', body: 'Public Sans' },
  colours: {
    ink: '#33383b',
    title: '#23282b',
    quiet: '#5d666b',
    accent: '#3c5866',
    soft: '#8fa9b5',
    paper: '#fafbfb',
    foot: '#e9edee',
    line: '#d5dbdd',
    tints: [
      { ground: '#d6dde0', mark: '#4c626c' },
      { ground: '#c3d0cd', mark: '#3d5852' },
      { ground: '#d3cdc2', mark: '#5d5445' },
      { ground: '#7f8d94', mark: '#eef2f3' },
      { ground: '#5c6b72', mark: '#e3e9eb' },
      { ground: '#e2e2dd', mark: '#63635a' },
    ],
  },
  goods: [
    // A box, a bag, a ball, a lamp, a book, a leaf.
    'M12 18h36v30H12z M12 18l6-8h24l6 8z',
    'M14 20h32l4 30H10z M22 20v-4a8 8 0 0 1 16 0v4',
    'M30 10a19 19 0 1 0 .1 0z',
    'M20 10h20l8 22H12z M28 32h4v14h8v4H20v-4h8z',
    'M10 14c8-3 14-3 20 1 6-4 12-4 20-1v32c-8-3-14-3-20 1-6-4-12-4-20-1z',
    'M10 46c0-22 14-34 40-36 0 24-12 38-34 34z',
  ],
  menu: ['Shop', 'Services', 'Journal', 'Find us'],
  foot: { where: 'Where we are', open: 'Monday to Friday', write: 'hello@{address}' },
  words: {},
};

const OWN = { business: 'Your business', address: 'your-site.example' };

/** A text of a page with the business and its address put where it asks for them; not escaped. */
export function filled(words: string, { business, address }: PageLook): string {
  return words.replaceAll('{business}', business || OWN.business).replaceAll('{address}', address || OWN.address);
}
