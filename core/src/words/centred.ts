import type { Size } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import type { WordsBlock } from './words';
import { layoutOf, movedWords, wordsBounds } from './layout';
import type { Shaper } from './shaper';

/** As near to the canvas's middle counts as in it, canvas px. */
const NEAR = 0.75;

/** Words that were changed, moved so that a block that stood in the middle of the canvas, across or down, still does. */
export function keptCentred<B extends WordsBlock>(before: B, after: B, canvas: Size, shaper: Shaper): B {
  const was = middleOf(wordsBounds(before, layoutOf(before, shaper)));
  const is = middleOf(wordsBounds(after, layoutOf(after, shaper)));
  const by = (axis: 'x' | 'y', length: number) =>
    Math.abs(was[axis] - length / 2) <= NEAR && Math.abs(is[axis] - length / 2) > 1e-6 ? length / 2 - is[axis] : 0;
  const move = { x: by('x', canvas.width), y: by('y', canvas.height) };
  return move.x || move.y ? movedWords(after, move) : after;
}
