import { encode, type Encoding } from './encode';

type Made = Awaited<ReturnType<typeof encode>>;

/** The file that was made ahead last, of what was painted, and as what. */
let ahead: { readonly canvas: OffscreenCanvas; readonly as: string; readonly made: Made } | undefined;

const named = ({ format, quality, chroma, notes, ground }: Encoding) =>
  JSON.stringify([format, quality, chroma, notes, ground]);

/** Writing cannot be broken off, and what is on screen waits for it: a larger picture is only painted ahead, px. */
const MOST_AHEAD = 2e6;

/** Makes a file that is likely to be asked for. */
export async function makeAhead(canvas: OffscreenCanvas, choices: Encoding): Promise<void> {
  if (canvas.width * canvas.height > MOST_AHEAD || choices.format === 'avif') return;
  if (!madeAhead(canvas, choices)) ahead = { canvas, as: named(choices), made: await encode(canvas, choices, false) };
}

/** A file that was made ahead of just that; nothing where there is none. */
export function madeAhead(canvas: OffscreenCanvas, choices: Encoding): Made | undefined {
  return ahead?.canvas === canvas && ahead.as === named(choices) ? ahead.made : undefined;
}

/** Lets go of it. */
export function forgetAhead(): void {
  ahead = undefined;
}
