import { contrast, contrastNeeded, contrastOfLuminance, isLargeType, luminance } from './contrast';

describe('contrast', () => {
  // WCAG 2.2, definition of contrast ratio: 1 to 21; the greys are its well-known worked pairs (from memory).
  it.each([
    ['#000000', '#ffffff', 21],
    ['#777777', '#ffffff', 4.48],
    ['#767676', '#ffffff', 4.54],
    ['#949494', '#ffffff', 3.03],
    ['#ff0000', '#ffffff', 4.0],
    ['#ffffff', '#ffffff', 1],
  ])('%s on %s is %d', (a, b, ratio) => {
    expect(contrast(a, b)).toBeCloseTo(ratio, 2);
    expect(contrast(b, a)).toBeCloseTo(ratio, 2);
  });
  // WCAG 2.2, definition of relative luminance: the weights themselves.
  it('weighs red, green and blue as WCAG does', () => {
    expect(luminance('#ff0000')).toBeCloseTo(0.2126, 4);
    expect(luminance('#00ff00')).toBeCloseTo(0.7152, 4);
    expect(luminance('#0000ff')).toBeCloseTo(0.0722, 4);
  });
  it('agrees with itself on luminances', () => {
    expect(contrastOfLuminance(luminance('#1f6f5c'), luminance('#f7f4ee'))).toBeCloseTo(
      contrast('#1f6f5c', '#f7f4ee'),
      9,
    );
  });
});

// WCAG 2.2, definition of large scale: 18 pt (24 px) or 14 pt (18.66 px) bold.
it.each([
  [24, 400, true, 3],
  [23.99, 400, false, 4.5],
  [18.66, 700, true, 3],
  [18.66, 600, false, 4.5],
  [18.6, 900, false, 4.5],
])('%d px at weight %d is large: %s', (size, weight, large, needs) => {
  expect(isLargeType(size, weight)).toBe(large);
  expect(contrastNeeded(size, weight)).toBe(needs);
});
