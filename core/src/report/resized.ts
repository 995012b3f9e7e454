import { bottom, right, type Box } from '../geometry/box';
import { fitted } from '../slot/shown';
import { sizeText, type PageFit, type Slot } from '../slot/slot';
import { defineRule, type Finding } from './rule';
import { thresholds } from './thresholds';

const px = (n: number) => `${Math.max(1, Math.round(n))} px`;
const all = (list: readonly string[]) => list.join(' and ');

/** What a page does to a picture (its px) whose size is not the slot's: in words, and what of it is lost; null for nothing to see. */
export function refitted(
  picture: { width: number; height: number },
  slot: { width: number; height: number },
  fit: PageFit,
): { said: string; figures: number[]; lost: Box[] } | null {
  const { part, scale } = fitted(picture, slot, fit);
  const cut: Record<'left' | 'right' | 'top' | 'bottom', number> = {
    left: part.x,
    right: picture.width - right(part),
    top: part.y,
    bottom: picture.height - bottom(part),
  };
  const sides = (Object.keys(cut) as (keyof typeof cut)[]).filter((s) => cut[s] > thresholds.overEdge.value);
  const bare = [slot.width - part.width * scale.x, slot.height - part.height * scale.y];
  const bands = ['at its sides', 'above and below it'].filter((_, i) => bare[i]! > thresholds.overEdge.value);
  const stretch = scale.x / scale.y;
  const done = [
    ...(sides.length ? [`cuts ${all(sides.map((s) => `${px(cut[s])} off at the ${s}`))}`] : []),
    ...(bands.length ? [`leaves its own ground ${all(bands)}`] : []),
    ...(Math.abs(stretch - 1) > thresholds.stretched.value
      ? [`stretches it ${Math.round(Math.abs(stretch - 1) * 100)} % ${stretch > 1 ? 'wide' : 'high'}`]
      : []),
  ];
  if (!done.length) {
    const by = Math.max(scale.x, scale.y);
    if (Math.abs(by - 1) < 0.005) return null;
    done.push(
      by > 1
        ? `enlarges it to ${Math.round(by * 100)} %, so that it looks soft`
        : `shrinks it to ${Math.round(by * 100)} %`,
    );
  }
  const { width, height } = picture;
  const strips: Box[] = [
    { x: 0, y: 0, width: cut.left, height },
    { x: right(part), y: 0, width: cut.right, height },
    { x: 0, y: 0, width, height: cut.top },
    { x: 0, y: bottom(part), width, height: cut.bottom },
  ];
  return {
    said: `the page ${all(done)}`,
    figures: [...sides.map((s) => cut[s]), ...bare.filter((b) => b > thresholds.overEdge.value), scale.x, scale.y],
    lost: strips.filter((b) => b.width > thresholds.overEdge.value && b.height > thresholds.overEdge.value),
  };
}

const sizeOf = ({ width, height }: Slot) => ({ width, height });

/** A graphic made for a slot's earlier size is cut, shrunk or stretched in the slot as it is now. */
export const resized = defineRule({
  id: 'resized',
  about: 'Cover and cut',
  what: 'A slot that has another size now than the graphic was made for: what its page would cut, shrink or stretch.',
  by: ['overEdge', 'stretched'],
  mends: 'The graphic follows its slot.',
  passed: 'The file is as large as its slot is now',
  needs: ['slot', 'slotNow', 'rect', 'frame'],
  judge({ slot, slotNow, rect, frame }): Finding[] {
    if (!slotNow || sizeText(slotNow) === sizeText(slot)) return [];
    const done = refitted({ width: rect.width, height: rect.height }, sizeOf(slotNow), slotNow.fit);
    if (!done) return [];
    const [lost] = done.lost;
    return [
      {
        id: 'resized',
        group: 'before',
        title: `The slot is ${sizeText(slotNow)} now: ${done.said}`,
        detail: `The graphic was made for ${sizeText(slot)}.`,
        at: lost ? { ...lost, x: lost.x + rect.x, y: lost.y + rect.y } : null,
        figures: done.figures.slice(0, 8),
        fixes: [
          {
            label: `Make it ${sizeText(slotNow)}`,
            edit: { type: 'adapt-to-slot', frame, slot: slotNow, name: `${slotNow.name} ${sizeText(slotNow)}` },
          },
        ],
      },
    ];
  },
});
