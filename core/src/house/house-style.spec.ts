import { contrast } from '../colour/contrast';
import { blank, photo, shape, veil, withLayers, words } from '../testing/samples';
import { HouseStyle, fieldValues, plainHouseStyle, withHouseColour } from './house-style';
import { placesUsed, replacedEverywhere } from '../graphic/everywhere';
import { fromTokens, toTokens } from './tokens';

describe('a house style', () => {
  it('of version 1 is read with names for its colours, and type', () => {
    const old = { version: 1, copyright: '© Ottermill', namePattern: '{graphic}', colours: ['#a4512f', '#123456'] };
    const now = HouseStyle.parse(old);
    expect(now).toMatchObject({ version: 2, copyright: '© Ottermill', namePattern: '{graphic}', business: '' });
    expect(now.colours).toEqual([
      { name: 'Clay', colour: '#a4512f', role: 'accent' },
      { name: 'Colour 2', colour: '#123456', role: null },
    ]);
    expect(now.type).toEqual(plainHouseStyle.type);
  });
  it('gives each role to one colour', () => {
    const next = withHouseColour(plainHouseStyle, 0, { role: 'accent' });
    expect(next.colours.filter((c) => c.role === 'accent').map((c) => c.name)).toEqual(['White']);
  });
  it('gives each name to one colour', () => {
    const next = withHouseColour(plainHouseStyle, 5, { name: 'clay' });
    expect(new Set(next.colours.map((c) => c.name.toLowerCase())).size).toBe(6);
  });
  it('says the date as the business writes it', () => {
    expect(fieldValues({ ...plainHouseStyle, business: 'Ottermill Pottery' }, new Date(2026, 10, 25))).toEqual({
      business: 'Ottermill Pottery',
      address: '',
      date: '25 November 2026',
    });
  });
});

describe('another colour for a house colour', () => {
  const clay = '#a4512f';
  const graphic = withLayers(
    { ...blank(), backdrop: { kind: 'colour', colour: clay } },
    photo(),
    veil({ colour: clay }),
    shape({
      fill: {
        kind: 'gradient',
        form: 'linear',
        from: { x: 0, y: 0 },
        to: { x: 1, y: 0 },
        stops: [
          { at: 0, colour: clay, opacity: 1 },
          { at: 1, colour: '#ffffff', opacity: 0 },
        ],
      },
    }),
    words(clay, { outline: { width: 2, colour: clay } }, { colour: '#ffffff' }),
  );
  it('is found in backdrop, veil, gradient and outline', () => {
    expect(placesUsed(graphic, { kind: 'colour', colour: clay })).toBe(4);
    expect(placesUsed(graphic, { kind: 'colour', colour: '#abcdef' })).toBe(0);
  });
  it('changes all of them, in one step, and nothing that is said', () => {
    const next = replacedEverywhere(graphic, { kind: 'colour', colour: clay }, { kind: 'colour', colour: '#123456' });
    expect(JSON.stringify(next).match(/#123456/g)).toHaveLength(4);
    const said = next.layers[3]!;
    expect(said.role === 'words' && said.paragraphs[0]!.runs[0]!.text).toBe(clay);
    expect(next.layers[0]).toBe(graphic.layers[0]);
    expect(replacedEverywhere(next, { kind: 'colour', colour: clay }, { kind: 'colour', colour: '#000000' })).toBe(
      next,
    );
  });
});

describe('design tokens', () => {
  const style = {
    ...plainHouseStyle,
    type: {
      heading: { family: 'Lora', weight: 600, italic: true },
      body: { family: 'Public Sans', weight: 400, italic: false },
    },
  };
  const written = JSON.stringify(toTokens(style), null, 2);

  it('are what the published format asks for, by a parser of it', async () => {
    // @terrazzo/parser: Design Tokens Community Group, Format and Color modules 2025.10.
    const { defineConfig, parse } = await import('@terrazzo/parser');
    const cwd = new URL('file:///');
    const { tokens } = await parse([{ filename: new URL('file:///house.tokens.json'), src: written }], {
      config: defineConfig({}, { cwd }),
    });
    const clay = tokens['colour.clay'];
    expect(clay).toMatchObject({ $type: 'color', $description: 'Clay' });
    expect(clay!.$value).toMatchObject({ colorSpace: 'srgb', components: [0.6431, 0.3176, 0.1843] });
    expect(tokens['type.heading.family']).toMatchObject({ $type: 'fontFamily', $value: ['Lora'] });
    expect(tokens['type.heading.weight']).toMatchObject({ $type: 'fontWeight', $value: 600 });
  });
  it('bring the same colours, roles and faces back', () => {
    const read = fromTokens(written);
    expect(read).toEqual({ ok: true, value: { colours: style.colours, type: style.type } });
  });
  it.each([
    // CSS Color 4, sections 5 to 15: what each notation is in sRGB.
    ['hex as text', '#a4512f', '#a4512f'],
    ['srgb', { colorSpace: 'srgb', components: [1, 0.5, 0], alpha: 1 }, '#ff8000'],
    ['hsl', { colorSpace: 'hsl', components: [120, 100, 25] }, '#008000'],
    ['hwb', { colorSpace: 'hwb', components: [120, 0, 49.8039] }, '#008000'],
    // CSS Color 4, section 9.4, sample: oklch(51.975% 0.17686 142.495) is green.
    ['oklch', { colorSpace: 'oklch', components: [0.51975, 0.17686, 142.495] }, '#008000'],
    // CSS Color 4, section 9.3: lab(46.2775% -47.5621 48.5837) is green.
    ['lab', { colorSpace: 'lab', components: [46.2775, -47.5621, 48.5837] }, '#008000'],
    ['xyz', { colorSpace: 'xyz-d65', components: [0.95046, 1, 1.08906] }, '#ffffff'],
  ])('read a colour written as %s', (_, value, hex) => {
    const read = fromTokens(JSON.stringify({ brand: { $type: 'color', leaf: { $value: value } } }));
    expect(read.ok && read.value.colours).toEqual([{ name: 'Leaf', colour: hex, role: null }]);
  });
  it('follow what a token stands for, through groups and aliases', () => {
    const read = fromTokens(
      JSON.stringify({
        base: { $type: 'color', moss: { $value: '#345678' } },
        use: { accent: { $type: 'color', $value: '{base.moss}' }, loop: { $type: 'color', $value: '{use.loop}' } },
        text: { heading: { $type: 'typography', $value: { fontFamily: ['Fraunces', 'serif'], fontWeight: 700 } } },
      }),
    );
    expect(read.ok && read.value.colours.map((c) => [c.name, c.colour])).toEqual([
      ['Moss', '#345678'],
      ['Accent', '#345678'],
    ]);
    expect(read.ok && read.value.type).toEqual({ heading: { family: 'Fraunces', weight: 700, italic: false } });
  });
  it.each([
    '',
    '{',
    '[]',
    'null',
    '{"a":1}',
    '{"c":{"$type":"color","$value":{"colorSpace":"nothing","components":[1,2,3]}}}',
  ])('that are none are told from some: %s', (text) => {
    const read = fromTokens(text);
    expect(!read.ok && read.problem.message).toMatch(/Nothing was changed/);
  });
  it('nested without end are left alone', () => {
    const deep = '{"a":'.repeat(5000) + '1' + '}'.repeat(5000);
    expect(fromTokens(deep).ok).toBe(false);
  });
});

it('the usual colours: words can be read on the ground', () => {
  const of = (role: string) => plainHouseStyle.colours.find((c) => c.role === role)!.colour;
  expect(contrast(of('words'), of('ground'))).toBeGreaterThan(7);
});
