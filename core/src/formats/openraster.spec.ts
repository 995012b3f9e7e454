import { limits } from '../limits';
import { random } from '../testing/samples';
import { readStack, stackXml, type StackLayer } from './openraster';

const layer = (own: Partial<StackLayer> = {}) => ({
  name: 'Shelf',
  src: 'data/layer000.png',
  x: 3,
  y: -4,
  opacity: 0.5,
  visible: true,
  ...own,
});

const read = (xml: string) => {
  const stack = readStack(xml);
  if (!stack.ok) throw new Error(stack.problem.message);
  return stack.value;
};

describe('the stack of an OpenRaster file', () => {
  it('lists the topmost layer first, and is read back as it was', () => {
    const layers = [layer({ name: 'Below' }), layer({ name: 'Above', src: 'data/layer001.png', visible: false })];
    const xml = stackXml({ width: 940, height: 198 }, layers);
    expect(xml.indexOf('Above')).toBeLessThan(xml.indexOf('Below'));
    expect(read(xml)).toEqual({
      width: 940,
      height: 198,
      layers: layers.map((l) => ({ ...l, within: [] })),
      left: [],
    });
  });

  it('takes any name: 200 random ones', () => {
    const r = random(18);
    for (let i = 0; i < 200; i++) {
      const name = Array.from({ length: 1 + Math.floor(r() * 20) }, () =>
        String.fromCodePoint(Math.floor(r() ** 3 * 0x10ffff)),
      ).join('');
      const [back] = read(stackXml({ width: 1, height: 1 }, [layer({ name })])).layers;
      // What XML cannot hold is a blank; all else stands.
      const held = name
        .toWellFormed()
        .replace(/[^\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, ' ')
        .trim();
      expect(back!.name).toBe(held);
    }
  });

  it('of stacks within stacks gives each layer its place on the canvas', () => {
    // OpenRaster, “Stacks”: a stack's x and y are its children's origin.
    const stack = read(`<?xml version='1.0' encoding='UTF-8'?>
      <image w="300" h="200"><stack><stack name="Front" x="10" y="20" opacity="0.5" visibility="hidden">
      <layer name="a" src="data/a.png" x="1" y="2" opacity="0.5"/></stack>
      <layer src="data/b.png" composite-op="svg:multiply"/></stack></image>`);
    expect(stack.layers).toEqual([
      { name: '', src: 'data/b.png', x: 0, y: 0, opacity: 1, visible: true, within: [] },
      { name: 'a', src: 'data/a.png', x: 11, y: 22, opacity: 0.25, visible: false, within: ['Front'] },
    ]);
    expect(stack.left).toEqual(['groups that are composed by themselves: 1', 'layers with a blend mode: 1']);
  });

  it.each([
    ['nothing', ''],
    ['no image', '<stack/>'],
    ['one that breaks off', '<image w="1" h="1"><stack><layer src="a"'],
    ['one without a size', '<image><stack><layer src="a"/></stack></image>'],
    ['one without layers', '<image w="1" h="1"><stack/></image>'],
    ['a document type', '<!DOCTYPE x [<!ENTITY a "b">]><image w="1" h="1"><stack><layer src="a"/></stack></image>'],
    ['stacks without end', `<image w="1" h="1">${'<stack>'.repeat(5000)}`],
    [
      'more than a graphic holds',
      `<image w="1" h="1"><stack>${'<layer src="a"/>'.repeat(limits.layers + 1)}</stack></image>`,
    ],
  ])('refuses %s in a sentence', (_, xml) => {
    const stack = readStack(xml);
    expect(!stack.ok && stack.problem.message).toMatch(/^That OpenRaster file .*\.$/);
  });

  it('reads any figures: they are brought within what a graphic holds', () => {
    const [l] = read('<image w="1" h="1"><stack><layer src="a" x="1e99" y="no" opacity="-3"/></stack></image>').layers;
    expect(l).toMatchObject({ x: limits.far, y: 0, opacity: 0 });
  });
});
