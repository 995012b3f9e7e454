import { readFileSync, readdirSync } from 'node:fs';
import sharp from 'sharp';
import { cleanDrawing } from './drawing';
import { quietCss } from './quiet-css';
import { drawingLimits, runsAcross } from './svg-source';

const bytes = (text: string) => new TextEncoder().encode(text);
const svg = (body: string, attributes = 'viewBox="0 0 10 10"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;
const cleaned = (text: string | Uint8Array) => cleanDrawing(typeof text === 'string' ? bytes(text) : text, '“it”');
const clean = (text: string | Uint8Array) => {
  const done = cleaned(text);
  return done.ok ? done.value.svg : null;
};
const problemOf = (text: string | Uint8Array) => {
  const done = cleaned(text);
  return done.ok ? '' : done.problem.message;
};
const hostile = (name: string) => new Uint8Array(readFileSync(new URL(`../testing/hostile/${name}`, import.meta.url)));

describe('a drawing', () => {
  it('keeps what draws: paths, gradients by fragment, styles, pictures written into it', async () => {
    const dot = (
      await sharp({ create: { width: 2, height: 2, channels: 3, background: '#a4512f' } })
        .png()
        .toBuffer()
    ).toString('base64');
    const out = clean(
      svg(
        `<style>.a{fill:url(#g);opacity:.5}@media print{.a{opacity:1}}</style><defs><linearGradient id="g"/></defs><path class="a" d="M0 0h9v9z" style="stroke:#123456"/>` +
          `<use xlink:href="#g"/><image href="data:image/png;base64,${dot}" width="1" height="1"/><rect fill="url(#g)"/><text xml:space="preserve">a &lt; b</text>`,
      ),
    )!;
    for (const kept of [
      'fill:url(#g)',
      '@media print',
      'linearGradient',
      'd="M0 0h9v9z"',
      'style="stroke:#123456"',
      'href="#g"',
      'data:image/png',
      'fill="url(#g)"',
      'a &lt; b',
    ])
      expect(out).toContain(kept);
    expect(out).toContain('viewBox="0 0 10 10"');
  });
  it.each([
    ['a script', '<script>alert(1)</script>', /script|alert/],
    [
      'a script in another case and namespace',
      '<x:SCRIPT xmlns:x="http://www.w3.org/2000/svg">a()</x:SCRIPT>',
      /script/i,
    ],
    ['handlers', '<rect onclick="a()" ONLOAD="b()"/>', /onclick|onload/i],
    [
      'a foreign document',
      '<foreignObject><iframe xmlns="http://www.w3.org/1999/xhtml" src="https://x.example/"/></foreignObject>',
      /iframe|example/,
    ],
    ['outside pictures', '<image href="https://x.example/p.png"/><image xlink:href="//x.example/p.png"/>', /example/],
    [
      'outside references',
      '<use href="https://x.example/s.svg#a"/><a href="javascript:a()"><rect/></a>',
      /example|javascript/,
    ],
    ['outside paint', '<rect fill="url(https://x.example/f.svg#p)"/>', /example/],
    ['outside paint behind an escape', '<rect fill="u\\72l(https://x.example/f.svg#p)"/>', /example/],
    [
      'outside style sheets',
      '<style>@import url(https://x.example/a.css); rect{fill:url("https://x.example/b")}</style>',
      /example|import/,
    ],
    [
      'outside fonts and nested rules',
      '<style>@font-face{src:url(https://x.example/f)} g{a:b;&amp; rect{fill:url(https://x.example/b)}}</style>',
      /example|font-face/,
    ],
    ['outside in a style attribute', '<rect style="fill:url( \'https://x.example/b\')"/>', /example/],
    ['outside in a custom property', '<rect style="--a:url(https://x.example/b);fill:var(--a)"/>', /example/],
    [
      'an animation that would set an address',
      '<a><set attributeName="href" to="javascript:a()"/></a>',
      /javascript|set/,
    ],
    ['a drawing within a picture', '<image href="data:image/svg+xml,&lt;svg/&gt;"/>', /svg\+xml/],
    ['a picture that is none', '<image href="data:image/png;base64,AAAA"/>', /base64/],
    ['comments and instructions', '<!-- c --><?xml-stylesheet href="https://x.example/a.css"?>', /c --|example/],
    ['an address to start from', '<g xml:base="https://x.example/"><rect/></g>', /example/],
  ])('loses %s', (_what, body, gone) => {
    const out = clean(svg(`${body}<circle r="1"/>`))!;
    expect(out.replace(/xmlns(:\w+)?="[^"]*"/g, '')).not.toMatch(gone);
    expect(out).toContain('<circle');
  });
  it.each<[boolean, string]>([
    [false, '<circle r="1"/>'],
    [false, '<metadata><a xmlns="x:y" onclick="b()"/></metadata><circle r="1"/>'],
    [false, '<image href="data:image/png;base64,AAAA"/><use href="#a"/><circle r="1"/>'],
    [true, '<script>alert(1)</script><circle r="1"/>'],
    [true, '<circle r="1" onload="alert(1)"/>'],
    [true, '<g ONCLICK="a()"><circle r="1"/></g>'],
    [true, '<foreignObject/><circle r="1"/>'],
    [true, '<image href="https://x.example/p.png"/><circle r="1"/>'],
    [true, '<a href="javascript:a()"><circle r="1"/></a>'],
    [true, '<set attributeName="href" to="javascript:a()"/><circle r="1"/>'],
  ])('tells whether it did more than draw: %s for %s', (acted, body) => {
    expect(cleanDrawing(new TextEncoder().encode(svg(body)), 'it')).toMatchObject({ ok: true, value: { acted } });
  });
  it('is refused where it is no well-formed drawing', () => {
    for (const text of ['<svg xmlns="http://www.w3.org/2000/svg"><g></svg>', '<html><svg/></html>', 'not xml', ''])
      expect(problemOf(text)).toContain('cannot be read');
    expect(problemOf(svg('<script/>'))).toContain('holds no drawing');
  });
  it('does not let escapes or comments hide an address', () => {
    const quiet = (css: string) => quietCss(css, 'declarationList');
    expect(quiet('fill:u/**/rl(https://x.example/)')).not.toContain('example');
    expect(quiet('fill:u\\rl(https://x.example/)')).not.toContain('example');
    expect(quiet('background:image-set("https://x.example/a" 1x)')).not.toContain('example');
    expect(quietCss('@im\\port "https://x.example/a"; @\\69mport "https://x.example/a";', 'stylesheet')).not.toContain(
      'example',
    );
    expect(quiet('fill:red')).toBe('fill:red');
  });
});

describe('sound drawings of every kind are taken, and drawn as librsvg (by sharp) draws the original', () => {
  const body = '<rect x="10" y="10" width="80" height="80" fill="#1f6f5c"/>';
  const utf16 = (text: string, big: boolean) => {
    const out = new Uint8Array(text.length * 2 + 2);
    const view = new DataView(out.buffer);
    [...`\uFEFF${text}`].forEach((c, i) => view.setUint16(i * 2, c.charCodeAt(0), !big));
    return out;
  };
  it.each<[string, Uint8Array, number, number]>([
    ['commas in viewBox', hostile('viewbox-commas.svg'), 100, 100],
    ['white space in viewBox', hostile('viewbox-2spaces.svg'), 100, 100],
    ['tabs and lines in viewBox', bytes(svg(body, 'viewBox="\n0\t0 , 100\r\n100 "')), 100, 100],
    ['a size in a comment before', hostile('comment-svg.svg'), 100, 50],
    ['a root of over 1000 letters', hostile('long-root.svg'), 453.54, 151.18],
    ['a size of ten million', hostile('size-1e7.svg'), 8192, 1],
    ['a viewBox of two million', hostile('viewbox-2e6.svg'), 8192, 4096],
    ['a size of a hundredth', bytes(svg(body, 'width="0.02" height="0.01" viewBox="0 0 200 100"')), 16, 8],
    ['no size at all', bytes(svg(body, '')), 300, 150],
    ['shares for a size', bytes(svg(body, 'width="100%" height="100%" viewBox="0 0 200 100"')), 200, 100],
    ['one side and viewBox', bytes(svg(body, 'width="400" viewBox="0 0 200 100"')), 400, 200],
    ['millimetres', bytes(svg(body, 'width="25.4mm" height="1in" viewBox="0 0 100 100"')), 96, 96],
    [
      'prefixed roots',
      bytes(
        '<s:svg xmlns:s="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><s:rect width="50" height="9"/></s:svg>',
      ),
      100,
      100,
    ],
    ['UTF-16, big end first', utf16(svg(body, 'viewBox="0 0 100 100"'), true), 100, 100],
    ['UTF-16, small end first', utf16(svg(body, 'viewBox="0 0 100 100"'), false), 100, 100],
    [
      'a document type without entities',
      bytes(`<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x">${svg(body)}`),
      16,
      16,
    ],
  ])('%s', (_what, file, width, height) => {
    const done = cleaned(file);
    expect(done.ok && [done.value.width, done.value.height].map((n) => Math.round(n * 100) / 100)).toEqual([
      width,
      height,
    ]);
  });
  const demo = new URL('../../../demo/logos/', import.meta.url);
  it.each(readdirSync(demo).filter((f) => f.endsWith('.svg')))('the demo’s %s', async (file) => {
    const original = readFileSync(new URL(file, demo));
    const kept = clean(new Uint8Array(original))!;
    const drawn = async (text: Buffer) => sharp(text).resize(400, 200, { fit: 'fill' }).ensureAlpha().raw().toBuffer();
    const [a, b] = await Promise.all([drawn(original), drawn(Buffer.from(kept))]);
    let most = 0;
    for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!));
    expect(most).toBeLessThanOrEqual(2);
  });
});

it('how often a path runs across itself is told at any scale, in absolute and relative commands', () => {
  expect(runsAcross('M0 0H10V10H0V0')).toBeCloseTo(2, 6);
  expect(runsAcross('m0 0h.01v.01h-.01v-.01z')).toBeCloseTo(2, 6);
  expect(runsAcross('M0 0 10 10 0 0 10 10')).toBeCloseTo(3, 6);
  expect(runsAcross('M5 5m100 100l10 0M0 0l10 0')).toBeLessThan(0.2);
  expect(runsAcross('M0 0C9 9 9 9 10 10A5 5 0 0 1 0 0')).toBeCloseTo(2, 6);
  expect(runsAcross('0,0 10,0 10,10')).toBeCloseTo(1, 6);
  for (const none of ['', 'z', 'M1 1', 'nonsense', 'M0 0L1e308 1e308L-1e308 0']) expect(runsAcross(none)).toBe(0);
});

describe('what costs too much is told so, and costs little', () => {
  const many = (n: number, of: string) => of.repeat(n);
  /** References that double at each step: twenty of them mean a million. */
  const doubling = Array.from(
    { length: 20 },
    (_, i) => `<g id="a${i}">${many(2, `<use href="#a${i + 1}"/>`)}</g>`,
  ).join('');
  it.each<[string, () => string | Uint8Array, string]>([
    ['attributes', () => hostile('attrs-50k.svg'), 'more than 200 attributes'],
    ['depth', () => hostile('nested-5000.svg'), 'nested more than'],
    ['elements', () => svg(many(drawingLimits.elements + 1, '<g/>')), 'more than 20,000 elements'],
    ['points', () => svg(`<path d="M0 0${many(70_000, 'l1 1')}"/>`), 'more than 60,000 points'],
    ['references that double', () => svg(`${doubling}<g id="a20"><rect/></g>`), 'uses its own parts so often'],
    [
      'a scribble',
      () =>
        svg(
          `<path d="M0 0${Array.from({ length: 50_000 }, (_, k) => `L${(k * 7919) % 1000} ${(k * 104_729) % 1000}`).join('')}"/>`,
        ),
      'run to and fro too often',
    ],
    ['words', () => svg(`<text>${'a'.repeat(60_000)}</text>`), 'letters of words'],
    ['styles', () => svg(`<style>${many(40_000, 'a{b:c}')}</style><rect/>`), 'letters of styles'],
    ['effects', () => svg(`<filter id="f">${many(70, '<feFlood/>')}</filter><rect/>`), 'filter effects'],
    ['octaves', () => svg('<filter id="f"><feTurbulence numOctaves="99999"/></filter><rect/>'), 'very long to draw'],
    ['entities', () => `<!DOCTYPE svg [<!ENTITY a "b">]>${svg('<rect/>')}`, 'defines entities'],
    ['bytes', () => new Uint8Array(drawingLimits.bytes + 1).fill(0x20), '8 MB is the most'],
  ])('%s', (_what, make, sentence) => {
    expect(problemOf(make())).toContain(sentence);
  });
  it.each(['q-doctype-250k.svg', 'q-css-url-130k.svg'])('%s takes time in proportion to its length', (name) => {
    const file = hostile(name);
    const time = (part: Uint8Array) => {
      const start = performance.now();
      cleaned(part);
      return performance.now() - start;
    };
    time(file);
    const [half, whole] = [time(file.subarray(0, file.length >> 1)), time(file)];
    // Quadratic time would take four times as long; a slow machine is given a second's grace.
    expect(whole).toBeLessThan(half * 3 + 1000);
  });
});
