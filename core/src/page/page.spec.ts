import { Slot, pageKinds } from '../slot/slot';
import { potterySlots, slotFrom, slotsToStart } from '../slot/slots-to-start';
import { renderPage } from './page';
import { demoPages } from './site';

const picture = { url: '/a.jpg', alt: 'A "pot" <b>' };

it.each(pageKinds)('the %s page holds its slots at their size and runs nothing', (kind) => {
  const slots = slotsToStart.filter((s) => s.page === kind);
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
  const used = new Set(slotsToStart.map((s) => s.page));
  expect(pageKinds.filter((k) => !used.has(k))).toEqual(['plain']);
});

it('the demo’s pages carry every slot of the pottery', () => {
  expect(demoPages.flatMap((p) => p.slots).sort()).toEqual(potterySlots.map((s) => s.id).sort());
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
