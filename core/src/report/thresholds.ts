/** A figure that rules go by, its unit, and where it comes from. */
export interface Threshold {
  readonly value: number;
  readonly unit: string;
  readonly source: string;
}

const practice = 'common practice, no source';

/** All figures that the fit report goes by. */
export const thresholds = {
  contrast: { value: 4.5, unit: ': 1 and more', source: 'WCAG 2.2, 1.4.3 Contrast (Minimum) (AA)' },
  largeContrast: {
    value: 3,
    unit: ': 1 and more, for type of 24 CSS px (18.66 when bold) and more',
    source: 'WCAG 2.2, 1.4.3 Contrast (Minimum) (AA), and its definition of “large scale”',
  },
  letterHeight: { value: 9, unit: 'CSS px of type size as shown, at the least', source: practice },
  overEdge: { value: 0.5, unit: 'px over an edge are not to be seen', source: practice },
  zone: { value: 1, unit: 'px under what the page lays over it are not to be seen', source: practice },
  bare: { value: 0.01, unit: 'px that are not covered count as covered', source: 'rounding' },
  short: {
    value: 3,
    unit: 'px that a band, a line or a sheet stops short of an edge look like a mistake',
    source: practice,
  },
  blur: {
    value: 1.2,
    unit: 'px of blur (σ) in the file’s sharpest edges and more look soft',
    source: `S. Zhuo and T. Sim, “Defocus map estimation from a single image”, Pattern Recognition 44 (2011), for the measure; the figure is ${practice}`,
  },
  busy: {
    value: 30,
    unit: 'of lightness (L*) between the darkest and lightest tenth around a letter and more are busy',
    source: `CIE 15, L* of 1976, for the measure; the figure is ${practice}`,
  },
  lowestQuality: { value: 60, unit: 'is the lowest quality that still looks right', source: practice },
  subjectHidden: { value: 0.5, unit: 'of what a photo is of and more under it hide it', source: practice },
  seam: { value: 0.08, unit: 'of what a photo is of and more beyond a seam are missed', source: practice },
  enlarged: { value: 1.1, unit: 'times its own pixels is hardly seen', source: practice },
  stretched: { value: 0.01, unit: 'of its proportions is hardly seen', source: practice },
  nearlyGround: {
    value: 5,
    unit: 'ΔE (CIEDE2000) from the page’s ground and less look like a mistake',
    source: `CIE 142-2001 for the measure; the figure is ${practice}`,
  },
  seenApart: {
    value: 1,
    unit: 'ΔE (CIEDE2000) and less are not told apart',
    source: `CIE 142-2001 for the measure; the figure is ${practice}`,
  },
  firstScreen: { value: 0.75, unit: 'of the first screen and more leave the page no room', source: practice },
  lastWord: { value: 8, unit: 'letters and fewer on a last line by themselves', source: practice },
  leftChange: {
    value: 0.1,
    unit: 'by which a figure may change before a finding that was left is shown again',
    source: practice,
  },
} as const satisfies Record<string, Threshold>;
export type ThresholdName = keyof typeof thresholds;
