/** Longest line that is read, bytes: a graphic's step with all that it may hold. */
export const LONGEST_LINE = 128 * 2 ** 20;

/**
 * The lines of a text that comes in pieces (UTF-8, `\n` between lines, empty ones left out), one at a time. A line
 * longer than `most` bytes comes as null and costs no memory.
 */
export async function* linesIn(
  pieces: AsyncIterable<Uint8Array>,
  most = LONGEST_LINE,
): AsyncGenerator<string | null, void, void> {
  const decoder = new TextDecoder();
  let parts: Uint8Array[] = [];
  let length = 0;
  let beyond = false;
  const take = (piece: Uint8Array) => {
    length += piece.length;
    if (length > most) {
      beyond = true;
      parts = [];
    } else parts.push(piece);
  };
  const whole = (): string | null => {
    const joined = new Uint8Array(beyond ? 0 : length);
    let at = 0;
    for (const p of parts) {
      joined.set(p, at);
      at += p.length;
    }
    const line = beyond ? null : decoder.decode(joined);
    [parts, length, beyond] = [[], 0, false];
    return line;
  };
  for await (const piece of pieces) {
    let from = 0;
    for (let end = piece.indexOf(10); end >= 0; end = piece.indexOf(10, from)) {
      take(piece.subarray(from, end));
      from = end + 1;
      const line = whole();
      if (line !== '') yield line;
    }
    if (from < piece.length) take(piece.slice(from));
  }
  const line = whole();
  if (line !== '') yield line;
}

/** What a line of JSON holds; undefined where it is none. */
export function valueOf(line: string | null): unknown {
  if (line === null) return undefined;
  try {
    return JSON.parse(line) as unknown;
  } catch {
    return undefined;
  }
}
