/** How much of each thing a graphic holds. They stand here once: schemas, fields and what people are told follow them. */
export const limits = {
  /** Letters of why a finding was left, and findings that can be. */
  reason: 200,
  left: 100,
  /** Letters (UTF-16 units) of a graphic's or a layer's name, of a step's, of the description for readers. */
  name: 120,
  step: 200,
  description: 500,
  /** Letters and lines of one block of words. */
  letters: 20_000,
  lines: 500,
  layers: 500,
  /** Tiles of one set, and editions that are kept of one. */
  tiles: 500,
  editions: 60,
  /** Letters of a path's data. */
  path: 200_000,
  /** Canvas px: how far out, and how long, anything may be. */
  far: 1e6,
  /** How far from its box a gradient or a fade may begin or end, in shares of it: 45° over a long hairline needs thousands. */
  shares: 1e6,
  /** Shapes' and masks' strokes, and points of one. */
  strokes: 200,
  points: 5000,
} as const;
