import { inParts } from './in-parts';

it.each([
  [0, [0]],
  [1, [1]],
  [49, [49]],
  [99, [99]],
  [100, [50, 50]],
  [149, [75, 74]],
  [417, [52, 52, 52, 53, 52, 52, 52, 52]],
])('%i records go in parts of %j, each once and in order', (count, sizes) => {
  const records = Array.from({ length: count }, (_, i) => i);
  const parts = [...inParts(records)];
  expect(parts.flat()).toEqual(records);
  expect(parts.map((p) => p.length)).toEqual(sizes);
});
