import { pageKinds } from '../slot/slot';
import { slotsToStart } from '../slot/slots-to-start';
import { renderPage } from './page';
import { demoPages } from './site';

it.each(pageKinds)('the %s page holds its slots at their size and runs nothing', (kind) => {
  const slots = slotsToStart.filter((s) => s.page === kind);
  const page = renderPage(kind, {
    slots: slots.map((slot) => ({ slot, picture: { url: '/a.jpg', alt: 'A "pot" <b>' } })),
  });
  for (const s of slots) {
    expect(page.html).toContain(`data-slot="${s.id}"`);
    expect(page.css).toContain(`width:${s.shownWidth}px;aspect-ratio:${s.width}/${s.height}`);
  }
  expect(page.html).not.toMatch(/<b>|<script|style=|onerror/);
  expect(page.title.length).toBeGreaterThan(3);
});

it('the demo’s pages carry every slot to start from', () => {
  expect(demoPages.flatMap((p) => p.slots).sort()).toEqual(slotsToStart.map((s) => s.id).sort());
});
