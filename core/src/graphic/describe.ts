import { isPicture, textOf, type Layer, type WordsLayer } from './graphic';
import { withFields } from '../words/layout';

/** Whether a name was given by a person: words, not a camera's counter or a file's stand-in for a name. */
const tells = (name: string) =>
  /\p{L}{3}/u.test(name) &&
  !/\d{3}/.test(name) &&
  !/^(image|img|photo|picture|scan|screenshot|untitled|file|download|logo)[\s\d()_-]*$/i.test(name) &&
  !/, copy$/.test(name);

/**
 * A description to start from, for people who cannot see the picture: what the words on it say,
 * then what its pictures are called. Empty where nothing tells. (WCAG 2.2, 1.1.1 asks for a text alternative.)
 */
export function proposedDescription(layers: readonly Layer[]): string {
  const visible = layers.filter((l) => l.visible);
  const said = visible
    .filter((l): l is WordsLayer => l.role === 'words')
    .map((l) => withFields(textOf(l), l.fields.values).replace(/\s+/g, ' ').trim())
    .filter(Boolean);
  const seen = visible.filter((l) => isPicture(l) && tells(l.name)).map((l) => l.name.trim());
  return [...new Set([...said, ...seen])].join('; ').slice(0, 250);
}
