import '../zod-setup';
import * as z from 'zod';
import { extent } from '../geometry/lengths';
import { limits } from '../limits';
import { AssetHash, Colour, Share } from '../values';
import { Face } from '../words/words';

/** A picture as it is put in a layout: its own px, and in shares of it the point to keep in sight and what is around it. */
export const PlacedPicture = z.object({
  asset: AssetHash,
  name: z.string().max(limits.name),
  natural: z.object({ width: extent, height: extent }),
  opaque: z.boolean(),
  vector: z.boolean(),
  focus: z.object({ x: Share, y: Share }),
  subject: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }).nullable(),
});
export type PlacedPicture = z.infer<typeof PlacedPicture>;

/** The places of a layout that words and pictures are put in. */
export const wordPlaces = ['title', 'line', 'note'] as const;
export type WordsPlace = (typeof wordPlaces)[number];
export const picturePlaces = ['photo', 'cutout', 'logo'] as const;
export type PicturePlace = (typeof picturePlaces)[number];

/** Most letters of each of a layout's words. */
export const contentLetters = { title: 120, line: 200, note: 40 } as const;

/** What is put into a layout: all of it the person's own. Words that are empty, and pictures that are null, have no place. */
export const LayoutContents = z.object({
  photo: PlacedPicture.nullable(),
  cutout: PlacedPicture.nullable(),
  logo: PlacedPicture.nullable(),
  title: z.string().max(contentLetters.title),
  line: z.string().max(contentLetters.line),
  note: z.string().max(contentLetters.note),
});
export type LayoutContents = z.infer<typeof LayoutContents>;

/** The colours and faces that a layout is made of. */
export const LayoutLook = z.object({
  /** What words, and what a quiet ground, are in. */
  ink: Colour,
  paper: Colour,
  /** What leads: bands, panels, grounds. */
  leading: Colour,
  /** All colours there are, the leading one first. */
  colours: z.array(Colour).min(1).max(24),
  heading: Face,
  body: Face,
});
export type LayoutLook = z.infer<typeof LayoutLook>;
