import { converter, parse } from 'culori';
import { contrast, luminance, contrastOfLuminance } from './contrast';
import { nearestShade } from './shade';

const passesOn = (ground: string, needed: number) => (l: number) => contrastOfLuminance(l, luminance(ground)) >= needed;
const lch = converter('oklch');

describe('nearestShade', () => {
  it.each([
    ['#8a5a3a', '#b7b0a6', 3],
    ['#a4512f', '#f4e7cb', 4.5],
    ['#5a7a6b', '#1f2a30', 4.5],
  ])('%s on %s: passes %d, keeps its hue, and the shade one step nearer does not pass', (own, ground, needed) => {
    const shade = nearestShade(own, passesOn(ground, needed))!;
    expect(contrast(shade, ground)).toBeGreaterThanOrEqual(needed);
    const turn = Math.abs(lch(shade)!.h! - lch(own)!.h!);
    expect(Math.min(turn, 360 - turn)).toBeLessThan(4);
    // Nearest: barely past the limit.
    expect(contrast(shade, ground)).toBeLessThan(needed * 1.06);
  });
  it('leaves a colour that passes as it is', () => {
    expect(nearestShade('#1f2a30', passesOn('#ffffff', 4.5))).toBe('#1f2a30');
  });
  it('does not call black a shade of yellow: where only that would pass, there is none', () => {
    expect(nearestShade('#f2d01e', (l) => l < 0.002)).toBeNull();
    expect(luminance(nearestShade('#808080', (l) => l < 0.002)!)).toBeLessThan(0.002);
  });
});

// The colour library under it, against values of the CSS Color 4 test suite (web-platform-tests css/css-color, from memory):
// each of these is the named colour green, rgb(0 128 0). CSS Color 4, sections 9.3, 9.4 and 10.3.
it.each([
  'oklch(51.975% 0.17686 142.495)',
  'oklab(51.975% -0.1403 0.10768)',
  'lab(46.2775% -47.5621 48.5837)',
  'color(display-p3 0.21604 0.49418 0.13151)',
])('%s is green', (text) => {
  const { r, g, b } = converter('rgb')(parse(text))!;
  expect([r * 255, g * 255, b * 255].map((v) => Math.abs(Math.round(v)))).toEqual([0, 128, 0]);
});
