import { blank, photo, withLayers } from '../testing/samples';
import { softAt } from './soft-at';

it('a photo that has too few pixels for a density is told, by what it would be drawn at', () => {
  const small = photo({ natural: { width: 1410, height: 297 } });
  const g = withLayers(blank('blog-header'), small);
  const at = (density: number) => softAt(g, g.frames[0]!, density);
  expect(at(1)).toBeNull();
  expect(at(2)).toBe(`At 2× ${small.name} would be drawn at 133 % of its own pixels: soft.`);
  expect(at(3)).toContain('200 %');
  expect(softAt(blank('blog-header'), g.frames[0]!, 3)).toBeNull();
});
