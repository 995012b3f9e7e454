import '../zod-setup';
import * as z from 'zod';
import { Shadow } from '../pixels/appearance';
import { Colour, Share as share } from '../values';

/** A line around letters, outside them. Width in canvas px. */
export const LetterOutline = z.object({ width: z.number().min(0.1).max(200), colour: Colour });
export type LetterOutline = z.infer<typeof LetterOutline>;

/** A sheet of one colour right behind words: how far it reaches past their lines, and its corners, canvas px. */
export const WordsGround = z.object({
  colour: Colour,
  opacity: share,
  across: z.number().min(0).max(2000),
  down: z.number().min(0).max(2000),
  radius: z.number().min(0).max(2000),
});
export type WordsGround = z.infer<typeof WordsGround>;

export const wordsAppearance = {
  outline: LetterOutline.nullable(),
  shadow: Shadow.nullable(),
  ground: WordsGround.nullable(),
  /** Degrees clockwise, about the middle of all that is drawn. */
  turn: z.number().min(-360).max(360),
};
export type WordsAppearance = { [K in keyof typeof wordsAppearance]: z.infer<(typeof wordsAppearance)[K]> };

/** Words as they are written: nothing around them. */
export const plainWordsAppearance: WordsAppearance = { outline: null, shadow: null, ground: null, turn: 0 };
