import { MOST_BYTES, bad, good, identify, limits, nameFrom, type Result } from '@bright-slot/core';
import { ask, readAll } from './relay/ask';
import { NotPublic, anywherePublic } from './relay/net';

const WITHIN = 15_000;
const MOST_REDIRECTS = 4;

/** A part of an address in letters; as it stands where it is no such thing (a bare %). */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
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
      const toSite = fromSite && address.origin === siteOrigin;
      const answer = await ask(address, {
        reach: toSite ? { hosts: [address.hostname], own: [address.hostname] } : anywherePublic,
        headers: { Accept: 'image/*' },
        within: WITHIN,
        signal: AbortSignal.timeout(WITHIN),
      });
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
      const bytes = await readAll(answer, MOST_BYTES);
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
