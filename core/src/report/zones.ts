import { moved, type Box, type Point, type Size } from '../geometry/box';
import { clipped, reachesEllipse } from '../geometry/clip';
import { concernsFrame } from '../graphic/frame';
import type { Layer } from '../graphic/graphic';
import type { CoveredZone } from '../slot/slot';
import type { Shaper } from '../words/shaper';
import type { AssetFacts } from './asset-facts';
import { boxOf, extremes, partsNear, type Subject } from './extent';
import { freeingFix } from './free-move';
import { defineRule, fixable, type Finding } from './rule';
import { thresholds } from './thresholds';
import { called } from './wording';

/** The words and logos that are to be seen. */
export const subjectsOf = (layers: readonly Layer[]): Subject[] =>
  layers.filter((l): l is Subject => l.visible && (l.role === 'words' || l.role === 'logo'));

/** The box around what of a layer lies under a zone (canvas px); null where nothing does. */
export function underZone(
  layer: Subject,
  zone: Box & Pick<CoveredZone, 'kind'>,
  canvas: Size,
  shaper: Shaper,
  assets: ReadonlyMap<string, AssetFacts>,
): Box | null {
  const under = partsNear(layer, zone, canvas, shaper, assets).flatMap((part): Point[] => {
    // A page lays its portrait round over the picture.
    if (zone.kind === 'portrait' && !reachesEllipse(part, zone)) return [];
    return clipped(part, zone);
  });
  return under.length ? boxOf(under) : null;
}

/** What the page does where a zone lies. */
const does: Record<CoveredZone['kind'], string> = {
  portrait: 'The page lays it over the picture.',
  title: 'The page prints there.',
  button: 'The page lays it over the picture.',
  block: 'The page lays it over the picture.',
};

/** Words and logos under what the page lays over the picture, or prints on it, cannot be seen or read. */
export const zones = defineRule({
  id: 'zones',
  about: 'Shape and zones',
  what: 'Words and logos under what the page lays over the picture, or prints on it.',
  by: ['zone'],
  mends: 'The shortest move that frees it; smaller only where none does.',
  passed: 'Nothing that matters lies under what the page lays over it',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, rect, frames, slot, shaper, assets }): Finding[] {
    if (!slot.covered.length) return [];
    return subjectsOf(layers).flatMap((layer) => {
      const points = extremes(layer, canvas, shaper, assets);
      if (!points.length || !concernsFrame(boxOf(points), rect, frames)) return [];
      const hits = slot.covered.flatMap((zone) => {
        const at = underZone(layer, { ...zone, ...moved(zone, rect) }, canvas, shaper, assets);
        const deep = at ? Math.min(at.width, at.height) : 0;
        return at && deep > thresholds.zone.value ? [{ zone, at, deep }] : [];
      });
      const worst = hits.sort((a, b) => b.deep - a.deep)[0];
      if (!worst) return [];
      const { zone, at, deep } = worst;
      return [
        fixable(
          {
            id: `zones:${layer.id}`,
            group: 'before',
            title: `${called(layer)} lies ${Math.round(at.width)} × ${Math.round(at.height)} px under ${lower(zone.what)}`,
            detail: does[zone.kind],
            at,
            layer: layer.id,
            figures: [deep],
          },
          () =>
            freeingFix(
              `${layer.name} clear of ${lower(zone.what)}`,
              layer,
              { slot, rect },
              layers,
              canvas,
              shaper,
              assets,
            ),
        ),
      ];
    });
  },
});

/** A name within a sentence: "The page’s title" as "the page’s title", "Portrait" as "the portrait". */
const lower = (what: string): string => {
  const first = what.charAt(0).toLocaleLowerCase() + what.slice(1);
  return /^(the|a|an|your)\s/i.test(what) ? first : `the ${first}`;
};
