import { bad, type HouseStyle } from '@bright-slot/core';

const MOST_TOKENS = 2_000_000;

/** A house style as a file of design tokens. */
export async function tokensFile(style: HouseStyle): Promise<Blob> {
  const { toTokens } = await import('@bright-slot/core/house/tokens');
  return new Blob([JSON.stringify(toTokens(style), null, 2)], { type: 'application/json' });
}

/** What of a house style a file of design tokens holds. */
export async function readTokens(
  file: File,
): Promise<ReturnType<typeof import('@bright-slot/core/house/tokens').fromTokens>> {
  if (file.size > MOST_TOKENS)
    return bad('too-large', 'That file is too large for design tokens. Nothing was changed.');
  const { fromTokens } = await import('@bright-slot/core/house/tokens');
  return fromTokens(await file.text());
}
