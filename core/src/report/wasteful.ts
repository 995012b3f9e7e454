import { pictureFormats } from '../formats/registry';
import { uncoveredParts, visiblePictures } from './uncovered';
import { defineRule, type Finding } from './rule';

/** PNG keeps every pixel of a photo, grain and all, and is several times as heavy for it (PNG, third edition, section 10: it compresses without loss). */
export const wasteful = defineRule({
  id: 'wasteful',
  about: 'Weight and file',
  what: 'A photo saved as PNG with nothing transparent in it, where the page takes a lighter format.',
  by: [],
  mends: 'JPEG, or what else the slot takes.',
  passed: 'The format suits what is in it',
  needs: ['layers', 'backdrop', 'canvas', 'frame', 'rect', 'choices', 'slot'],
  judge({ layers, backdrop, canvas, frame, rect, choices, slot }): Finding[] {
    if (choices.format !== 'png') return [];
    const photos = visiblePictures(layers).some((l) => l.role === 'photo' && l.opaque && !l.cutout && !l.vector);
    if (!photos || uncoveredParts(layers, backdrop, canvas, rect).length) return [];
    const format = (['jpeg', 'webp'] as const).find((f) => slot.formats.includes(f));
    if (!format) return [];
    const { name } = pictureFormats[format];
    return [
      {
        id: 'wasteful',
        group: 'time',
        title: 'PNG makes a photo several times as heavy',
        detail: `Nothing in it is transparent, so ${name} looks the same and loads sooner.`,
        at: null,
        fixes: [
          {
            label: `Save it as ${name}`,
            edit: { type: 'set-export', frame, name: `Format: ${name}`, choices: { format } },
          },
        ],
      },
    ];
  },
});
