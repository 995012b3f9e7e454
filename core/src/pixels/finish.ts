import type { Box } from '../geometry/box';
import type { Finish } from './finishing';
import { runOn } from './edge';
import { frameShape } from './frame-shape';
import { applyLook, applyTint } from './look';
import { applyFades, applyShape, type Lying } from './mask';
import { turnPixels } from './turn';

/**
 * Does to reduced pixels what a layer's settings ask, all but its shadow and opacity. `lying` may be written to.
 * `place` is where the result is wanted, device px.
 */
export function finishPixels(lying: Lying, finish: Finish, place: Box): Lying {
  const { frame, look, tint, corners, border, fades, beyond, turn } = finish;
  if (look) applyLook(lying.pixels, look);
  if (tint) applyTint(lying.pixels, tint);
  let sheet = lying;
  if (beyond) {
    // The edge is sampled before it fades.
    const whole = { ...lying, pixels: { ...lying.pixels, data: lying.pixels.data.slice() } };
    applyShape(lying, frame, corners, border, turn === null);
    applyFades(lying, fades);
    sheet = runOn(whole, frame, beyond.box, beyond.style, lying);
  } else {
    applyShape(lying, frame, corners, border, turn === null);
    applyFades(lying, fades);
  }
  return turn ? turnPixels(sheet, turn.degrees, turn.about, frameShape(frame, corners), place) : sheet;
}
