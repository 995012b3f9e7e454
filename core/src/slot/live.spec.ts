import { fitOf, hexFromCss, readLive, slotFromLive, type LiveMeasure } from './live';

const measure: LiveMeasure = {
  version: 1,
  width: 940,
  height: 198,
  density: 2,
  page: 'https://ottermill.example/blog?x=1',
  title: 'Notes from the Wheel',
  picture: { address: 'https://ottermill.example/a.jpg', width: 1880, height: 900, how: 'image' },
  fit: 'cover',
  position: '50% 50%',
  radius: { x: 0, y: 0 },
  border: null,
  ground: 'rgb(251, 248, 242)',
  row: { count: 1, gap: 0 },
};

it('comes back from an address and from the clipboard', () => {
  const text = JSON.stringify(measure);
  expect(readLive(text)).toEqual({ ok: true, value: measure });
  expect(readLive(encodeURIComponent(text))).toEqual({ ok: true, value: measure });
});

it.each(['', '{', 'null', '%', '{"version":1}', JSON.stringify({ ...measure, width: 'wide' }), 'x'.repeat(30_000)])(
  'refuses %#',
  (text) => expect(readLive(text).ok).toBe(false),
);

it('becomes a slot', () => {
  const slot = slotFromLive(measure, { id: 's', dated: '2026-11-25' });
  expect(slot.ok && slot.value).toMatchObject({
    name: 'Notes from the Wheel',
    site: 'ottermill.example',
    width: 940,
    densities: [1, 2],
    fit: 'fills-centre',
    ground: '#fbf8f2',
    shape: { kind: 'rectangle' },
  });
  expect(slotFromLive({ ...measure, width: 0 }, { id: 's', dated: '2026-11-25' }).ok).toBe(false);
  const round = slotFromLive(
    { ...measure, width: 128, height: 128, radius: { x: 64, y: 64 } },
    { id: 's', dated: '2026-11' },
  );
  expect(round.ok && round.value.shape).toEqual({ kind: 'ellipse' });
});

it.each([
  ['cover', '50% 50%', 'fills-centre'],
  ['cover', '50% 0%', 'fills-top'],
  ['contain', '50% 50%', 'fits-within'],
  ['none', '0% 0%', 'top-left'],
  ['auto', '0% 0%', 'top-left'],
  ['fill', '50% 50%', 'stretches'],
  ['100% 100%', '0% 0%', 'stretches'],
] as const)('%s at %s %s', (fit, position, what) => expect(fitOf({ fit, position })).toBe(what));

it.each([
  ['rgb(251, 248, 242)', '#fbf8f2'],
  ['rgba(0, 0, 0, 1)', '#000000'],
  ['rgba(0, 0, 0, 0)', null],
  ['rgb(300, 0, 0)', null],
  ['red', null],
])('%s is %s', (css, hex) => expect(hexFromCss(css)).toBe(hex));
