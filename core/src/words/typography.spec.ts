import { typographic } from './typography';

// Hart's Rules and the like; common practice, no source.
it.each([
  [`"Notes from the Wheel"`, '“Notes from the Wheel”'],
  [`don't, Wren's, the '90s`, 'don’t, Wren’s, the ’90s'],
  [`'a small pot'`, '‘a small pot’'],
  [`she said "he said 'no'"`, 'she said “he said ‘no’”'],
  ['Saturday - at four', 'Saturday – at four'],
  ['10-12 pots', '10–12 pots'],
  ['well-kept', 'well-kept'],
  ['tea -- and cake --- later...', 'tea – and cake — later…'],
  ['20 x 30 cm', '20 × 30 cm'],
  ['box', 'box'],
  ['{date}', '{date}'],
  ['“already” – fine…', '“already” – fine…'],
  ['', ''],
])('%s', (typed, set) => {
  expect(typographic(typed)).toBe(set);
  // What is set stays as it is.
  expect(typographic(set)).toBe(set);
});
