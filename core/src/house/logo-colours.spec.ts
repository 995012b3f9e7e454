import { contrast } from '../colour/contrast';
import { random } from '../testing/samples';
import { HouseStyle, plainHouseStyle } from './house-style';
import { logoColours } from './logo-colours';
import { lookOf } from './page-look';

const roleOf = (palette: string[], role: string) => logoColours(palette).find((c) => c.role === role)?.colour;

it('the most vivid colour of a logo is the accent, its darkest for words, its lightest for grounds', () => {
  const palette = ['#a4512f', '#3b1f14', '#f7e9cd', '#d9ad93'];
  expect(roleOf(palette, 'accent')).toBe('#a4512f');
  expect(roleOf(palette, 'words')).toBe('#3b1f14');
  expect(roleOf(palette, 'ground')).toBe('#f7e9cd');
  expect(logoColours(palette).map((c) => c.colour)).toEqual(expect.arrayContaining(palette));
});

it('what a logo lacks comes from the usual colours', () => {
  expect(roleOf(['#ffd200'], 'words')).toBe('#1f2a30');
  expect(roleOf(['#223344'], 'ground')).toBe('#f4e7cb');
  expect(roleOf(['#777777'], 'accent')).toBe('#777777');
});

it('300 random palettes are house styles that can be read, each name and role once, words read on the ground', () => {
  const r = random(77);
  for (let i = 0; i < 300; i++) {
    const palette = Array.from(
      { length: Math.floor(r() * 9) },
      () =>
        `#${Math.floor(r() * 0xffffff)
          .toString(16)
          .padStart(6, '0')}`,
    );
    const colours = logoColours(palette);
    expect(HouseStyle.safeParse({ ...plainHouseStyle, colours }).success).toBe(true);
    for (const list of [colours.map((c) => c.name), colours.flatMap((c) => c.role ?? [])])
      expect(new Set(list).size).toBe(list.length);
    // WCAG 2.2, success criterion 1.4.6.
    expect(contrast(roleOf(palette, 'words')!, roleOf(palette, 'ground')!)).toBeGreaterThanOrEqual(7);
  }
});

it('the pages of one’s own say its name and address, in its type and accent', () => {
  const look = lookOf({
    ...plainHouseStyle,
    business: ' Mill Street Bakery ',
    address: 'https://mill-street.example/',
  });
  expect([look.business, look.address, look.type.heading]).toEqual([
    'Mill Street Bakery',
    'mill-street.example',
    'Bricolage Grotesque',
  ]);
  expect(look.colours.accent).toBe('#a4512f');
});
