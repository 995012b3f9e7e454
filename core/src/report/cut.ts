import { contains, moved } from '../geometry/box';
import { concernsFrame } from '../graphic/frame';
import { shownOnDevices } from '../slot/shown';
import { boxOf, extremes } from './extent';
import { freeingFix } from './free-move';
import { defineRule, fixable, type Finding } from './rule';
import { beyondShape } from './shape-depth';
import { thresholds } from './thresholds';
import { subjectsOf } from './zones';
import { called, onDevice } from './wording';

/** Where a page is narrower or wider than the slot, it may cut the picture: words and logos should stand in what is left. */
export const cut = defineRule({
  id: 'cut',
  about: 'Cover and cut',
  what: 'Words and logos in parts that the page cuts off on a desktop, a tablet or a phone.',
  by: ['overEdge'],
  mends: 'The shortest move into what every screen shows; smaller only where none does.',
  passed: 'Words and logos stand where every screen shows them',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, rect, frames, slot, shaper, assets }): Finding[] {
    const whole = { x: 0, y: 0, width: slot.width, height: slot.height };
    const cutting = shownOnDevices(slot).filter(({ shown }) => !contains(shown.part, whole, thresholds.overEdge.value));
    if (!cutting.length) return [];
    return subjectsOf(layers).flatMap((layer) => {
      const points = extremes(layer, canvas, shaper, assets);
      if (!points.length) return [];
      const box = boxOf(points);
      const own = moved(box, { x: -rect.x, y: -rect.y });
      const onFrame = points.map((p) => ({ x: p.x - rect.x, y: p.y - rect.y }));
      if (!concernsFrame(box, rect, frames) || beyondShape(onFrame, rect, slot.shape) > thresholds.overEdge.value)
        return [];
      const losses = cutting.map(({ device, shown: { part } }) => {
        const sides = [
          { side: 'at the left', px: part.x - own.x },
          { side: 'at the right', px: own.x + own.width - part.x - part.width },
          { side: 'at the top', px: part.y - own.y },
          { side: 'at the bottom', px: own.y + own.height - part.y - part.height },
        ].sort((a, b) => b.px - a.px);
        return { device, ...sides[0]! };
      });
      const worst = losses.sort((a, b) => b.px - a.px)[0]!;
      if (worst.px <= thresholds.overEdge.value) return [];
      return [
        fixable(
          {
            id: `cut:${layer.id}`,
            group: 'before',
            title: `${onDevice[worst.device]} the page cuts ${Math.max(1, Math.round(worst.px))} px off ${called(layer)} ${worst.side}`,
            detail: 'There it shows only the middle of the picture.',
            at: box,
            layer: layer.id,
            figures: [worst.px],
          },
          () =>
            freeingFix(
              `${layer.name} where every screen shows it`,
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
