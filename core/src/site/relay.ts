import '../zod-setup';
import * as z from 'zod';
import { AssetHash } from '../values';
import { Secret, WayIn, WebAddress } from './way-in';

/** A file's name on a site, as it may be sent: no path, nothing that climbs. */
export const RemoteName = z
  .string()
  .min(1)
  .max(255)
  .regex(/^[^/\\\u0000-\u001f]+$/)
  .refine((name) => name !== '.' && name !== '..');

/** What the app asks its server to do at a site. */
export const RelayAsk = z.discriminatedUnion('do', [
  /** Signs in, writes a small file, reads it as a visitor, removes it. */
  z.object({ do: z.literal('try'), way: WayIn, secret: Secret }),
  /** The names in the folder. */
  z.object({ do: z.literal('names'), way: WayIn, secret: Secret }),
  /** A file's own bytes, which visitors may be shown otherwise. */
  z.object({ do: z.literal('read'), way: WayIn, secret: Secret, name: RemoteName }),
  /** Sends the file that comes with it. `over` is the digest of what it may replace; null where nothing may stand there. */
  z.object({
    do: z.literal('send'),
    way: WayIn,
    secret: Secret,
    name: RemoteName,
    over: AssetHash.nullable(),
    /** Names what is under way, so that a second try takes the first one's remains away. */
    token: z.string().regex(/^[a-z0-9]{8,40}$/),
  }),
  z.object({ do: z.literal('remove'), way: WayIn, secret: Secret, name: RemoteName, address: z.string().max(2000) }),
  /** Fetches what a visitor is shown at an address: as anyone gets it, and past caches. */
  z.object({ do: z.literal('look'), address: WebAddress, ownNetwork: z.boolean(), fresh: z.boolean() }),
]);
export type RelayAsk = z.infer<typeof RelayAsk>;

export const trySteps = ['signed-in', 'wrote', 'read', 'removed'] as const;
export type TryStep = (typeof trySteps)[number];

/** A line of the server's answer; the last is `done` or `problem`. */
export const RelayLine = z.discriminatedUnion('at', [
  z.object({ at: z.literal('step'), step: z.enum(trySteps), note: z.string().max(400) }),
  z.object({ at: z.literal('progress'), sent: z.number(), total: z.number() }),
  z.object({
    at: z.literal('problem'),
    code: z.string().max(40),
    message: z.string().max(600),
    step: z.enum(trySteps).optional(),
    /** A host key that has to be agreed to. */
    hostKey: z.string().max(100).optional(),
    /** Text that says what was left there. */
    left: z.string().max(300).optional(),
  }),
  z.object({
    at: z.literal('done'),
    names: z.array(z.string().max(300)).max(20_000).optional(),
    address: z.string().max(2000).optional(),
  }),
]);
export type RelayLine = z.infer<typeof RelayLine>;

/** What is known of an answer to a look, beside its bytes. */
export const LookFacts = z.object({
  status: z.number(),
  type: z.string().max(200),
  /** Seconds it lay in a cache, by the answer's own word (RFC 9111, section 5.1); null where it says nothing. */
  age: z.number().nullable(),
  address: z.string().max(2000),
});
export type LookFacts = z.infer<typeof LookFacts>;
