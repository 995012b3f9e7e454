import { defineRule, type Finding } from './rule';
import { paragraphsOf, visibleWords } from './said';
import { called } from './wording';

const plain = (text: string) =>
  text
    .toLocaleLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** The page prints its own titles: what the graphic says as well is read twice. */
export const repeated = defineRule({
  id: 'repeated',
  about: 'Page',
  what: 'Words that the page prints above, below or on the graphic as well.',
  by: [],
  mends: 'The words away from the graphic.',
  passed: 'The page does not say the same again',
  needs: ['layers', 'printed'],
  judge({ layers, printed }): Finding[] {
    const said = new Map(printed.flatMap((p) => (plain(p) ? [[plain(p), p] as const] : [])));
    return visibleWords(layers).flatMap((layer): Finding[] => {
      const own = paragraphsOf(layer);
      const twice = [own.join(' '), ...own].map(plain).find((t) => said.has(t));
      if (!twice) return [];
      return [
        {
          id: `repeated:${layer.id}`,
          group: 'time',
          title: 'The page prints the same words',
          detail: `“${said.get(twice)!}” would be read twice: on the page and in ${called(layer)}.`,
          at: null,
          layer: layer.id,
          fixes: layer.locked
            ? []
            : [
                {
                  label: 'Take the words off the graphic',
                  edit: { type: 'remove-layer', id: layer.id, name: `${layer.name} removed` },
                },
              ],
        },
      ];
    });
  },
});
