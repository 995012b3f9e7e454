/** Empty rows and columns along a picture's four sides, px. */
export interface Margins {
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  readonly left: number;
}

/** How far pixels may differ and still be one colour: JPEG leaves that much around flat grounds. Common practice, no source. */
const TOLERANCE = 10;

/**
 * Rows and columns along each side that are wholly transparent or wholly one
 * colour. `rgba` is encoded sRGB, straight alpha, 4 bytes a pixel. A picture
 * that is empty throughout gives all its rows as `top`.
 */
export function emptyMargins(rgba: ArrayLike<number>, width: number, height: number): Margins {
  const alike = (i: number, j: number) =>
    (rgba[i + 3]! < 8 && rgba[j + 3]! < 8) ||
    (Math.abs(rgba[i]! - rgba[j]!) <= TOLERANCE &&
      Math.abs(rgba[i + 1]! - rgba[j + 1]!) <= TOLERANCE &&
      Math.abs(rgba[i + 2]! - rgba[j + 2]!) <= TOLERANCE &&
      Math.abs(rgba[i + 3]! - rgba[j + 3]!) <= TOLERANCE);
  /** Lines from a side inwards that are all like that side's first pixel. */
  const count = (lines: number, along: number, at: (line: number, k: number) => number) => {
    const model = at(0, 0);
    for (let line = 0; line < lines; line++)
      for (let k = 0; k < along; k++) if (!alike(at(line, k), model)) return line;
    return lines;
  };
  const px = (x: number, y: number) => (y * width + x) * 4;
  const top = count(height, width, (line, k) => px(k, line));
  if (top === height) return { top, right: 0, bottom: 0, left: 0 };
  return {
    top,
    bottom: count(height, width, (line, k) => px(k, height - 1 - line)),
    left: count(width, height, (line, k) => px(line, k)),
    right: count(width, height, (line, k) => px(width - 1 - line, k)),
  };
}
