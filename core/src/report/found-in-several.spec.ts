import { foundInSeveral, sharedText, type Told } from './found-in-several';

const told = (id: string, title: string, group: Told['group'] = 'time'): Told => ({ id, group, title });
const lines = (found: Told[][]) => foundInSeveral(found).map((s) => sharedText(s, found.length));

it('tells each rule once, what is to be fixed first, then what is found most often', () => {
  const undescribed = told('undescribed', 'It has no description');
  expect(
    lines([
      [undescribed, told('soft:a', 'Jugs looks soft')],
      [undescribed, told('faint:b', '“Mugs” is too faint', 'before')],
      [undescribed, told('soft:c', 'Shelf looks soft'), told('soft:d', 'Sill looks soft')],
    ]),
  ).toEqual(['2: “Mugs” is too faint', 'All: It has no description', '1 and 3: Jugs looks soft, and the like']);
});

it.each([
  [[0], 9, '1'],
  [[0, 1], 9, '1 and 2'],
  [[1, 2, 3], 9, '2 to 4'],
  [[0, 2, 3, 4, 8], 9, '1, 3 to 5 and 9'],
  [[0, 2, 3, 5, 7], 9, '5 of them, 1 first'],
  [[1, 2, 3, 5, 7, 9, 11], 20, '7 of them, 2 to 4 first'],
  [[0, 1, 2], 3, 'All'],
])('places %j of %i are “%s”', (at, of, text) => {
  const found = Array.from({ length: of }, (_, i) => (at.includes(i) ? [told('x', 'X')] : []));
  expect(lines(found)).toEqual([`${text}: X`]);
});

it('of one alone no place is told; where nothing was found there is nothing to tell', () => {
  expect(lines([[told('x', 'X')]])).toEqual(['X']);
  expect(lines([[], []])).toEqual([]);
});

it('what is to be fixed in one and looked at in another is told as two', () => {
  expect(lines([[told('heavy', 'Heavy', 'before')], [told('heavy', 'Heavy')]])).toEqual(['1: Heavy', '2: Heavy']);
});
