import { Slot, pageKinds, type PageKind } from '../slot/slot';
import { demo } from '../../../demo/src/index';
import { slotFrom } from '../slot/slots-to-start';
import { everySlot } from '../testing/samples';
import { kinds } from './kinds/kinds';
import { PageLook, neutralLook } from './look';
import { renderPage } from './page';

const picture = { url: '/a.jpg', alt: 'A "pot" <b>' };

it.each(pageKinds)('the %s page holds its slots at their size and runs nothing', (kind) => {
  const slots = everySlot.filter((s) => s.page === kind);
  const page = renderPage(kind, { slots: slots.map((slot) => ({ slot, picture })) });
  for (const s of slots) {
    expect(page.html).toContain(`data-slot="${s.id}"`);
    expect(page.css).toContain(
      s.anyWidth ? `height:${s.height}px` : `width:${s.shownWidth}px;aspect-ratio:${s.width}/${s.height}`,
    );
  }
  expect(page.html).not.toMatch(/<b>\s*"|<script|style=|onerror/);
  expect(page.title.length).toBeGreaterThan(3);
});

it('every kind of page has a slot that ships, but the one for pages not known', () => {
  const used = new Set(everySlot.map((s) => s.page));
  expect(pageKinds.filter((k) => !used.has(k))).toEqual(['plain']);
});

it('the demo’s pages carry every slot of the pottery', () => {
  expect(demo.site.pages.flatMap((p) => p.slots).sort()).toEqual(demo.slots.map((s) => s.id).sort());
});

describe('what a page says', () => {
  const pages = (look?: PageLook) => pageKinds.map((kind) => renderPage(kind, { slots: [] }, look));
  it('is nobody’s where nothing is given: no word, type or colour of the demo’s', () => {
    const text = JSON.stringify(pages());
    expect(/ottermill|pottery|wren|imke|kiln|glaze|stoneware|jug|bowl/i.exec(text)).toBeNull();
    for (const colour of Object.values(demo.site.look.colours).flat())
      if (typeof colour === 'string') expect(text).not.toContain(colour);
    expect(text).not.toContain('Lora');
    expect(text).toContain('Your business');
  });
  it('is the site’s own, escaped, with its name and address where they are asked for', () => {
    const look = { ...neutralLook, business: 'Sam & <Daughters>', address: 'sam.example' };
    const { html, title } = renderPage('feed', { slots: [] }, look);
    expect(html).toContain('sam.example');
    expect(html).toContain('Sam &amp; &lt;Daughters&gt;');
    expect(title).not.toContain('{');
    for (const page of pages(look)) expect(/\{business\}|\{address\}|<Daughters>/.exec(page.html)).toBeNull();
    const words = { blog: { heading: 'A <b>bold</b> post', title: '{business}’s notes' } };
    const page = renderPage('blog', { slots: [] }, { ...look, words });
    expect(page.html).toContain('A &lt;b&gt;bold&lt;/b&gt; post');
    expect(page.title).toBe('Sam & <Daughters>’s notes');
  });
  it('takes nothing from a hostile look: no rule, tag or path is closed', () => {
    const evil = '"]{}*{background:url(//evil)}</style><script>';
    const look = { ...demo.site.look, type: { heading: evil, body: evil }, menu: [evil, evil, evil, evil] };
    for (const { html, css } of pages(look)) {
      expect(css).not.toMatch(/evil\)|<\/style/);
      expect(html).not.toContain('<script');
    }
    expect(PageLook.safeParse({ ...look, goods: ['M0 0"/><script>'] }).success).toBe(false);
    expect(PageLook.safeParse(demo.site.look).success).toBe(true);
  });
  it('of the demo are only words that its kinds of pages ask for', () => {
    for (const [kind, words] of Object.entries(demo.site.look.words))
      for (const name of Object.keys(words))
        expect([kind, name, name in kinds[kind as PageKind].words]).toEqual([kind, name, true]);
  });
});

describe('what the page does', () => {
  const base = slotFrom({ id: 's', name: 'S', group: 'Own sizes', width: 400, height: 100, page: 'plain' });
  const css = (own: Partial<Slot>) => renderPage('plain', { slots: [{ slot: { ...base, ...own }, picture }] }).css;
  const html = (own: Partial<Slot>) => renderPage('plain', { slots: [{ slot: { ...base, ...own }, picture }] }).html;
  it('is in its style', () => {
    expect(css({ fit: 'top-left' })).toContain('object-fit:none;object-position:0 0');
    expect(css({ shape: { kind: 'rounded', radius: 20 }, shownWidth: 200 })).toContain('border-radius:10px');
    expect(css({ border: { width: 1, colour: '#cfc6b4' } })).toContain('border:1px solid #cfc6b4');
    expect(css({ darkening: { kind: 'all', strength: 0.4, switchable: true, on: true } })).toContain('rgb(0 0 0/0.4)');
    expect(css({ darkening: { kind: 'all', strength: 0.4, switchable: true, on: false } })).not.toContain('rgb(0 0 0/');
    expect(css({ phone: { mode: 'hidden' } })).toContain('@container (max-width:559px)');
  });
  it('shows as many of a row as it shows', () => {
    expect(html({ rowShows: 7 }).match(/class="place"/g)).toHaveLength(1);
    const row = renderPage('menu', { slots: [{ slot: { ...base, rowShows: 7 }, picture }] }).html;
    expect(row.match(/class="place"/g)).toHaveLength(7);
  });
  it('takes nothing from a hostile entry: neither its id nor its words can close a rule or a tag', () => {
    const evil = '"]{}*{background:url(//evil)}</style><script>';
    const slot = Slot.parse({
      ...base,
      id: evil,
      covered: [{ what: '<img onerror=x>', kind: 'title', x: 0, y: 0, width: 9, height: 9 }],
    });
    const page = renderPage('plain', { slots: [{ slot, picture }] });
    expect(page.css).not.toMatch(/evil\)|<\/style/);
    expect(page.html).not.toMatch(/<img onerror|<script/);
  });
});
