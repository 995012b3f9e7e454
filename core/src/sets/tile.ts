import { changedByHand, type Derived } from '../graphic/follows';
import type { LayoutContents } from '../graphic/contents';
import { isStaleDescription, proposedDescription } from '../graphic/describe';
import { applyEdit } from '../graphic/edit';
import { isPicture, type Graphic } from '../graphic/graphic';
import { PLACEHOLDER } from '../graphic/new-words';
import { changedOfLayout, inLayout, layoutGraphic } from '../layouts/change';
import { limits } from '../limits';
import { nameFrom } from '../text';
import type { TileSet } from './tile-set';

/** What a tile is made by: what it holds, and how the layout has that among the others. */
export interface TileMade {
  readonly contents: LayoutContents;
  readonly derived: Derived;
}

/** A tile that was not there: a graphic that follows the set's layout, called and described by its words. */
export function newTile(
  own: { id: string; created: string },
  set: Pick<TileSet, 'name' | 'slot' | 'layout' | 'look'>,
  { contents, derived }: TileMade,
): Graphic {
  const { slot, layout, look } = set;
  const graphic = layoutGraphic({ ...own, name: nameOf(contents, set), slot }, layout, derived, contents, look);
  return described(graphic);
}

/**
 * A tile as it is after the set was made anew: what its layout has otherwise now follows, what was changed by hand
 * stays, as do its file's format and quality. `again`: what was changed by hand goes too. Its name and its description
 * follow its words as long as they were those.
 */
export function tileAnew(
  before: Graphic,
  set: Pick<TileSet, 'name' | 'slot' | 'layout' | 'look'>,
  { contents, derived }: TileMade,
  again = false,
): Graphic {
  const { layout, look } = set;
  const named = before.name === nameOf(before.follows?.layout?.contents ?? contents, set);
  const asked = again
    ? layoutGraphic({ ...before, slot: set.slot }, layout, derived, contents, look)
    : { ...before, ...followed(before, layout, derived, contents, look) };
  const next: Graphic = { ...before, ...pick(asked), ...(named ? { name: nameOf(contents, set) } : {}) };
  const [frame] = before.frames;
  const own = frame!.export.alt === proposedDescription(before.layers) || !frame!.export.alt.trim();
  return own || isStaleDescription(frame!.export, next.layers) ? described(next) : next;
}

function followed(
  before: Graphic,
  layout: string,
  derived: Derived,
  contents: LayoutContents,
  look: TileSet['look'],
): Pick<Graphic, 'layers' | 'backdrop' | 'follows'> {
  const { derived: now, follows } = inLayout(before, layout, derived, contents, look);
  return { ...now, follows };
}

const pick = ({ layers, backdrop, follows }: Pick<Graphic, 'layers' | 'backdrop' | 'follows'>) => ({
  layers,
  backdrop,
  ...(follows ? { follows } : {}),
});

const nameOf = ({ title }: LayoutContents, { name }: Pick<TileSet, 'name'>) =>
  nameFrom(title === PLACEHOLDER ? '' : title, limits.name, name);

/** What the words on it say: the description that is proposed for any graphic; a placeholder says nothing. */
function described(graphic: Graphic): Graphic {
  const proposed = proposedDescription(graphic.layers);
  const alt = proposed === PLACEHOLDER ? '' : proposed;
  return applyEdit(graphic, { type: 'set-export', frame: graphic.frames[0]!.id, choices: { alt } });
}

/** What of a tile was changed by hand, in a few words: “crop”, “Title moved, Logo added”; empty where nothing was. */
export function tileChangesText(graphic: Graphic): string {
  const { follows } = graphic;
  if (!follows) return '';
  const changed = follows.layout ? changedOfLayout(follows.last, graphic) : changedByHand(follows.last, graphic);
  const told = changed.map(({ layer, name, how }) => {
    if (how !== 'changed') return `${name} ${how === 'added' ? 'added' : 'taken away'}`;
    const was = follows.last.layers.find((l) => l.id === layer);
    const is = graphic.layers.find((l) => l.id === layer);
    if (was && is && isPicture(was) && isPicture(is))
      return JSON.stringify([was.place, was.crop]) === JSON.stringify([is.place, is.crop])
        ? `${name}’s look`
        : `${name}’s crop`;
    if (was?.role === 'words' && is?.role === 'words') {
      const moved = was.place.x !== is.place.x || was.place.y !== is.place.y;
      return moved ? `${name} moved` : `${name}’s look`;
    }
    return name;
  });
  return [...new Set(told)].join(', ');
}
