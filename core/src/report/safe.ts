import { contains, cornersOf, enclosing, moved, type Box } from '../geometry/box';
import { concernsFrame } from '../graphic/frame';
import { safeBoxes } from '../slot/safe';
import { boxOf, extremes } from './extent';
import { freeingFix } from './free-move';
import { defineRule, fixable, type Finding } from './rule';
import { beyondShape } from './shape-depth';
import { thresholds } from './thresholds';
import { subjectsOf } from './zones';
import { called } from './wording';

/** How far a box reaches out of another, px. */
const beyond = (b: Box, within: Box) =>
  Math.max(
    within.x - b.x,
    within.y - b.y,
    b.x + b.width - within.x - within.width,
    b.y + b.height - within.y - within.height,
  );

/** What matters should stand in the slot's safe area: beyond it some pages cut. */
export const safe = defineRule({
  id: 'safe',
  about: 'Shape and zones',
  what: 'Words and logos that reach out of the slot’s safe area.',
  by: ['overEdge'],
  mends: 'The shortest move that brings it in; smaller only where none does.',
  passed: 'Words and logos stand in the safe area',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, rect, frames, slot, shaper, assets }): Finding[] {
    if (slot.safe.kind === 'all') return [];
    const areas = safeBoxes(slot).map((b) => moved(b, rect));
    return subjectsOf(layers).flatMap((layer) => {
      const points = extremes(layer, canvas, shaper, assets);
      if (!points.length) return [];
      const box = boxOf(points);
      if (!concernsFrame(box, rect, frames) || areas.some((a) => contains(a, box, thresholds.overEdge.value)))
        return [];
      // What lies over the edge itself is told as that.
      const onFrame = points.map((p) => ({ x: p.x - rect.x, y: p.y - rect.y }));
      if (beyondShape(onFrame, rect, slot.shape) > thresholds.overEdge.value) return [];
      const px = Math.min(...areas.map((a) => beyond(box, a)));
      const nearest = areas.find((a) => beyond(box, a) === px)!;
      const out = cornersOf(box).filter((p) => !contains(nearest, { ...p, width: 0, height: 0 }, 0));
      return [
        fixable(
          {
            id: `safe:${layer.id}`,
            group: 'before',
            title: `${called(layer)} reaches ${Math.round(px)} px out of the safe area`,
            detail: 'There the page, or another screen, may cut it off.',
            at: enclosing(out.map((p) => ({ ...p, width: 1, height: 1 }))),
            layer: layer.id,
            figures: [px],
          },
          () => freeingFix(`${layer.name} into the safe area`, layer, { slot, rect }, layers, canvas, shaper, assets),
        ),
      ];
    });
  },
});
