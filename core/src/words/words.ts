import '../zod-setup';
import * as z from 'zod';
import { cutText } from '../text';
import { limits } from '../limits';
import { Colour } from '../values';
import { wordsAppearance } from './appearance';
import { coordinate, extent } from '../geometry/lengths';

export const Face = z.object({
  family: z.string().min(1).max(80),
  weight: z.number().min(1).max(1000),
  italic: z.boolean(),
});
export type Face = z.infer<typeof Face>;

/** How words are set, whatever was typed; `title` begins each word large. */
export const LetterCase = z.enum(['typed', 'upper', 'lower', 'title']);
export type LetterCase = z.infer<typeof LetterCase>;

/** A stretch of words that look alike. Size in canvas px. */
export const Run = z.object({
  text: z.string().max(limits.letters),
  face: Face,
  size: z.number().min(1).max(4000),
  colour: Colour,
  /** Added after each letter, in ems: 0.05 is a twentieth of the size. */
  tracking: z.number().min(-0.5).max(3),
  case: LetterCase,
});
export type Run = z.infer<typeof Run>;

export const Align = z.enum(['left', 'centre', 'right']);
export type Align = z.infer<typeof Align>;

/** Where in its width a line is held, by its alignment: 0 is its left edge, 1 its right. */
export const alignShare: Readonly<Record<Align, number>> = { left: 0, centre: 0.5, right: 1 };

export const Paragraph = z.object({ align: Align, runs: z.array(Run).min(1) });
export type Paragraph = z.infer<typeof Paragraph>;

/** What a field can stand for: it is written as `{business}`, `{address}`, `{date}`. */
export const fieldNames = ['business', 'address', 'date'] as const;
export type FieldName = (typeof fieldNames)[number];

/** A field's place in text, such as `{date}`. */
export const FIELD = new RegExp(`\\{(${fieldNames.join('|')})\\}`, 'g');

/**
 * How large a block of words is. `grow`: as its words are. `wrap`: its lines break at a width. `fill`: its words are
 * sized, all in proportion, to fill a box. Canvas px.
 */
export const Sizing = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('grow') }),
  z.object({ kind: z.literal('wrap'), width: extent }),
  z.object({ kind: z.literal('fill'), width: extent, height: extent }),
]);
export type Sizing = z.infer<typeof Sizing>;

/** What a block of words is, whatever it is part of. */
export const wordsBlock = {
  paragraphs: z.array(Paragraph).min(1).max(limits.lines),
  /** Line pitch as a multiple of the size. */
  lineSpacing: z.number().min(0.5).max(4),
  /** Room between paragraphs beside that, as a multiple of the size. */
  paragraphSpacing: z.number().min(0).max(4),
  /** `x` is the left edge, middle or right edge, as the words are aligned; `y` the top of the first line. Canvas px. */
  place: z.object({ x: coordinate, y: coordinate }),
  sizing: Sizing,
  /** What its fields say, as last looked up; `frozen` since they were sent. */
  fields: z.object({ values: z.partialRecord(z.enum(fieldNames), z.string().max(500)), frozen: z.boolean() }),
  ...wordsAppearance,
};
export type WordsBlock = { [K in keyof typeof wordsBlock]: z.infer<(typeof wordsBlock)[K]> };

/** What words had before they could be wrapped and hold fields. */
export const plainBlock = {
  paragraphSpacing: 0,
  sizing: { kind: 'grow' },
  fields: { values: {}, frozen: false },
} as const satisfies Partial<WordsBlock>;

/** A block's text, a line break between paragraphs. */
export function textOf(block: WordsBlock): string {
  return block.paragraphs.map((p) => p.runs.map((r) => r.text).join('')).join('\n');
}

/** The run that stands for the block where one value is shown for all of it. */
export function firstRun(block: WordsBlock): Run {
  return block.paragraphs[0]!.runs[0]!;
}

/**
 * What of a text one block of words takes: no more lines and letters than it holds. Looked at before anything is laid
 * out, since a pasted book would keep the page busy for a minute. Control characters go, tabs become spaces.
 */
export function wordsTaken(text: string): { readonly text: string; readonly left: string } {
  const most = limits.letters;
  const plain = cutText(text, most + 2)
    .toWellFormed()
    .replace(/\r\n?|[\u2028\u2029\u0085\v\f]/g, '\n')
    .replace(/\t/g, '  ')

    .replace(/[\u0000-\u0009\u000b-\u001f\u007f]/g, '');
  const lines = plain.split('\n');
  const taken = cutText(lines.slice(0, limits.lines).join('\n'), most);
  const left =
    text.length > most
      ? `One block of words holds ${most.toLocaleString('en-GB')} letters; what came after them was left out.`
      : lines.length > limits.lines
        ? `One block of words holds ${limits.lines} lines; ${lines.length - limits.lines} after them were left out.`
        : '';
  return { text: taken, left };
}

/** A block of words with a change made to each of its runs. */
export function withRuns<B extends WordsBlock>(block: B, change: Partial<Omit<Run, 'text'>>): B {
  return {
    ...block,
    paragraphs: block.paragraphs.map((p) => ({ ...p, runs: p.runs.map((r) => ({ ...r, ...change })) })),
  };
}
