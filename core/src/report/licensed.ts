import { isPicture } from '../graphic/graphic';
import { textOf } from '../words/words';
import { factsKey } from './asset-facts';
import { defineRule, type Finding } from './rule';
import { visibleWords } from './said';

/** Who made a picture may have to be named, and under which licence it came should be known. */
export const licensed = defineRule({
  id: 'licensed',
  about: 'Rights and people',
  what: 'A picture whose maker asks to be named and is not, or that names its maker but no licence.',
  by: [],
  mends: 'Nothing here mends it: name the maker in the words or on the page, note the licence on the shelf.',
  passed: 'Makers are named where they ask for it',
  needs: ['layers', 'choices', 'assets'],
  judge({ layers, choices, assets }): Finding[] {
    const said = [choices.alt, ...visibleWords(layers).map(textOf)].join('\n').toLocaleLowerCase();
    const told = new Set<string>();
    return layers.flatMap((layer): Finding[] => {
      const facts = isPicture(layer) && layer.visible ? assets.get(factsKey(layer)) : undefined;
      const credit = facts?.credit?.trim();
      if (!isPicture(layer) || !facts || !credit || told.has(layer.asset)) return [];
      told.add(layer.asset);
      const due = facts.showCredit === true && !said.includes(credit.toLocaleLowerCase());
      if (!due && facts.licence?.trim()) return [];
      return [
        {
          id: `licensed:${layer.id}`,
          group: 'time',
          title: due ? `${credit} asks to be named` : `${layer.name} has no licence noted`,
          detail: due
            ? `${layer.name} is theirs. Name them in the words, in the description or beside the graphic.`
            : `It is by ${credit}. Note on the shelf under which licence it may be used.`,
          at: null,
          layer: layer.id,
          fixes: [],
        },
      ];
    });
  },
});
