import same from 'fast-deep-equal';
import {
  changedByHand,
  derivedOf,
  followed,
  followingAgain,
  type ChangedByHand,
  type Derived,
} from '../graphic/follows';
import {
  newGraphic,
  isPicture,
  type Follows,
  type Graphic,
  type Layer,
  type PictureLayer,
  type WordsLayer,
} from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { withText } from '../graphic/runs';
import { cutText } from '../text';
import type { Slot } from '../slot/slot';
import { firstRun, textOf, withRuns, type Run } from '../words/words';
import {
  contentLetters,
  picturePlaces,
  wordPlaces,
  type LayoutContents,
  type LayoutLook,
  type PlacedPicture,
} from '../graphic/contents';
import { layoutName } from './laid-out';
import { places } from './stage';

/** What a graphic that was made from a layout follows, beside the ids of graphics. */
const PREFIX = 'layout:';

/** The layout that a graphic follows; null where it follows something else, or nothing. */
export function followedLayout(follows: Follows | undefined): string | null {
  return follows?.of.startsWith(PREFIX) ? follows.of.slice(PREFIX.length) : null;
}

const following = (
  layout: string,
  slot: Slot,
  derived: Derived,
  contents: LayoutContents,
  look: LayoutLook,
): Follows => ({
  of: PREFIX + layout,
  name: layoutName(layout, slot),
  way: layout,
  roles: {},
  last: derivedOf(derived),
  layout: { contents, look },
});

/** A new graphic with contents as a layout has them, which follows it. */
export function layoutGraphic(
  own: { id: string; name: string; created: string; slot: Slot },
  layout: string,
  derived: Derived,
  contents: LayoutContents,
  look: LayoutLook,
): Graphic {
  return { ...newGraphic(own), ...derivedOf(derived), follows: following(layout, own.slot, derived, contents, look) };
}

/**
 * What a graphic that follows a layout holds now: what it was made with, but for what its places say and show since.
 * `subjects`: where the pictures' subjects are, by their hashes.
 */
export function contentsOf(
  graphic: Graphic,
  subjects: ReadonlyMap<string, PlacedPicture['subject']>,
): LayoutContents | null {
  const given = graphic.follows?.layout?.contents;
  if (!given) return null;
  const at = (place: keyof typeof places) => graphic.layers.find((l) => l.id === places[place]);
  const contents: { -readonly [K in keyof LayoutContents]: LayoutContents[K] } = { ...given };
  for (const place of wordPlaces) {
    const layer = at(place);
    const was = graphic.follows!.last.layers.find((l) => l.id === places[place]);
    if (layer?.role !== 'words' || was?.role !== 'words' || textOf(layer) === textOf(was)) continue;
    contents[place] = cutText(
      textOf(layer)
        .replace(/\s*\n\s*/g, ' ')
        .trim(),
      contentLetters[place],
    );
  }
  for (const place of picturePlaces) {
    const layer = at(place);
    if (!layer || !isPicture(layer) || layer.asset === given[place]?.asset) continue;
    const { asset, name, natural, opaque, vector, focus } = layer;
    contents[place] = { asset, name, natural, opaque, vector, focus, subject: subjects.get(asset) ?? null };
  }
  return contents;
}

/** How a layer's words look, where all of them look alike; null where they do not. */
function oneLook(layer: WordsLayer): Omit<Run, 'text'> | null {
  const look = ({ text: _, ...rest }: Run) => rest;
  const first = look(firstRun(layer));
  const alike = layer.paragraphs.every((p) => p.runs.every((r) => same(look(r), first)));
  return alike ? first : null;
}

/** Which settings of their one look words have otherwise than they had; null where not all of either look alike. */
function lookChange(was: WordsLayer, is: WordsLayer): Partial<Omit<Run, 'text'>> | null {
  const [before, now] = [oneLook(was), oneLook(is)];
  if (!before || !now) return null;
  return Object.fromEntries(Object.entries(now).filter(([k, v]) => !same(v, before[k as keyof typeof before])));
}

/** What was made of words beside saying something else: its words are as `was` again, but for what was changed of their look. */
function saidAgain(was: WordsLayer, is: WordsLayer): WordsLayer {
  const change = lookChange(was, is);
  if (!change || textOf(was) === textOf(is)) return is;
  return { ...is, paragraphs: withRuns(was, change).paragraphs };
}

/** A picture that was replaced as the one it replaced lay: how it came to lie since is no matter of anyone's hand. */
function shownAgain(was: PictureLayer, is: PictureLayer): PictureLayer {
  if (was.asset === is.asset) return is;
  const { asset, name, natural, opaque, vector, focus, place, crop, cutout } = was;
  return { ...is, asset, name, natural, opaque, vector, focus, place, crop, cutout };
}

/** What was made of a derivation beside other contents. */
function besideContents(last: Derived, mine: Derived): Derived {
  const was = new Map(last.layers.map((l) => [l.id, l]));
  const layers = mine.layers.map((layer): Layer => {
    const before = was.get(layer.id);
    if (layer.role === 'words' && before?.role === 'words') return saidAgain(before, layer);
    if (isPicture(layer) && before && isPicture(before)) return shownAgain(before, layer);
    return layer;
  });
  return { ...mine, layers };
}

/** What was changed by hand of a layout, beside what stands in its places. */
export const changedOfLayout = (last: Derived, mine: Derived): ChangedByHand[] =>
  changedByHand(last, besideContents(last, mine));

/** A layer as the layout has it again, with what it says and shows now. */
export function layoutAgain(last: Derived, mine: Derived, layer: string): Derived {
  const now = mine.layers.find((l) => l.id === layer);
  const next = followingAgain(last, mine, layer);
  if (!now) return next;
  return {
    ...next,
    layers: next.layers.map((l) => {
      if (l.id !== layer) return l;
      if (l.role === 'words' && now.role === 'words') return withText(l, textOf(now));
      if (isPicture(l) && isPicture(now) && l.asset !== now.asset) return now;
      return l;
    }),
  };
}

/**
 * A graphic in another layout, `fresh` as that has its contents: they stay, and so does what was changed by hand. One
 * look of words that was broken otherwise by hand stays with its words.
 */
export function inLayout(
  graphic: Graphic,
  layout: string,
  fresh: Derived,
  contents: LayoutContents,
  look: LayoutLook,
): { derived: Derived; follows: Follows } {
  const { last } = graphic.follows!;
  const mine = besideContents(last, graphic);
  const merged = followed(last, mine, fresh);
  const by = (list: readonly Layer[]) => new Map(list.map((l) => [l.id, l]));
  const [was, own, next] = [by(last.layers), by(mine.layers), by(fresh.layers)];
  const layers = merged.layers.map((layer): Layer => {
    const [a, b, c] = [was.get(layer.id), own.get(layer.id), next.get(layer.id)];
    if (layer.role !== 'words' || a?.role !== 'words' || b?.role !== 'words' || c?.role !== 'words') return layer;
    // Its look setting by setting, not all of its lines or none.
    const change = lookChange(a, b);
    return change ? { ...layer, paragraphs: withRuns(c, change).paragraphs } : layer;
  });
  return { derived: { ...merged, layers }, follows: following(layout, frameOf(graphic).slot, fresh, contents, look) };
}
