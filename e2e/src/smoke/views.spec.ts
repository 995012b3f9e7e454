// Covers: web
import { accessible } from '../harness/accessible';
import { withApp } from '../harness/suite';

// The five places that everyone meets; `access.spec` goes through every view and dialog.
const { app, browser } = withApp();

it.each([
  ['Graphics', 'graphics', 'bs-graphic-card'],
  ['the workbench', 'graphics/demo-autumn-glazes', '[data-settled="true"]'],
  ['Export', 'graphics/demo-autumn-glazes/export', '.formats[data-found="true"]'],
  ['Slots', 'slots', 'bs-slot-outlines li'],
  ['Sites', 'sites', 'section.page'],
])('%s: axe finds nothing, controls stand out 3 : 1, nothing is cut at 1280 × 640', async (_what, path, arrived) => {
  await browser.size(1280, 640);
  await browser.visit(`${app.app}/${path}`);
  await browser.find(arrived, 60_000);
  await accessible(browser);
});
