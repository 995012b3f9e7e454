import * as z from 'zod';
import {
  bad,
  good,
  identify,
  isSafeName,
  nextFreeName,
  potterySlots,
  type Problem,
  type Result,
} from '@bright-slot/core';
import type { SiteStore, StoredPicture } from './store';

const Fields = z.object({
  name: z.string().max(200),
  slot: z.string().max(80),
  alt: z.string().max(500),
  graphicId: z.string().max(64),
  graphicName: z.string().max(120),
});

/** Checks a picture by its content, then keeps it under the server's own name. */
export async function receive(
  store: SiteStore,
  bytes: Uint8Array | undefined,
  body: unknown,
): Promise<Result<StoredPicture> | { ok: false; problem: Problem & { next: string } }> {
  const fields = Fields.safeParse(body);
  if (!bytes || !fields.success)
    return bad('malformed', 'A picture with its name, slot and description has to be sent.');
  const { name, slot, alt, graphicId, graphicName } = fields.data;
  if (!potterySlots.some((s) => s.id === slot)) return bad('no-slot', 'The site has no such slot.');
  if (!isSafeName(name))
    return bad('name', `“${name}” cannot be used in an address: small letters, digits and hyphens only.`);
  const facts = identify(bytes, name);
  if (!facts.ok) return facts;
  const { type, width, height } = facts.value;
  if (type !== 'jpeg' && type !== 'png' && type !== 'webp')
    return bad('type', 'The site takes JPEG, PNG and WebP. Choose one of them.');
  const taken = new Set(store.pictures().map((p) => p.name));
  if (taken.has(name)) {
    const next = nextFreeName(name, taken);
    return {
      ok: false,
      problem: {
        code: 'name-taken',
        message: `The site already has a “${name}”. The next free name is “${next}”.`,
        next,
      },
    };
  }
  return good(
    await store.add(
      { name, type, width, height, bytes: bytes.length, alt, slot, graphic: { id: graphicId, name: graphicName } },
      bytes,
    ),
  );
}
