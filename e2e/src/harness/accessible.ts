import AxeBuilder from '@axe-core/webdriverjs';
import { contrast, contrastOfLuminance, luminance } from '@bright-slot/core';
import type { Browser } from './browser';

/** Sides of controls, their colour and what lies around them; what axe does not measure (WCAG 2.2, 1.4.11). */
const controls = (browser: Browser) =>
  browser.run<{ what: string; edge: string; fill: string; around: string; flat: boolean }[]>(
    `const seen = (e) => e.offsetParent !== null && e.getBoundingClientRect().width > 8;
     const solid = (c) => !/, 0\\)$|transparent/.test(c);
     const around = (e) => { for (let p = e.parentElement; p; p = p.parentElement) { const c = getComputedStyle(p).backgroundColor; if (solid(c)) return c; } return 'rgb(255, 255, 255)'; };
     return [...document.querySelectorAll('.button:not(:disabled), .field, textarea, input[type=color], .swatch, .rename, .insert:focus')].filter(seen).map((e) => {
       const s = getComputedStyle(e);
       return { what: (e.className + ' ' + (e.getAttribute('aria-label') || e.textContent || '')).trim().slice(0, 60), edge: s.borderTopColor, fill: s.backgroundColor, around: around(e), flat: e.classList.contains('bare') };
     });`,
  );
const hex = (rgb: string) => {
  const [r, g, b] = /(\d+), (\d+), (\d+)/.exec(rgb)!.slice(1).map(Number);
  return `#${[r!, g!, b!].map((v) => v.toString(16).padStart(2, '0')).join('')}`;
};

/** axe finds nothing, controls stand out 3 : 1, and nothing is cut: of whatever is on screen. */
export async function accessible(browser: Browser, without: string[] = []): Promise<void> {
  const { violations } = await new AxeBuilder(browser.driver).disableRules(without).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join('\n')}`)).toEqual([]);
  for (const c of await controls(browser)) {
    if (c.flat) continue;
    const filled = !/, 0\)$/.test(c.fill) && contrast(hex(c.fill), hex(c.around)) >= 3;
    const ratio = contrastOfLuminance(luminance(hex(c.edge)), luminance(hex(c.around)));
    expect({ ...c, stands: filled || ratio >= 3 }).toEqual({ ...c, stands: true });
  }
  const over = await browser.run<number[]>(
    `return [document.documentElement.scrollWidth - innerWidth, document.documentElement.scrollHeight - innerHeight]`,
  );
  expect(over).toEqual([0, 0]);
}
