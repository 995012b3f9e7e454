import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { RunningApp } from './app';
import type { Browser, GivenFile } from './browser';

/** Answers what a fresh browser is asked, by looking round in the demo. */
export async function lookRound(browser: Browser): Promise<void> {
  await browser.find('bs-graphic-card, bs-first-steps', 60_000);
  if ((await browser.all('bs-first-steps')).length) await browser.press('Look round the pottery');
  await browser.find('bs-graphic-card', 60_000);
}

/** The demo stands before anything else is done, so that it is out of the way. */
export async function settleDemo(browser: Browser, app: RunningApp): Promise<void> {
  await browser.go(`${app.app}/graphics`);
  await lookRound(browser);
}

/** Every card is painted and judged, so that this is not done beside what is tested. */
export async function demoAtRest(browser: Browser): Promise<void> {
  await browser.driver.wait(
    () =>
      browser.run<boolean>(
        `const cards = [...document.querySelectorAll('bs-graphic-card')];
         // Cards out of sight are judged when they come into it.
         for (const card of cards) if (!card.querySelector('.fit').textContent.trim()) { card.scrollIntoView(); return false; }
         return cards.length > 0;`,
      ),
    60_000,
    'The demo’s cards were not judged',
  );
}

/** A new graphic for a slot, its workbench open. */
export async function newGraphic(browser: Browser, app: RunningApp, slot: string): Promise<void> {
  await browser.visit(`${app.app}/graphics`);
  await browser.press('New graphic');
  await browser.press(slot);
  await startBare(browser);
}

/** Asked how it starts: bare. */
export async function startBare(browser: Browser): Promise<void> {
  await browser.press('Bare canvas');
  await browser.seeText('Nothing on the canvas yet');
}

/** Drops files on the workbench. */
export const drop = (browser: Browser, ...files: GivenFile[]): Promise<void> =>
  dropOn(browser, 'bs-workbench-page', ...files);

/** Files let go over whatever a selector finds first. */
export function dropOn(browser: Browser, css: string, ...files: GivenFile[]): Promise<void> {
  return browser.dropFiles(css, files);
}

/** What the canvas's layers say of themselves, back to front. */
export function things(browser: Browser): Promise<string[]> {
  return browser.run<string[]>(
    `return [...document.querySelectorAll('.thing')].map((t) => t.getAttribute('aria-label'))`,
  );
}

/** Pixels of the canvas as it stands on screen, RGBA, at points given in canvas px of a width. */
export async function canvasAt(
  browser: Browser,
  width: number,
  points: readonly (readonly [number, number])[],
): Promise<number[][]> {
  await browser.exact();
  return browser.run(
    `const [width, points] = arguments;
     const c = document.querySelector('.lit canvas');
     const zoom = c.width / width;
     return points.map(([x, y]) => [...c.getContext('2d').getImageData(Math.floor(x * zoom), Math.floor(y * zoom), 1, 1).data]);`,
    width,
    points,
  );
}

/** The newest download with an ending. */
export async function download(browser: Browser, ending: string, seen: readonly string[] = []): Promise<string> {
  for (let i = 0; i < 150; i++) {
    const found = readdirSync(browser.downloads).filter((f) => f.endsWith(ending) && !seen.includes(f));
    if (found[0]) return join(browser.downloads, found[0]);
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error(`Nothing that ends in ${ending} was downloaded.`);
}

/** Goes to Export and saves the graphic as a PNG: its exact pixels. */
export async function exportedPng(
  browser: Browser,
): Promise<{ file: Buffer; width: number; height: number; data: Buffer }> {
  const seen = readdirSync(browser.downloads);
  await browser.press('Export', 'a');
  await browser.press('PNG', '*[contains(@class, "format")]');
  await browser.driver.wait(
    async () => {
      const bytes = await browser.all('.format[aria-checked="true"] .bytes');
      const chosen = await browser.all('.format[aria-checked="true"]');
      return bytes[0] && /^PNG/.test(await chosen[0]!.getText()) && !(await bytes[0].getText()).includes('…');
    },
    30_000,
    'The PNG was not made',
  );
  await browser.press('Save file');
  const file = readFileSync(await download(browser, '.png', seen));
  const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { file, width: info.width, height: info.height, data };
}

export function pixelAt(picture: { width: number; data: ArrayLike<number> }, x: number, y: number): number[] {
  const i = (Math.round(y) * picture.width + Math.round(x)) * 4;
  return [0, 1, 2, 3].map((k) => picture.data[i + k]!);
}

export interface Placed {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
}

/** What stands on the canvas, back to front, canvas px, whole numbers. */
export async function placed(browser: Browser): Promise<Placed[]> {
  return (await things(browser)).flatMap((label) => {
    const found = /^(.*), ([\d.]+) × ([\d.]+) px at (-?[\d.]+), (-?[\d.]+)/.exec(label);
    if (!found) return [];
    const [width, height, x, y] = found.slice(2).map(Number) as [number, number, number, number];
    return [{ name: found[1]!, width, height, x, y }];
  });
}

/** What the fit report finds, as it stands there. */
export function findings(browser: Browser): Promise<string[]> {
  return browser.run<string[]>(
    `return [...document.querySelectorAll('bs-fit-report ol .title')].map((e) => e.textContent.trim())`,
  );
}
