import { safeWord } from '../export/name';
import { defineRule, type Finding } from './rule';

/** A file's name is made of small letters a to z and digits: what a graphic is called may have none. */
export const fileNamed = defineRule({
  id: 'file-named',
  about: 'Weight and file',
  what: 'A graphic whose name leaves its file none, or a file’s name that the page would cut.',
  by: [],
  mends: 'Nothing here mends it: give the graphic a name with letters a to z, or a shorter one.',
  passed: ({ fileName }) => `The file’s name is safe: ${fileName}`,
  needs: ['fileName', 'slot', 'name'],
  judge({ fileName, slot, name }): Finding[] {
    const long = fileName.length > slot.names.longest;
    const none = safeWord(name) === 'graphic' && !/graphic/i.test(name);
    if (!long && !none) return [];
    return [
      {
        id: 'file-named',
        group: 'time',
        title: long
          ? `The file’s name has ${fileName.length} letters; the page takes ${slot.names.longest}`
          : `The file would be called ${fileName}`,
        detail: long
          ? 'The page may cut it or refuse it. Give the graphic a shorter name.'
          : `“${name}” has no letters a to z or digits, which are all that is safe in addresses. Give the graphic a name that has some.`,
        at: null,
        figures: [fileName.length],
        fixes: [],
      },
    ];
  },
});
