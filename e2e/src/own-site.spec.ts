// Covers: web/sites, web/output, web/connector, core/site, server
import { mkdirSync, readFileSync, readdirSync, writeFileSync, chownSync } from 'node:fs';
import { userInfo } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { PASSWORD, USER, apache, openSsh, type Real, type RealSsh } from '../../server/src/testing/servers';
import { accessible } from './harness/accessible';
import { startApp, type RunningApp } from './harness/app';
import { Browser } from './harness/browser';
import { atOwnSite } from './harness/own-site';
import { download, startBare } from './harness/workbench';

let app: RunningApp;
let browser: Browser;
let web: Real;
let ssh: RealSsh;

beforeAll(async () => {
  [app, web, ssh] = await Promise.all([startApp(), apache(), openSsh()]);
  // Apache shows what comes by either way.
  mkdirSync(join(web.folder, 'images'));
  if (userInfo().uid === 0) chownSync(join(web.folder, 'images'), 33, 33);
  page('journal.html', 'images/header.jpg');
  page('classes.html', 'ssh/classes.jpg');
  browser = await Browser.open({ reducedMotion: true });
});
afterAll(async () => {
  await browser?.close();
  await Promise.all([app?.stop(), web?.stop(), ssh?.stop()]);
});

const shop = (path: string) => `http://localhost:${web.port}/${path}`;
const { page, field, texts, chosen, measure, sendFrom, header, pixels, worst } = atOwnSite(
  () => browser,
  () => web.folder,
);

describe('a site of one’s own, by WebDAV', () => {
  it('is set up, tried and kept', async () => {
    await browser.go(`${app.app}/sites`);
    const begun = Date.now();
    await browser.press('Set up a site');
    await field('Name', 'Mill journal');
    await field('Address', `localhost:${web.port}`);
    await field('Address of the folder', shop('images/'));
    await field('Sign-in name', USER);
    await field('Password', 'not it');
    await browser.press('Try it');
    await browser.seeText('did not take that name and password');
    await field('Password', PASSWORD);
    await browser.press('Try it');
    await browser.seeText('It works.');
    expect(readdirSync(join(web.folder, 'images'))).toEqual([]);
    await accessible(browser);
    await browser.press('Keep the site');
    await browser.seeText('Which places does it have?');
    expect(await chosen('.way')).toContain('by WebDAV to /images/');
    console.log(`a site by WebDAV after ${((Date.now() - begun) / 1000).toFixed(1)} s, four presses and five fields`);
  });

  it('its header is measured from its page’s screenshot, and the page seen as it is', async () => {
    await measure(shop('journal.html'), 'Journal header');
    await browser.visit(`${app.app}/sites`);
    await browser.find('section.page[aria-label="Journal header"]');
    await browser.seeText('your screenshot');
    // The page looks for one name.
    await (await browser.find('aside details summary')).click();
    await field('File name', 'header.jpg');
    await browser.press('Keep');
  });

  it('a graphic is made, sent, and stands there byte for byte', async () => {
    await browser.press('Start a graphic');
    await startBare(browser);
    await sendFrom('shelf.jpg', 'A shelf of jugs');
    await browser.seeText('The file that was sent: the same bytes.');
    const file = join(web.folder, 'images', 'header.jpg');
    expect(await sharp(file).metadata()).toMatchObject({ format: 'jpeg', width: 940, height: 198 });
    expect(readdirSync(join(web.folder, 'images'))).toEqual(['header.jpg']);
    // As a visitor sees it, to the two levels by which decoders may differ.
    expect(worst(await header(shop('journal.html')), await pixels(file))).toBeLessThanOrEqual(2);
  });

  it('next week it is replaced, what stood there is kept, and the first put back', async () => {
    const file = join(web.folder, 'images', 'header.jpg');
    const first = readFileSync(file);
    // Puts the panel away.
    await browser.press('Finish');
    await sendFrom('tiles.jpg', 'Tiles of glaze tests');
    expect(readFileSync(file).equals(first)).toBe(false);
    await browser.visit(`${app.app}/sites`);
    await (await browser.find('aside .earlier button')).click();
    await browser.seeText('The page shows “header.jpg” as it was');
    expect(readFileSync(file).equals(first)).toBe(true);
  });

  it('what somebody changed there is noticed on opening Sites, and kept when it is sent again', async () => {
    const file = join(web.folder, 'images', 'header.jpg');
    const sent = readFileSync(file);
    const darker = await sharp(sent).linear(0.7, 0).jpeg({ quality: 95 }).toBuffer();
    writeFileSync(file, darker);
    await browser.visit(`${app.app}/slots`);
    await browser.visit(`${app.app}/sites`);
    await browser.seeText('30 % darker than what was sent.');
    await accessible(browser);
    await browser.press('Send it again');
    await browser.driver.wait(() => readFileSync(file).equals(sent), 15_000);
    await browser.driver.wait(
      () =>
        browser.run<boolean>(
          `return document.querySelector('aside .earlier')?.textContent.includes('theirs') ?? false`,
        ),
      10_000,
    );
    writeFileSync(file, await sharp(sent).jpeg({ quality: 60 }).toBuffer());
    await browser.press('Look again');
    await browser.seeText('Re-encoded by the site');
    await browser.driver.wait(async () => (await browser.all('aside [disabled]')).length === 0, 5000);
  });

  it('nothing of the password stands in what is stored, in a backup, or on the server’s disk', async () => {
    const stored = await browser.run<string>(
      `return new Promise((done) => { const open = indexedDB.open('bright-slot'); open.onsuccess = async () => {
         const db = open.result; const all = {};
         for (const name of db.objectStoreNames) all[name] = await new Promise((got) => { const r = db.transaction(name).objectStore(name).getAll(); r.onsuccess = () => got(r.result); });
         db.close(); done(JSON.stringify([all, { ...localStorage }, { ...sessionStorage }])); }; })`,
    );
    expect(stored).toContain('Mill journal');
    expect(stored).not.toContain(PASSWORD);
    const walk = (folder: string): string[] =>
      readdirSync(folder, { withFileTypes: true }).flatMap((f) =>
        f.isDirectory() ? walk(join(folder, f.name)) : [join(folder, f.name)],
      );
    for (const f of walk(app.data)) expect(readFileSync(f).includes(PASSWORD)).toBe(false);
  });
});

describe('a site of one’s own, by SFTP', () => {
  it('is set up: the key of the server is shown and agreed to once', async () => {
    await browser.visit(`${app.app}/sites`);
    const begun = Date.now();
    await browser.press('A site');
    await field('Name', 'Mill classes');
    await field('Address', 'classes.example');
    await browser.press('SFTP');
    await field('Host', 'localhost');
    await field('Port', String(ssh.port));
    await field('Sign-in name', ssh.user);
    await field('Folder', `${web.folder}/ssh`);
    await (await browser.find('bs-secret-fields summary')).click();
    await browser.run(
      `const t = document.querySelector('bs-secret-fields textarea'); t.value = arguments[0]; t.dispatchEvent(new Event('input'))`,
      ssh.key,
    );
    await field('Visitors find it at', shop('ssh/'));
    await browser.press('Try it');
    await browser.seeText(ssh.print);
    await browser.press('It is the right key');
    await browser.seeText('It works.');
    await browser.press('Keep the site');
    await browser.seeText('Which places does it have?');
    console.log(`a site by SFTP after ${((Date.now() - begun) / 1000).toFixed(1)} s, six presses and seven fields`);
  });

  it('a header is measured, made and sent under a name of its own; taken down, and put back', async () => {
    await measure(shop('classes.html'), 'Classes header');
    await browser.visit(`${app.app}/sites`);
    await browser.press('Mill classes');
    await browser.press('Start a graphic');
    await startBare(browser);
    await sendFrom('wheel.jpg', 'Hands at the wheel');
    const [name] = readdirSync(join(web.folder, 'ssh'));
    expect(name).toMatch(/^classes-header-\d{4}-\d\d-\d\da\.jpg$/);
    await browser.seeText(shop(`ssh/${name}`));
    await browser.seeText('The file that was sent: the same bytes.');
    await browser.visit(`${app.app}/sites`);
    await browser.press('Mill classes');
    await browser.press(`Take down ${name}`);
    await browser.seeText('is taken away there');
    expect(readdirSync(join(web.folder, 'ssh'))).toEqual([]);
    await (await browser.find('aside .earlier button')).click();
    await browser.seeText('is at its address again');
    expect(readdirSync(join(web.folder, 'ssh'))).toEqual([name]);
  });
});

/** A slot like the one that was measured, with other figures, standing on the first site. */
async function likeMeasured(own: object): Promise<void> {
  await browser.driver.executeAsyncScript(
    `const [own, done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const db = e.target.result;
       const slots = db.transaction('slots', 'readwrite').objectStore('slots');
       slots.getAll().onsuccess = (r) => {
         const like = r.target.result.find((s) => s.name === 'Journal header');
         slots.put({ ...like, ...own });
         slots.transaction.oncomplete = () => { db.close(); done(); };
       };
     };`,
    own,
  );
  await browser.go(`${app.app}/sites`);
  await browser.press('Mill journal');
}

/** All places were looked at: nothing moves any more. */
const looked = () =>
  browser.driver.wait(
    () => browser.run<boolean>(`return !document.body.textContent.includes('Looking at the pages as a visitor')`),
    20_000,
    'It goes on looking',
  );
const place = async (name: string) => {
  await browser.press('Mill journal');
  await browser.press(`Look at ${name}`);
};

describe('what signs in', () => {
  it('is kept under a passphrase, and opened by it alone after a reload', async () => {
    await browser.go(`${app.app}/sites`);
    await browser.press('Mill journal');
    await browser.press('Change this site');
    await field('Password', PASSWORD);
    await (await browser.named('label', 'Keep it in this browser, locked by a passphrase')).click();
    await field('Passphrase', 'green as the glaze');
    await browser.press('Keep the site');
    await browser.driver.wait(async () => (await browser.all('bs-site-editor')).length === 0, 10_000);
    await browser.go(`${app.app}/sites`);
    await place('Journal header');
    await browser.press('Take down header.jpg');
    await browser.find('bs-sign-in-dialog');
    await field('Passphrase', 'blue as the glaze');
    await browser.press('Sign in');
    await browser.seeText('That passphrase does not open it.');
    await field('Passphrase', 'green as the glaze');
    await browser.press('Sign in');
    await browser.seeText('is taken away there');
    expect(readdirSync(join(web.folder, 'images'))).toEqual([]);
    await browser.press('Undo');
    await browser.driver.wait(() => readdirSync(join(web.folder, 'images')).length === 1, 10_000);
  });
});

describe('places that show several', () => {
  it('one of them at random: each joins the others, has its share, and is played through at three widths', async () => {
    await likeMeasured({ id: 'pool', name: 'Pool header', oneOfSeveral: true });
    await place('Pool header');
    await browser.seeText('each graphic that is sent joins the others');
    await browser.press('Start a graphic');
    await startBare(browser);
    await sendFrom('kiln.jpg', 'Inside the kiln');
    await browser.visit(`${app.app}/sites`);
    await place('Pool header');
    await browser.press('Start a graphic');
    await startBare(browser);
    await sendFrom('sill.jpg', 'Jugs on a sill');
    await browser.visit(`${app.app}/sites`);
    await place('Pool header');
    await browser.seeText('2 in all');
    await looked();
    expect(await browser.run<string[]>(texts, 'bs-several li .quiet')).toEqual([
      expect.stringMatching(/^50 %, \d+ kB$/),
      expect.stringMatching(/^50 %, \d+ kB$/),
    ]);
    await browser.run(
      `const i = document.querySelector('bs-several .share'); i.value = '3'; i.dispatchEvent(new Event('change'))`,
    );
    await browser.seeText('75 %');
    await browser.press('Play them through');
    await browser.driver.wait(
      async () => (await browser.all('bs-several .played bs-page-likeness')).length === 3,
      5000,
    );
    const met = await browser.run<string>(`return document.querySelector('bs-several [role=status]').textContent`);
    await browser.press('The next visitor');
    expect(await browser.run<string>(`return document.querySelector('bs-several [role=status]').textContent`)).not.toBe(
      met,
    );
    await accessible(browser);
  });

  it('a row: items in their order, and the third of two is told before it is sent', async () => {
    await likeMeasured({ id: 'row', name: 'Menu tile', rowShows: 2 });
    for (const photo of ['kiln.jpg', 'sill.jpg', 'wheel.jpg']) {
      await place('Menu tile');
      await browser.press('Start a graphic');
      await startBare(browser);
      if (photo === 'wheel.jpg') {
        await browser.press('Finish');
        await browser.seeText('“Menu tile” shows 2, and 2 are there: this one would not be seen.');
        await browser.press('Finish');
      }
      await sendFrom(photo, photo);
      await browser.visit(`${app.app}/sites`);
    }
    await place('Menu tile');
    await browser.seeText('1 is not seen: the row shows 2.');
    await looked();
    const labels = () =>
      browser.run<string[]>(`return [...document.querySelectorAll('bs-several li input')].map((i) => i.value)`);
    expect(await labels()).toEqual(['Menu tile', 'Menu tile 2', 'Menu tile 3']);
    await browser.press('Menu tile 3 one place up');
    await browser.driver.wait(async () => (await labels())[1] === 'Menu tile 3', 15_000, 'Its place is the same');
  });
});

describe('a site that is uploaded to by hand', () => {
  it('gets its files saved, says what to do, and is looked at where the person put them', async () => {
    await browser.visit(`${app.app}/sites`);
    await browser.press('A site');
    await field('Name', 'Craft fair');
    await field('Address', 'fair.example');
    await browser.press('I upload it myself');
    await browser.press('Keep the site');
    await browser.seeText('Which places does it have?');
    await measure(shop('classes.html'), 'Fair banner');
    await browser.visit(`${app.app}/sites`);
    await browser.press('Craft fair');
    await browser.press('Start a graphic');
    await startBare(browser);
    await sendFrom('sill.jpg', 'Jugs on a sill', 'Save it to upload');
    const file = await download(browser, '.jpg');
    await browser.seeText('Now upload it there yourself');
    // The person’s own way of putting it there.
    writeFileSync(join(web.folder, 'fair.jpg'), readFileSync(file));
    await browser.visit(`${app.app}/sites`);
    await browser.press('Craft fair');
    await browser.seeText('Say where you put it.');
    await field('It stands at', shop('fair.jpg'));
    await browser.press('Look at it there');
    await browser.seeText('The file that was sent: the same bytes.');
    await accessible(browser);
  });
});

describe('all of it', () => {
  it('what “Save everything” writes has the sites and what was sent, and no password', async () => {
    await browser.visit(`${app.app}/graphics`);
    await browser.press('Save everything');
    const files = Object.entries(unzipSync(readFileSync(await download(browser, '.zip'))));
    expect(files.filter(([name]) => name.startsWith('sent/')).length).toBeGreaterThan(5);
    const text = files.map(([, data]) => Buffer.from(data).toString('latin1')).join('\n');
    expect(text).toContain('Mill journal');
    for (const secret of [PASSWORD, 'green as the glaze', 'PRIVATE KEY']) expect(text).not.toContain(secret);
  });

  it('no problem of the page was left unsaid', async () => {
    // What the shop’s own page misses is the shop’s.
    expect((await browser.errors()).filter((e) => !e.startsWith(shop('')))).toEqual([]);
    expect(await browser.violations()).toEqual([]);
  });
});
