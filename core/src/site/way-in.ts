import '../zod-setup';
import * as z from 'zod';
import { bad, good, type Result } from '../problem';
import { readUrl } from '../text';

/** A name of the net or an address in figures, as it stands in an address. */
const Host = z
  .string()
  .min(1)
  .max(253)
  .regex(/^(\[[0-9a-f:.]+\]|[a-z0-9]([a-z0-9._-]*[a-z0-9])?)$/i);
const Port = z.number().int().min(1).max(65_535);
const word = z.string().max(200);

/** An http or https address without a name or password in it. */
export const WebAddress = z
  .string()
  .max(1000)
  .refine((text) => {
    const url = readUrl(text);
    if (!url) return false;
    const { protocol, username, password, hash } = url;
    return /^https?:$/.test(protocol) && !username && !password && !hash;
  });

/** A folder on a server: parts joined by `/`, none of which climbs out. */
export const Folder = z
  .string()
  .max(500)
  .refine((text) => !/[\u0000-\u001f\\]/.test(text) && !text.split('/').some((p) => p === '..' || p === '.'));

/** What the person was told of and wants nevertheless. */
const accepted = {
  /** What is sent can be read on the way: no TLS. */
  plain: z.boolean(),
  /** The host lies on this computer or its own network. */
  ownNetwork: z.boolean(),
};
/** Where visitors find what is sent: the address of its folder. */
const visitors = WebAddress;

const atHost = { host: Host, port: Port, user: word, folder: Folder, visitors };

/** How a site takes files. No passwords: those are a `Secret`. */
export const WayIn = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stand-in') }),
  /** RFC 4918; `address` is the folder's. */
  z.object({ kind: z.literal('webdav'), address: WebAddress, user: word, visitors, ...accepted }),
  /** `hostKey` is the fingerprint pinned at the first use, as OpenSSH writes it. */
  z.object({
    kind: z.literal('sftp'),
    ...atHost,
    hostKey: z.string().max(100).nullable(),
    ownNetwork: accepted.ownNetwork,
  }),
  /** RFC 4217, explicit TLS; without where `secure` is off. */
  z.object({ kind: z.literal('ftp'), ...atHost, secure: z.boolean(), ...accepted }),
  /** W3C Micropub; the endpoint, or its media endpoint itself. The site says where a file is. */
  z.object({ kind: z.literal('micropub'), address: WebAddress, ...accepted }),
  /** A form's address and its fields' names; `secretField` is the one that takes the password, if any. */
  z.object({
    kind: z.literal('form'),
    address: WebAddress,
    fileField: z.string().min(1).max(100),
    fields: z.array(z.object({ name: z.string().min(1).max(100), value: z.string().max(500) })).max(20),
    secretField: z.string().max(100),
    user: word,
    visitors,
    ...accepted,
  }),
  z.object({ kind: z.literal('by-hand'), visitors: visitors.or(z.literal('')), ownNetwork: accepted.ownNetwork }),
]);
export type WayIn = z.infer<typeof WayIn>;
export type WayKind = WayIn['kind'];
/** A way that files go by themselves on. */
export type OpenWay = Exclude<WayIn, { kind: 'stand-in' | 'by-hand' }>;

/** What signs in: a password or token, or a private key (PEM) that the password opens. Never stored as it is. */
export const Secret = z.object({ password: z.string().max(2000), key: z.string().max(20_000) });
export type Secret = z.infer<typeof Secret>;

export const wayKinds = ['webdav', 'sftp', 'ftp', 'micropub', 'form', 'by-hand'] as const;

/** What a way in is called, and what it is known by. */
export const wayNames: Record<WayKind, { name: string; about: string }> = {
  webdav: { name: 'WebDAV', about: 'A folder of the site that opens by an https address; many hosts have one.' },
  sftp: { name: 'SFTP', about: 'A folder on the server, by a name and a password or key; the safest of the old ways.' },
  ftp: { name: 'FTPS', about: 'A folder on the server, as FTP with TLS.' },
  micropub: { name: 'Micropub', about: 'A blog with a media endpoint; it gives you a token.' },
  form: { name: 'A form', about: 'A page with a file field that answers with the file’s address.' },
  'by-hand': { name: 'I upload it myself', about: 'Files in upload order, and what to do; no sign-in.' },
  'stand-in': { name: 'The demo’s own', about: 'The small site that runs on this computer.' },
};

/** Whether files go there by themselves. */
export const isOpen = (way: WayIn): way is OpenWay => way.kind !== 'stand-in' && way.kind !== 'by-hand';

/** The host that a way in leads to, small letters; empty where it leads nowhere. */
export function hostOf(way: WayIn): string {
  if ('host' in way) return way.host.toLowerCase();
  return 'address' in way ? new URL(way.address).hostname : '';
}

/** An address's folder, ending in a slash. */
export const asFolder = (address: string): string => {
  const url = new URL(address);
  if (!url.pathname.endsWith('/')) url.pathname += '/';
  url.search = '';
  return url.href;
};

/** Where visitors will find a file of a name; null where only the site can tell. */
export function finalAddress(way: WayIn, name: string): string | null {
  if (!('visitors' in way) || !way.visitors) return null;
  return new URL(encodeURIComponent(name), asFolder(way.visitors)).href;
}

/** “by WebDAV to /images/”. */
export function wayText(way: WayIn): string {
  const slashed = (path: string) => `/${path.replace(/^\/+|\/+$/g, '')}${/[^/]/.test(path) ? '/' : ''}`;
  switch (way.kind) {
    case 'stand-in':
      return 'a stand-in that runs on this computer';
    case 'by-hand':
      return 'you upload it yourself';
    case 'webdav':
      return `by WebDAV to ${slashed(new URL(way.address).pathname)}`;
    case 'sftp':
      return `by SFTP to ${slashed(way.folder)}`;
    case 'ftp':
      return `by ${way.secure ? 'FTPS' : 'FTP without TLS'} to ${slashed(way.folder)}`;
    case 'micropub':
      return 'by Micropub’s media endpoint';
    case 'form':
      return `by the form at ${slashed(new URL(way.address).pathname)}`;
  }
}

/** Whether a host is named as this computer or an address in figures; then it was meant. */
export const isNamedLocal = (host: string): boolean =>
  /^(localhost|.*\.localhost|\[.*\]|\d+\.\d+\.\d+\.\d+)$/.test(host);

/** Whether a host is this computer itself, by its name or figures. */
export const isLoopback = (host: string): boolean => /^(localhost|127\.\d+\.\d+\.\d+|\[::1\])$/.test(host);

/** Whether what is sent on this way can be read by whoever stands in between. */
export function isPlain(way: WayIn): boolean {
  if (way.kind === 'ftp') return !way.secure;
  const there = 'address' in way ? new URL(way.address) : null;
  return there?.protocol === 'http:' && !isLoopback(there.hostname);
}

/** Why nothing may be sent on a way yet; what has to be accepted has `accept` as its code’s end. */
export function mayUse(way: OpenWay): Result<OpenWay> {
  if (isPlain(way) && !('plain' in way && way.plain))
    return bad(
      'plain-accept',
      way.kind === 'ftp'
        ? 'Plain FTP sends your password and files so that anyone in between can read them. Use FTPS if your host has it; tick “Send it in the open” if you still want to.'
        : 'This address is http, not https: your password could be read on the way. Use https if your host has it; tick “Send it in the open” if you still want to.',
    );
  return good(way);
}

/** What a way in can do beside taking a file. */
export const wayCan = (way: WayIn) => ({
  /** Write over a file under its own name. */
  replace: ['webdav', 'sftp', 'ftp'].includes(way.kind),
  /** Take a file away. */
  remove: ['webdav', 'sftp', 'ftp', 'micropub'].includes(way.kind),
  /** Say which names there are. */
  list: ['webdav', 'sftp', 'ftp'].includes(way.kind),
});
