// Covers: web/sites, web/output, web/connector, core/site, server/relay
import { chownSync, mkdirSync, readdirSync } from 'node:fs';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { PASSWORD, USER, apache, type Real } from '../../../server/src/testing/servers';
import { startApp, type RunningApp } from '../harness/app';
import { Browser } from '../harness/browser';
import { atOwnSite } from '../harness/own-site';
import { startBare } from '../harness/workbench';

let app: RunningApp;
let browser: Browser;
let web: Real;
const { page, field, measure, sendFrom, header, pixels, worst } = atOwnSite(
  () => browser,
  () => web.folder,
);
beforeAll(async () => {
  [app, web] = await Promise.all([startApp(), apache()]);
  mkdirSync(join(web.folder, 'images'));
  if (userInfo().uid === 0) chownSync(join(web.folder, 'images'), 33, 33);
  page('journal.html', 'images/header.jpg');
  browser = await Browser.open({ reducedMotion: true });
});
afterAll(async () => {
  await browser?.close();
  await Promise.all([app?.stop(), web?.stop()]);
});

it('a graphic goes to a real server by WebDAV, and a visitor sees it', async () => {
  const journal = `http://localhost:${web.port}/journal.html`;
  await browser.go(`${app.app}/sites`);
  await browser.press('Set up a site');
  await field('Name', 'Mill journal');
  await field('Address', `localhost:${web.port}`);
  await field('Address of the folder', `http://localhost:${web.port}/images/`);
  await field('Sign-in name', USER);
  await field('Password', PASSWORD);
  await browser.press('Try it');
  await browser.seeText('It works.');
  await browser.press('Keep the site');
  await browser.seeText('Which places does it have?');
  await measure(journal, 'Journal header');
  await browser.visit(`${app.app}/sites`);
  await browser.find('section.page[aria-label="Journal header"]');
  await (await browser.find('aside details summary')).click();
  await field('File name', 'header.jpg');
  await browser.press('Keep');
  await browser.press('Start a graphic');
  await startBare(browser);
  await sendFrom('shelf.jpg', 'A shelf of jugs');
  await browser.seeText('The file that was sent: the same bytes.');
  const file = join(web.folder, 'images', 'header.jpg');
  expect(await sharp(file).metadata()).toMatchObject({ format: 'jpeg', width: 940, height: 198 });
  expect(readdirSync(join(web.folder, 'images'))).toEqual(['header.jpg']);
  // As a visitor sees it, to the two levels by which decoders may differ.
  expect(worst(await header(journal), await pixels(file))).toBeLessThanOrEqual(2);
});
