import { busyMap, middleOf, subjectOf, type Box, type BusyMap, type Pixels, type Point } from '@bright-slot/core';

/** Side of the copy that is looked at, px. */
const SIDE = 160;

export interface ProposedFocus {
  /** The point to keep in sight, and the box around what the picture is of, in shares of it. */
  readonly focus: Point;
  readonly subject: Box;
}

/** The same, and how busy it is, part by part. */
export interface FocusAndBusy extends ProposedFocus {
  readonly busy: BusyMap;
}

/** A copy to be looked at. */
function smallCopy(picture: ImageBitmap): Pixels {
  const by = Math.min(1, SIDE / Math.max(picture.width, picture.height));
  const sheet = new OffscreenCanvas(
    Math.max(2, Math.round(picture.width * by)),
    Math.max(2, Math.round(picture.height * by)),
  );
  const context = sheet.getContext('2d', { willReadFrequently: true })!;
  // What is transparent is neither light nor dark.
  context.fillStyle = '#808080';
  context.fillRect(0, 0, sheet.width, sheet.height);
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, 0, 0, sheet.width, sheet.height);
  return context.getImageData(0, 0, sheet.width, sheet.height);
}

function focusOf(pixels: Pixels): ProposedFocus {
  const found = subjectOf(pixels);
  if (!found) return { focus: { x: 0.5, y: 0.5 }, subject: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } };
  // A crop about the box's middle keeps as much of it as one can.
  return { focus: middleOf(found.box), subject: found.box };
}

/** The point to keep in sight and what is around it, proposed from the picture's content. */
export const proposedFocus = (picture: ImageBitmap): ProposedFocus => focusOf(smallCopy(picture));

/** All that is seen in it at a glance. */
export function focusAndBusy(picture: ImageBitmap): FocusAndBusy {
  const pixels = smallCopy(picture);
  return { ...focusOf(pixels), busy: busyMap(pixels) };
}
