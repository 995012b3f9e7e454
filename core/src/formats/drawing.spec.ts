import { assembleDrawing, disarmDrawing, quietCss } from './drawing';

const svg = (body: string, attributes = 'viewBox="0 0 10 10"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;
const clean = (text: string) => {
  const disarmed = disarmDrawing(text);
  return disarmed && assembleDrawing(disarmed.svg, disarmed.styles, { width: 10, height: 10 });
};

describe('a drawing', () => {
  it('keeps what draws: paths, gradients by fragment, styles, pictures written into it', () => {
    const out = clean(
      svg(
        `<style>.a{fill:url(#g);opacity:.5}</style><defs><linearGradient id="g"/></defs><path class="a" d="M0 0h9v9z" style="stroke:#123456"/>` +
          `<use xlink:href="#g"/><image href="data:image/png;base64,AAAA" width="1" height="1"/><rect fill="url(#g)"/>`,
      ),
    )!;
    for (const kept of [
      'fill:url(#g)',
      'linearGradient',
      'd="M0 0h9v9z"',
      'style="stroke:#123456"',
      'xlink:href="#g"',
      'data:image/png',
      'fill="url(#g)"',
    ])
      expect(out).toContain(kept);
    expect(out).toContain('width="10"');
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
    [
      'outside style sheets',
      '<style>@import url(https://x.example/a.css); rect{fill:url("https://x.example/b")}</style>',
      /example|import/,
    ],
    ['outside in a style attribute', '<rect style="fill:url( \'https://x.example/b\')"/>', /example/],
    [
      'an animation that would set an address',
      '<a><set attributeName="href" to="javascript:a()"/></a>',
      /javascript|set/,
    ],
    ['a drawing within a picture', '<image href="data:image/svg+xml,&lt;svg/&gt;"/>', /svg\+xml/],
  ])('loses %s', (_what, body, gone) => {
    const out = clean(svg(`${body}<circle r="1"/>`))!;
    expect(out.replace(/xmlns(:\w+)?="[^"]*"/g, '')).not.toMatch(gone);
    expect(out).toContain('<circle');
  });
  it('is refused where it is no well-formed drawing', () => {
    expect(disarmDrawing('<svg xmlns="http://www.w3.org/2000/svg"><g></svg>')).toBeNull();
    expect(disarmDrawing('<html><svg/></html>')).toBeNull();
    expect(disarmDrawing('not xml')).toBeNull();
  });
  it('does not let escapes or comments hide an address', () => {
    expect(quietCss('fill:u/**/rl(https://x.example/)')).not.toContain('example');
    expect(quietCss('fill:u\\rl(https://x.example/)')).not.toContain('example');
    expect(quietCss('background:image-set("https://x.example/a" 1x)')).not.toMatch(/image-set\(/);
    expect(quietCss('@im\\port "https://x.example/a"')).not.toContain('\\');
  });
});
