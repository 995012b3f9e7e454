import { enclosing, type Point } from '../geometry/box';
import { concernsFrame } from '../graphic/frame';
import { seamSides } from '../graphic/set-graphic';
import { boxOf, extremes, type Subject } from './extent';
import { freed, roomIn } from './free-move';
import { beyondPoint, beyondShape } from './shape-depth';
import { thresholds } from './thresholds';
import { defineRule, fixable, type Finding, type Fix } from './rule';

const shifted = (points: readonly Point[], by: Point) => points.map((p) => ({ x: p.x + by.x, y: p.y + by.y }));

/** Words and logos over the canvas's edge, or outside the shape the page cuts the picture to, will be cut. */
export const outside = defineRule({
  id: 'outside',
  about: 'Shape and zones',
  what: 'Words and logos over the canvas’s edge, or outside the shape that the page cuts it to.',
  by: ['overEdge'],
  mends: 'The shortest move inside; smaller only where none does.',
  passed: 'Words and logos lie wholly within the slot',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, rect, frames, slot, shaper, assets }): Finding[] {
    return layers
      .filter((l): l is Subject => l.visible && (l.role === 'logo' || l.role === 'words'))
      .flatMap((layer: Subject): Finding[] => {
        const onCanvas = extremes(layer, canvas, shaper, assets);
        if (!onCanvas.length || !concernsFrame(boxOf(onCanvas), rect, frames)) return [];
        // From the frame's corner: it is what the page cuts.
        const points = shifted(onCanvas, { x: -rect.x, y: -rect.y });
        const px = beyondShape(points, rect, slot.shape);
        if (px <= thresholds.overEdge.value) return [];
        const out = points.filter((p) => beyondPoint(p, rect, slot.shape) > 0);
        const seams = seamSides(rect, frames);
        const atSeam =
          (seams.has('left') && out.some((p) => p.x < 0)) ||
          (seams.has('right') && out.some((p) => p.x > rect.width)) ||
          (seams.has('top') && out.some((p) => p.y < 0)) ||
          (seams.has('bottom') && out.some((p) => p.y > rect.height));
        const where = {
          ellipse: 'outside the round slot',
          rounded: 'outside the rounded slot',
          rectangle: atSeam ? 'over a seam' : 'over the canvas’s edge',
        }[slot.shape.kind];
        const fixes = (): Fix[] => {
          if (layer.locked) return [];
          const moved = freed(
            layer,
            roomIn({ slot, rect }, layer, layers, canvas, shaper, assets),
            canvas,
            shaper,
            assets,
          );
          if (!moved) return [];
          const edit = { type: 'replace-layer', name: `${layer.name} moved inside`, layer: moved.layer } as const;
          return [{ label: 'Move it inside', edit }];
        };
        return [
          fixable(
            {
              id: `outside:${layer.id}`,
              group: 'before',
              title: `${layer.role === 'words' ? `“${layer.name}”` : layer.name} reaches ${Math.max(1, Math.round(px))} px ${where}`,
              detail: atSeam
                ? 'On the page it stands in two pieces, or is lost in the gap.'
                : 'The page will cut off what lies there.',
              at: enclosing(shifted(out, rect).map((p) => ({ ...p, width: 1, height: 1 }))),
              layer: layer.id,
              figures: [px],
            },
            fixes,
          ),
        ];
      });
  },
});
