import '../zod-setup';
import * as z from 'zod';
import type { Family } from './families';

/** A font file larger than this is none for the web, bytes. Common practice, no source. */
export const MOST_FONT_BYTES = 12_000_000;

/** What is kept of a font that was brought in, beside its bytes. */
export const BroughtFont = z.object({
  /** SHA-256 of its bytes as bare OpenType. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  family: z.string().min(1).max(80),
  weights: z.tuple([z.number().min(1).max(1000), z.number().min(1).max(1000)]),
  italic: z.boolean(),
  /** What the file says of its licence and its makers. */
  licence: z.string().max(1000),
  added: z.number(),
});
export type BroughtFont = z.infer<typeof BroughtFont>;

/** The stem of the file that a brought font is kept under. */
export const broughtFile = (hash: string) => `own-${hash}`;

/** The hash of a brought font by the stem of its file; null for one that ships. */
export const broughtHash = (stem: string): string | null => (stem.startsWith('own-') ? stem.slice(4) : null);

/** A brought font as a family beside those that ship. */
export function broughtFamily({ family, weights, hash }: BroughtFont): Family {
  return { name: family, kind: 'own', weights, italic: false, file: broughtFile(hash) };
}

/** What a font file is by its first bytes. OpenType 1.9, "Organization of an OpenType font"; WOFF2, section 3. */
export function fontKind(bytes: Uint8Array): 'opentype' | 'woff2' | 'collection' | 'woff' | null {
  const tag = String.fromCharCode(...bytes.subarray(0, 4));
  if (tag === '\0\u0001\0\0' || tag === 'OTTO' || tag === 'true') return 'opentype';
  return tag === 'wOF2' ? 'woff2' : tag === 'ttcf' ? 'collection' : tag === 'wOFF' ? 'woff' : null;
}
