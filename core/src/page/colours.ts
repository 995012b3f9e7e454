import '../zod-setup';
import * as z from 'zod';
import { Colour } from '../values';

/** The colours of a page that go with a graphic. */
export const PageColours = z.object({
  /** What it stands on. */
  ground: Colour,
  /** Running text. */
  words: Colour,
  /** Headings, marks, buttons. */
  accent: Colour,
  /** The line around the graphic; null for none. */
  border: Colour.nullable(),
});
export type PageColours = z.infer<typeof PageColours>;
