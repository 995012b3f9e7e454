import { parseDocument } from 'htmlparser2';
import { getElementsByTagName } from 'domutils';
import { parse } from 'css-tree';
import { codeKinds, pageCode, type PageCode } from './markup';

const files = [
  { address: 'header.webp', format: 'webp', density: 1, width: 940 },
  { address: 'header-2x.webp', format: 'webp', density: 2, width: 1880 },
  { address: 'header.jpg', format: 'jpeg', density: 1, width: 940 },
  { address: 'header-2x.jpg', format: 'jpeg', density: 2, width: 1880 },
] as const;
const code: PageCode = { files, width: 940, height: 198, alt: 'Jugs & “bowls” <5>', scales: false };
const read = (html: string) => {
  const page = parseDocument(html);
  const of = (tag: string) => getElementsByTagName(tag, page).map((e) => e.attribs);
  return { img: of('img'), source: of('source'), picture: of('picture') };
};

it('an image states its size and its description, and offers each density', () => {
  const { img } = read(pageCode('img', code));
  expect(img).toEqual([
    {
      src: 'header.webp',
      srcset: 'header.webp 1x, header-2x.webp 2x',
      width: '940',
      height: '198',
      alt: 'Jugs & “bowls” <5>',
    },
  ]);
});

it('where the page scales it, the widths are stated, and how wide it is shown', () => {
  const { img } = read(pageCode('img', { ...code, scales: true }));
  expect(img[0]).toMatchObject({
    srcset: 'header.webp 940w, header-2x.webp 1880w',
    sizes: '(max-width: 940px) 100vw, 940px',
  });
});

it('a picture offers the chosen format, and another to browsers that do not know it', () => {
  const { img, source } = read(pageCode('picture', code));
  expect(source).toEqual([{ type: 'image/webp', srcset: 'header.webp 1x, header-2x.webp 2x' }]);
  expect(img[0]).toMatchObject({ src: 'header.jpg', srcset: 'header.jpg 1x, header-2x.jpg 2x' });
});

it('CSS offers each density, and is CSS', () => {
  const css = pageCode('css', code);
  parse(css, {
    onParseError: (e) => {
      throw e;
    },
  });
  expect(css).toContain(
    'image-set(url("header.webp") type("image/webp") 1x, url("header-2x.webp") type("image/webp") 2x)',
  );
});

it.each(codeKinds)('%s: one file alone needs no choice; nothing that is typed breaks out of it', (kind) => {
  const odd = 'a "b", c\\\\ d\\n</style><script>x</script>.jpg';
  const one: PageCode = {
    files: [{ address: odd, format: 'jpeg', density: 1, width: 9 }],
    width: 9,
    height: 9,
    alt: '"><script>alert(1)</script>',
    scales: true,
  };
  const said = pageCode(kind, one);
  if (kind === 'css')
    parse(said, {
      onParseError: (e) => {
        throw e;
      },
    });
  else {
    const page = parseDocument(said);
    expect(getElementsByTagName('script', page)).toEqual([]);
    expect(read(said).img[0]).toMatchObject({ src: odd, alt: one.alt });
    expect(read(said).img[0]!['srcset']).toBeUndefined();
  }
});
