import type { PictureType } from '@bright-slot/core';

const mime: Record<PictureType, string> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
  avif: 'image/avif',
  heic: 'image/heic',
  gif: 'image/gif',
  svg: 'image/svg+xml',
};

export const mimeOf = (type: PictureType): string => mime[type];
