import { factsKey } from './asset-facts';
import { defineRule, type Finding } from './rule';
import { visiblePictures } from './uncovered';

/** Where a photo was taken may be written in its file (Exif, GPS tags). No file that is made here has it; it is said once. */
export const located = defineRule({
  id: 'located',
  about: 'Rights and people',
  what: 'Photos with the place where they were taken written in their file: it is said, and is in no file that is made here.',
  by: [],
  mends: 'Nothing has to: it is left out of every file.',
  passed: ({ layers, assets }) => {
    const told = visiblePictures(layers).filter((l) => assets.get(factsKey(l))?.located);
    if (!told.length) return 'No picture tells where it was taken';
    const names = [...new Set(told.map((l) => l.name))].slice(0, 3).join(', ');
    return `Where ${names} was taken is written in its own file; it is left out of what you save`;
  },
  needs: ['layers', 'assets'],
  judge(): Finding[] {
    return [];
  },
});
