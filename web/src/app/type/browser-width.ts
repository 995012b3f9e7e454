import type { BrowserWidth } from '@bright-slot/core';

let ruler: OffscreenCanvasRenderingContext2D | undefined;

/** How wide the browser's own fonts set text, on the page and in a worker alike. */
export const browserWidth: BrowserWidth = (text, { size, weight, italic }) => {
  ruler ??= new OffscreenCanvas(1, 1).getContext('2d')!;
  ruler.font = `${italic ? 'italic ' : ''}${Math.round(weight)} ${size}px sans-serif`;
  return ruler.measureText(text).width;
};
