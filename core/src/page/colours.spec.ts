import { wcagContrast } from 'culori';
import { slotOf, random } from '../testing/samples';
import { coloursCss, coloursOf, lookWith, missedContrasts, palettesFor, slotWith } from './colours';
import { cssString } from './html';
import { neutralLook } from './look';
import { renderPage } from './page';

const hex = (r: () => number) =>
  `#${Math.floor(r() * 0x1000000)
    .toString(16)
    .padStart(6, '0')}`;

describe('palettesFor', () => {
  it('all pass: words 7 : 1, headings 4.5 : 1, lines 3 : 1, by culori’s own contrast; 120 random pictures (seed 9)', () => {
    const r = random(9);
    let least = { words: 21, accent: 21, border: 21 };
    let made = 0;
    for (let n = 0; n < 120; n++) {
      const colours = Array.from({ length: 1 + Math.floor(r() * 8) }, () => hex(r));
      const bordered = n % 2 === 0;
      const palettes = palettesFor(colours, bordered);
      expect(palettes.length).toBeLessThanOrEqual(6);
      for (const p of palettes) {
        made++;
        expect(missedContrasts(p)).toEqual([]);
        expect(p.border === null).toBe(!bordered);
        least = {
          words: Math.min(least.words, wcagContrast(p.words, p.ground)),
          accent: Math.min(least.accent, wcagContrast(p.accent, p.ground)),
          border: Math.min(least.border, p.border ? wcagContrast(p.border, p.ground) : 21),
        };
      }
    }
    console.log(`${made} palettes; least contrasts ${JSON.stringify(least)}`);
    expect([least.words >= 7, least.accent >= 4.5, least.border >= 3]).toEqual([true, true, true]);
    expect(made).toBeGreaterThan(400);
  });
  it('offers pale grounds and dark ones, none twice, most of the picture first', () => {
    const palettes = palettesFor(['#7a4b2a', '#2f5a63', '#d9c9a8', '#a8331f'], false);
    const light = palettes.map((p) => wcagContrast(p.ground, '#000000') > 10);
    expect(light).toContain(true);
    expect(light).toContain(false);
    expect(light).toEqual([...light].sort((a, b) => Number(b) - Number(a)));
    expect(new Set(palettes.map((p) => p.ground)).size).toBe(palettes.length);
    expect(palettesFor([], false)).toEqual([]);
  });
});

it('a page wears the colours: its ground, its words, its headings, the line around the slot', () => {
  const colours = { ground: '#101820', words: '#f0ead6', accent: '#ffb454', border: '#8a8271', heading: null };
  const slot = slotOf('blog-header');
  const { css } = renderPage('blog', { slots: [{ slot, picture: null }], colours }, neutralLook);
  for (const own of ['--ground:#101820', '--ink:#f0ead6', '--title:#ffb454', 'solid #8a8271'])
    expect(css).toContain(own);
  expect(css).not.toContain(`--ground:${slot.ground}`);
  expect(slotWith(slot, { ...colours, border: null, heading: null }).border).toBeNull();
  expect(coloursOf(slotWith(slot, colours), lookWith(neutralLook, colours))).toEqual(colours);
});

it('what is said by the way can be read too: 200 random colours of which the words pass (seed 4)', () => {
  const r = random(4);
  let seen = 0;
  while (seen < 200) {
    const [ground, words] = [hex(r), hex(r)];
    if (wcagContrast(ground, words) < 4.5) continue;
    seen++;
    const { quiet } = lookWith(neutralLook, { ground, words, accent: words, border: null, heading: null }).colours;
    expect(wcagContrast(quiet, ground)).toBeGreaterThanOrEqual(4.5);
  }
});

it('headings in another type, where one was chosen', () => {
  const [slot, colours] = [
    slotOf('blog-header'),
    { ground: '#ffffff', words: '#111111', accent: '#222222', border: null },
  ];
  const css = (heading: string | null) =>
    renderPage('blog', { slots: [{ slot, picture: null }], colours: { ...colours, heading } }, neutralLook).css;
  expect(css('Lora')).toContain(`--heading:${cssString('Lora Variable')}`);
  expect(css(null)).toContain(`--heading:${cssString('Public Sans Variable')}`);
  // A family’s name ends no declaration.
  expect(css('x";}body{display:none')).not.toContain('x";}');
  expect(coloursCss({ ...colours, heading: 'Lora' })).toContain('--page-heading: "Lora";');
});

it('says what misses', () => {
  expect(
    missedContrasts({ ground: '#ffffff', words: '#999999', accent: '#1f2a30', border: null, heading: null }),
  ).toEqual([{ of: 'words', contrast: wcagContrast('#999999', '#ffffff'), needed: 4.5 }]);
});

it('as CSS it is valid: every line a custom property', () => {
  const css = coloursCss({ ground: '#ffffff', words: '#111111', accent: '#123456', border: null, heading: null });
  expect(css).toBe(':root {\n  --page-ground: #ffffff;\n  --page-words: #111111;\n  --page-accent: #123456;\n}\n');
});
