import type { Source } from '../compose/compose';
import { typeSize, type ComposeRole } from '../compose/roles';
import { leastType } from '../compose/slot-room';
import { clamp } from '../geometry/clamp';
import { scaledWords } from '../graphic/arrange';
import type { LayoutContents, PlacedPicture } from '../graphic/contents';
import { frameOf } from '../graphic/frame';
import { isPicture, type Layer, type WordsLayer } from '../graphic/graphic';
import { withText } from '../graphic/runs';
import { swapped } from '../graphic/swap';
import { layoutOf, wordsBounds } from '../words/layout';
import type { Shaper } from '../words/shaper';
import { alignShare } from '../words/words';

/** How a graphic of the person's own is composed where it stands in a slot of its own size: as it is. */
export const AS_IT_IS = 'as-it-is';

/**
 * Other words in the place of a block's: as large as they were where they need no more room than those had, smaller
 * where they do, held by the same edge and middle.
 */
function inTheirPlace(layer: WordsLayer, text: string, least: number, shaper: Shaper): WordsLayer {
  const before = wordsBounds(layer, layoutOf(layer, shaper));
  const said = withText(layer, text);
  const now = wordsBounds(said, layoutOf(said, shaper));
  const by = Math.min(1, before.width / now.width);
  const sized = by < 1 ? scaledWords(said, clamp(by, Math.min(1, least / typeSize(said, shaper)), 1)) : said;
  const bounds = wordsBounds(sized, layoutOf(sized, shaper));
  const share = alignShare[sized.paragraphs[0]!.align];
  const x = before.x + (before.width - bounds.width) * share - bounds.x;
  const y = before.y + (before.height - bounds.height) / 2 - bounds.y;
  return { ...sized, place: { x: sized.place.x + x, y: sized.place.y + y } };
}

/**
 * A graphic of the person's own as a layout: what is given takes the place of what is there of its kind, the first of
 * each; all the rest stays. What is empty or null changes nothing.
 */
export function withContents(source: Source, given: LayoutContents, shaper: Shaper): Source {
  const { graphic, roles } = source;
  const subjects = new Map(source.subjects);
  const left = new Set<ComposeRole>(['photo', 'subject', 'logo', 'title', 'line', 'note']);
  const least = leastType(frameOf(graphic).slot);
  const layers = graphic.layers.map((layer): Layer => {
    const role = roles.get(layer.id);
    if (!role || !left.has(role)) return layer;
    if (isPicture(layer)) {
      const by =
        role === 'photo' ? given.photo : role === 'subject' ? given.cutout : role === 'logo' ? given.logo : null;
      if (!by) return layer;
      left.delete(role);
      if (by.subject) subjects.set(layer.id, by.subject);
      else subjects.delete(layer.id);
      return swapped(layer, replacing(by), graphic.canvas);
    }
    const text = role === 'title' ? given.title : role === 'line' ? given.line : role === 'note' ? given.note : '';
    if (layer.role !== 'words' || !text.trim()) return layer;
    left.delete(role);
    return inTheirPlace(layer, text.trim(), least, shaper);
  });
  return { graphic: { ...graphic, layers }, roles, subjects };
}

const replacing = ({ asset, name, natural, opaque, vector, focus }: PlacedPicture) => ({
  asset,
  name,
  natural,
  opaque,
  vector,
  focus,
});
