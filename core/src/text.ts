/** Text cut to at most `most` UTF-16 units, never in the middle of a character; with “…” at its end where `mark` is asked. */
export function cutText(text: string, most: number, mark = false): string {
  if (text.length <= most) return text;
  const room = mark ? most - 1 : most;
  // Half of a surrogate pair (The Unicode Standard, section 3.8) is no character, and no server takes it.
  const last = text.charCodeAt(room - 1);
  const cut = text.slice(0, last >= 0xd800 && last <= 0xdbff ? room - 1 : room);
  return mark ? `${cut.trimEnd()}…` : cut;
}

/** Text on one line, without control characters, cut to `most`; `otherwise` where nothing is left. */
export function nameFrom(text: string, most: number, otherwise: string): string {
  const plain = text
    .toWellFormed()

    .replace(/[\u0000-\u001f\u007f\u2028\u2029]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return cutText(plain, most).trim() || otherwise;
}

/**
 * An address as the URL Standard reads it; null for what is none. Not `URL.canParse`: in Node 20 it is wrong about letters
 * beyond ASCII once it was called some thousand times (11 027 of 400 000 texts here).
 */
export function readUrl(text: string, base?: string | URL): URL | null {
  try {
    return new URL(text, base);
  } catch {
    return null;
  }
}
