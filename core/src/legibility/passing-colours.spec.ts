import { nearestShade } from '../colour/shade';
import { random } from '../testing/samples';
import { faintestLetter, type LetterGround } from './legibility';
import { passingColours } from './passing-colours';

const hex = (r: () => number) =>
  `#${Math.floor(r() * 0x1000000)
    .toString(16)
    .padStart(6, '0')}`;

/** Letters on grounds between two lightnesses, some seen through something, some with a line around them. */
function letters(r: () => number, colour: string): LetterGround[] {
  const [low, span] = [r() * 0.6, r() * 0.35];
  return Array.from({ length: 1 + Math.floor(r() * 12) }, (_, index) => {
    const count = 4 + Math.floor(r() * 12);
    const each = r() < 0.2;
    const ground = Float32Array.from({ length: count }, () => low + r() * span);
    const over =
      r() < 0.3
        ? Float32Array.from({ length: each ? count * 4 : 4 }, (_v, k) => (k % 4 < 3 ? r() * 60 : 0.5 + r() * 0.5))
        : null;
    return {
      letter: 'a',
      index,
      box: { x: 0, y: 0, width: 1, height: 1 },
      colour,
      size: r() < 0.5 ? 14 : 40,
      weight: 600,
      samples: count,
      ground: over && each ? ground : ground.sort(),
      over,
    };
  });
}

it('finds what trying every shade on every letter finds: 150 random blocks (seed 6)', () => {
  const r = random(6);
  let [shades, inks, none] = [0, 0, 0];
  for (let n = 0; n < 150; n++) {
    const own = hex(r);
    const block = letters(r, own);
    const passes = (colour: string) => {
      const worst = faintestLetter({ letters: block }, 1, colour)!;
      return worst.contrast >= worst.needed;
    };
    const shade = nearestShade(own, (_, colour) => passes(colour));
    const ink = shade ? null : (['#ffffff', '#000000'].find(passes) ?? null);
    const got = passingColours(own, block, 1);
    expect([n, got.shade, got.ink?.hex ?? null]).toEqual([n, shade, ink]);
    if (shade) shades++;
    else if (ink) inks++;
    else none++;
  }
  console.log(`nearest shade ${shades}, an ink ${inks}, neither ${none}`);
  expect([shades > 10, none > 5]).toEqual([true, true]);
});

it('says nothing of no letters', () => {
  expect(passingColours('#777777', [], 1)).toEqual({ shade: null, ink: null });
});
