import type { Layer } from '@bright-slot/core';

/** What a layer is, in a word. */
export const roleNames: Record<Layer['role'], string> = {
  photo: 'Photo',
  logo: 'Logo',
  words: 'Words',
  shape: 'Shape',
  veil: 'Veil',
};
