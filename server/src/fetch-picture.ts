import { lookup } from 'node:dns';
import { request as askHttp, type IncomingMessage } from 'node:http';
import { request as askHttps } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { MOST_BYTES, bad, good, identify, limits, nameFrom, type Result } from '@bright-slot/core';

const WITHIN = 15_000;
const MOST_REDIRECTS = 4;

/** Whether an address is out on the public net, and not this computer or its own network. */
export function isPublicAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const ip = ipaddr.process(address);
  // IPv4-compatible addresses (RFC 4291, section 2.5.5.1) lead to what their last four bytes say.
  if (ip instanceof ipaddr.IPv6 && ip.parts.slice(0, 6).every((p) => p === 0)) return false;
  return ip.range() === 'unicast';
}

class NotPublic extends Error {}

/** A part of an address in letters; as it stands where it is no such thing (a bare %). */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** Resolves names as ever, but hands on public addresses only: looked at when connecting, so that no later answer slips in. */
const publicLookup: LookupFunction = (name, options, done) => {
  lookup(name, { ...options, all: true }, (error, found) => {
    if (error) return done(error, '');
    const open = found.filter((a) => isPublicAddress(a.address));
    const [first] = open;
    if (!first) return done(new NotPublic(), '');
    if (options.all) done(null, open);
    else done(null, first.address, first.family);
  });
};

function ask(address: URL, anyAddress: boolean): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const host = address.hostname.replace(/^\[|\]$/g, '');
    if (!anyAddress && isIP(host) && !isPublicAddress(host)) return reject(new NotPublic());
    const options = {
      headers: { Accept: 'image/*', 'User-Agent': 'Bright Slot' },
      timeout: WITHIN,
      signal: AbortSignal.timeout(WITHIN),
      ...(anyAddress ? {} : { lookup: publicLookup }),
    };
    const sent = (address.protocol === 'https:' ? askHttps : askHttp)(address, options, resolve);
    sent.on('error', reject);
    sent.on('timeout', () => sent.destroy(new Error('timeout')));
    sent.end();
  });
}

async function read(answer: IncomingMessage): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const part of answer as AsyncIterable<Buffer>) {
    length += part.length;
    if (length > MOST_BYTES) {
      answer.destroy();
      return null;
    }
    parts.push(part);
  }
  return Buffer.concat(parts);
}

/**
 * Fetches a picture by its address, for the person's browser, which most sites do
 * not let read it. Only http and https, only public addresses and the stand-in
 * site, only what is a picture by its content. Fails with a sentence for the person.
 */
export async function fetchPicture(
  given: string,
  siteOrigin: string,
): Promise<Result<{ bytes: Buffer; name: string }>> {
  const nowhere = bad(
    'no-link',
    'That is no address of a picture. It begins with https:// and can be copied from the page.',
  );
  let address: URL;
  try {
    address = new URL(given);
  } catch {
    return nowhere;
  }
  try {
    // What is out on the net may not send anyone into the site on this computer.
    const fromSite = address.origin === siteOrigin;
    for (let hop = 0; hop <= MOST_REDIRECTS; hop++) {
      if (!/^https?:$/.test(address.protocol) || address.username || address.password) return nowhere;
      const answer = await ask(address, fromSite && address.origin === siteOrigin);
      const { statusCode = 0, headers } = answer;
      if (statusCode >= 300 && statusCode < 400 && headers.location) {
        answer.destroy();
        address = new URL(headers.location, address);
        continue;
      }
      if (statusCode !== 200) {
        answer.destroy();
        return bad(
          'no-answer',
          `The page’s server answers ${statusCode} for that picture. Save the picture and drop it here.`,
        );
      }
      const bytes = await read(answer);
      if (!bytes) return bad('too-heavy', 'That picture is more than 64 MB. Save it smaller and try again.');
      const name = nameFrom(decoded(address.pathname.split('/').pop() ?? ''), limits.name, 'picture');
      const facts = identify(bytes, name);
      return facts.ok ? good({ bytes, name }) : facts;
    }
    return bad(
      'no-answer',
      'That address leads on and on. Open it in the browser, save the picture, and drop it here.',
    );
  } catch (error) {
    if (error instanceof NotPublic)
      return bad(
        'not-public',
        'That address lies on this computer’s own network and is not fetched. Save the picture and drop it here.',
      );
    return bad('no-answer', 'The picture’s server does not answer. Save the picture and drop it here.');
  }
}
