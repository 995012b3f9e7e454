import * as z from 'zod';
import {
  PageColours,
  bad,
  good,
  endingFor,
  formatNamed,
  identify,
  isSafeName,
  nextFreeName,
  fileFormats,
  formatsText,
  isFileFormat,
  pictureFormats,
  valueOf,
  type Result,
} from '@bright-slot/core';
import type { NotTaken } from './connector';
import { drawsOnly } from './drawings';
import type { SiteStore, StoredPicture } from './store';

/** What the stand-in keeps at most, of all graphics together. */
export const MOST_PICTURES = 2000;
const MOST_STORED = 500 * 2 ** 20;

const Fields = z.object({
  name: z.string().max(200),
  slot: z.string().max(80),
  alt: z.string().max(500),
  graphicId: z.string().max(64),
  graphicName: z.string().max(120),
  graphicState: z.string().max(60).optional(),
  /** JSON of `PageColours`. */
  colours: z.string().max(400).transform(valueOf).pipe(PageColours).optional(),
});

/** Checks a picture by its content, then keeps it under the server's own name. */
export async function receive(
  store: SiteStore,
  hasSlot: (id: string) => boolean,
  bytes: Uint8Array | undefined,
  body: unknown,
): Promise<Result<StoredPicture> | NotTaken> {
  const fields = Fields.safeParse(body);
  if (!bytes || !fields.success)
    return bad('malformed', 'A picture with its name, slot and description has to be sent.');
  const { name, slot, alt, graphicId, graphicName, graphicState, colours } = fields.data;
  if (!hasSlot(slot)) return bad('no-slot', 'The site has no such slot.');
  if (!isSafeName(name))
    return bad('name', `“${name}” cannot be used in an address: small letters, digits and hyphens only.`);
  const facts = identify(bytes, name);
  if (!facts.ok) return facts;
  const { type, width, height } = facts.value;
  if (!isFileFormat(type)) return bad('type', `The site takes ${formatsText(fileFormats)}. Choose one of them.`);
  if (type === 'svg' && !drawsOnly(bytes, `“${name}”`))
    return bad('drawing', `“${name}” does more than draw. Save it as plain SVG, or as a PNG.`);
  if (formatNamed(name) !== type)
    return bad(
      'name',
      `“${name}” holds ${pictureFormats[type].name}, whatever its name ends in. Name it .${endingFor(type)}.`,
    );
  const kept = store.pictures();
  const used = kept.reduce((sum, p) => sum + p.bytes, 0);
  if (kept.length >= MOST_PICTURES || used + bytes.length > MOST_STORED)
    return bad(
      'full',
      `The site has no room left: it keeps ${MOST_PICTURES} pictures and ${MOST_STORED / 2 ** 20} MB. Take some away there first.`,
    );
  const own = { name, type, width, height, bytes: bytes.length, alt, slot, ...(colours ? { colours } : {}) };
  // Two that come at the same moment under one name: one of them has it.
  const added = await store.add(
    { ...own, graphic: { id: graphicId, name: graphicName, ...(graphicState ? { state: graphicState } : {}) } },
    bytes,
  );
  if (added) return good(added);
  const next = nextFreeName(name, new Set(store.pictures().map((p) => p.name)));
  return {
    ok: false,
    problem: {
      code: 'name-taken',
      message: `The site already has a “${name}”. The next free name is “${next}”.`,
      next,
    },
  };
}
