import { slotOf } from '../testing/samples';
import { OwnPage, PageShot, plainPage, shotDevice, shotFor, shotPage, shotWidth } from './own-page';
import { renderPage } from './page';

const shot: PageShot = {
  asset: 'b'.repeat(64),
  width: 2560,
  height: 1600,
  box: { x: 340, y: 300, width: 1880, height: 396 },
  density: 2,
};

it('a screenshot as narrow as a phone’s window is a phone’s page; the tablet keeps its likeness', () => {
  expect(shotDevice(shot)).toBe('desktop');
  expect(shotDevice({ width: 1170, density: 3 })).toBe('phone');
  expect(shotWidth(shot)).toBe(1280);
  const page: OwnPage = { ...plainPage('s'), desktop: shot };
  expect([shotFor(page, 'desktop'), shotFor(page, 'tablet'), shotFor(page, 'phone')]).toEqual([shot, null, null]);
  expect(shotFor(undefined, 'desktop')).toBeNull();
});

it('the place stands in shares of the screenshot, stronger than its own size', () => {
  const slot = slotOf('page-cover');
  const { html, css } = shotPage({ url: 'blob:x"y', shot }, slot, '<div class="place"></div>');
  expect(html).toContain('src="blob:x&quot;y"');
  expect(css).toContain('left:13.28125%;top:18.75%;width:73.4375%;height:24.75%');
  // The portrait is seen as it is on the screenshot.
  expect(css).toContain('.over-0{border:0;background:url(');
});

it('what is drawn from a screenshot has no likeness in it, and no words of ours', () => {
  const slot = slotOf('blog-header');
  const page = renderPage('blog', {
    slots: [{ slot, picture: { url: '/p.png', alt: '' } }],
    own: { url: '/s.png', shot },
  });
  expect(page.html).toContain('page-own');
  expect(page.html).toContain('/p.png');
  expect(page.html.replace(/<[^>]*>/g, '').trim()).toBe('');
});

it.each([
  ['a box beyond all measure', { ...plainPage('s'), desktop: { ...shot, box: { ...shot.box, width: 1e9 } } }],
  ['no hash', { ...plainPage('s'), desktop: { ...shot, asset: 'x' } }],
  ['a density of nothing', { ...plainPage('s'), phone: { ...shot, density: 0 } }],
  [
    'a colour that is none',
    { ...plainPage('s'), colours: { ground: 'red', words: '#000000', accent: '#000000', border: null, heading: null } },
  ],
])('%s is no page', (_, value) => {
  expect(OwnPage.safeParse(value).success).toBe(false);
});
