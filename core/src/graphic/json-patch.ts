import { immutableJSONPatch, type JSONPatchDocument } from 'immutable-json-patch';
import { create } from 'jsondiffpatch';
import { format } from 'jsondiffpatch/formatters/jsonpatch';
import '../zod-setup';
import * as z from 'zod';

/** A JSON Pointer (RFC 6901) into a document of ours: none reaches what every object inherits. */
const Pointer = z.string().refine((path) => !/(^|\/)(__proto__|constructor|prototype)(\/|$)/.test(path));

/** What changed from one document to the next: JSON Patch (RFC 6902, section 4). */
export const Patch = z.array(
  z.discriminatedUnion('op', [
    z.object({ op: z.literal('add'), path: Pointer, value: z.unknown() }),
    z.object({ op: z.literal('remove'), path: Pointer }),
    z.object({ op: z.literal('replace'), path: Pointer, value: z.unknown() }),
    z.object({ op: z.literal('move'), from: Pointer, path: Pointer }),
  ]),
);
export type Patch = z.infer<typeof Patch>;

/**
 * Things with an id are the same thing wherever they stand; of the others their place says so, which costs no
 * comparing of each with each.
 */
const differ = create({
  objectHash: (item, index) => (item as { id?: string }).id ?? `at-${index}`,
  arrays: { detectMove: true },
});

/**
 * The patch that makes `after` of `before`, both plain JSON values; null where none was found that does. It was
 * applied once and its outcome compared: a patch that is given is right.
 */
export function patchBetween(before: object, after: object): Patch | null {
  try {
    const made = Patch.safeParse(format(differ.diff(before, after)));
    return made.success && differ.diff(patched(before, made.data), after) === undefined ? made.data : null;
  } catch {
    return null;
  }
}

/** A value after a patch; what the patch does not touch is shared with it. Null where the patch is not of this value. */
export function patched(value: unknown, patch: Patch): unknown {
  try {
    return immutableJSONPatch(value, patch as JSONPatchDocument);
  } catch {
    return null;
  }
}
