import { bottom, right, type Box } from '../geometry/box';
import type { ShapeLayer } from '../graphic/shape';
import { shapeBox } from '../graphic/shape-geometry';
import { defineRule, type Finding } from './rule';
import { thresholds } from './thresholds';

const SIDES = ['left', 'right', 'top', 'bottom'] as const;
type Side = (typeof SIDES)[number];

const figure = (n: number) => `${n < 10 && n % 1 ? n.toFixed(1) : Math.round(n)} px`;

/** How far a box stops short of each side of another, px; beyond it is negative. */
const gaps = (b: Box, rect: Box): Record<Side, number> => ({
  left: b.x - rect.x,
  right: right(rect) - right(b),
  top: b.y - rect.y,
  bottom: bottom(rect) - bottom(b),
});

/** A box run on to a side of another. */
function runOn(b: Box, rect: Box, side: Side): Box {
  switch (side) {
    case 'left':
      return { ...b, x: rect.x, width: right(b) - rect.x };
    case 'right':
      return { ...b, width: right(rect) - b.x };
    case 'top':
      return { ...b, y: rect.y, height: bottom(b) - rect.y };
    case 'bottom':
      return { ...b, height: bottom(rect) - b.y };
  }
}

/** A band that stops a px or two short of the edge it was meant to reach leaves a line that looks like a mistake. */
export const short = defineRule({
  id: 'short',
  about: 'Cover and cut',
  what: 'Bands and rectangles that stop a px or two short of the canvas’s edge.',
  by: ['short', 'bare'],
  mends: 'Run on to the edge.',
  passed: 'No band stops short of the edge',
  needs: ['layers', 'canvas', 'rect', 'shaper'],
  judge({ layers, canvas, rect, shaper }): Finding[] {
    const most = thresholds.short.value;
    return layers
      .filter((l): l is ShapeLayer => l.role === 'shape' && l.visible && l.turn === 0)
      .flatMap((layer): Finding[] => {
        const { form, place, corners } = layer;
        if (form.kind !== 'rectangle' || corners.kind !== 'straight' || place.mode !== 'box') return [];
        const box = shapeBox(layer, { canvas, layers }, shaper);
        const by = gaps(box, rect);
        // A band runs from edge to edge one way: only what reaches nearly all the way was meant to reach.
        const across = by.left <= most && by.right <= most;
        const down = by.top <= most && by.bottom <= most;
        const meant = SIDES.filter((s) => (s === 'left' || s === 'right' ? across : down));
        const sides = meant.filter((s) => by[s] > thresholds.bare.value);
        // One that stands off all round by the same is a frame of its own.
        const inset =
          sides.length >= 2 &&
          sides.every((s) => Math.abs(by[s] - by[sides[0]!]) < 0.01) &&
          meant.length === sides.length;
        if (!sides.length || inset) return [];
        const worst = sides.reduce((a, b) => (by[b] > by[a] ? b : a));
        const whole = sides.reduce((b, side) => runOn(b, rect, side), box);
        return [
          {
            id: `short:${layer.id}`,
            group: 'before',
            title: `${layer.name} stops ${figure(by[worst])} short at the ${worst}`,
            detail: 'What lies behind it shows there as a thin line.',
            at: box,
            layer: layer.id,
            figures: [by[worst]],
            fixes: layer.locked
              ? []
              : [
                  {
                    label: 'Run it on to the edge',
                    edit: {
                      type: 'replace-layer',
                      name: `${layer.name} to the edge`,
                      layer: { ...layer, place: { ...place, box: whole } },
                    },
                  },
                ],
          },
        ];
      });
  },
});
