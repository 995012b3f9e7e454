import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, By, Key, logging, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import { Options, ServiceBuilder, type Driver } from 'selenium-webdriver/chrome.js';

export interface BrowserChoices {
  readonly width?: number;
  readonly height?: number;
  readonly profile?: string;
  /** A profile to begin with a copy of. */
  readonly from?: string | undefined;
  readonly reducedMotion?: boolean;
  /** Further arguments of Chromium's. */
  readonly arguments?: readonly string[];
}

/** A file that the page is to be given. */
export interface GivenFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly type?: string;
}

/** How many times slower pages are to be: `npm run test:all -- --slow 6`. */
const SLOW = Number(process.env['SLOW'] ?? 1);

/** A real Chromium with what the tests need to say to it. */
export class Browser {
  private constructor(
    readonly driver: Driver,
    readonly downloads: string,
    private readonly profile: string,
    private readonly ownsProfile: boolean,
    /** Where files lie that the page is given. */
    private readonly given: string,
  ) {}

  static async open(choices: BrowserChoices = {}): Promise<Browser> {
    const profile = choices.profile ?? mkdtempSync(join(tmpdir(), 'bright-slot-profile-'));
    if (choices.from) cpSync(choices.from, profile, { recursive: true });
    const downloads = mkdtempSync(join(tmpdir(), 'bright-slot-downloads-'));
    const given = mkdtempSync(join(tmpdir(), 'bright-slot-given-'));
    const options = new Options();
    options.setChromeBinaryPath('/usr/bin/chromium');
    options.addArguments(
      '--headless=new',
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--force-color-profile=srgb',
      `--user-data-dir=${profile}`,
    );
    options.addArguments(...(choices.arguments ?? []));
    if (choices.reducedMotion) options.addArguments('--force-prefers-reduced-motion');
    options.setUserPreferences({ 'download.default_directory': downloads, 'download.prompt_for_download': false });
    const logs = new logging.Preferences();
    logs.setLevel(logging.Type.BROWSER, logging.Level.ALL);
    options.setLoggingPrefs(logs);
    const driver = (await new Builder()
      .forBrowser('chrome')
      .setChromeOptions(options)
      .setChromeService(new ServiceBuilder('/usr/bin/chromedriver'))
      .build()) as unknown as Driver;
    const browser = new Browser(driver, downloads, profile, choices.profile === undefined, given);
    await browser.size(choices.width ?? 1280, choices.height ?? 800);
    // Violations of the Content-Security-Policy are swallowed by the page; they are kept where the test can read them.
    await driver.sendDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
      source: `window.__violations = [];
        document.addEventListener('securitypolicyviolation', (e) => window.__violations.push(e.violatedDirective + ' ' + e.blockedURI + ' ' + e.sourceFile));
        window.__longTasks = [];
        try { new PerformanceObserver((l) => window.__longTasks.push(...l.getEntries().map((e) => e.duration))).observe({ entryTypes: ['longtask'] }); } catch {}`,
    });
    return browser;
  }

  async size(width: number, height: number): Promise<void> {
    await this.driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    });
    // A tab of its own is slowed by its own setting.
    if (SLOW > 1) await this.driver.sendDevToolsCommand('Emulation.setCPUThrottlingRate', { rate: SLOW });
  }

  /** Opens an address as if it were typed: everything is loaded anew. */
  go(address: string): Promise<void> {
    return this.driver.get(address);
  }

  /** Goes to a place of the app as its own links do, where the app is open; its page stands when this is done. */
  async visit(address: string): Promise<void> {
    const arrived = await this.driver
      .executeAsyncScript<boolean>(VISIT, address, placeOf(address))
      // The page was left for another meanwhile.
      .catch(() => false);
    if (!arrived) await this.go(address);
  }

  /**
   * What a script gives in the page, once it gives anything: it is asked again whenever the page changes, within the
   * page, so that nothing is asked over the wire in vain.
   */
  private async seen<T>(look: string, args: readonly unknown[], within: number, message: string): Promise<T> {
    const end = Date.now() + within;
    for (;;) {
      const left = Math.min(end - Date.now(), 10_000);
      const found = await this.driver.executeAsyncScript<T | null>(SEEN(look), left, ...args).catch((e: unknown) => {
        // Its document went, or what was found did.
        if (/unload|navigat|stale|no such|detached|context|timeout/i.test(String(e))) return null;
        throw e;
      });
      if (found) return found;
      if (Date.now() >= end) throw new Error(`${message} (waited ${within} ms)`);
      await new Promise((r) => setTimeout(r, 20));
    }
  }

  find(css: string, within = 15_000): Promise<WebElement> {
    return this.seen('return document.querySelector(args[0]);', [css], within, `Nothing matches ${css}`);
  }

  all(css: string): Promise<WebElement[]> {
    return this.driver.findElements(By.css(css));
  }

  /** The visible element of a role-like kind whose text or label says this. */
  async named(kind: string, name: string, within = 15_000): Promise<WebElement> {
    const text = `normalize-space(translate(., '\u00a0', ' '))`;
    const paths = [
      `//${kind}[${text}=${quoted(name)} or @aria-label=${quoted(name)}]`,
      `//${kind}[starts-with(@aria-label, ${quoted(name)})]`,
      `//${kind}[starts-with(${text}, ${quoted(name)})]`,
    ];
    return this.seen(
      `for (const path of args[0]) for (const e of byPath(path)) if (isSeen(e)) return e;`,
      [paths],
      within,
      `There is no ${kind} called ${name}`,
    );
  }

  /** Presses what is called this; once more when it moved or was drawn anew under the pointer. */
  async press(name: string, kind = 'button'): Promise<void> {
    for (let tries = 0; ; tries++)
      try {
        const element = await this.named(kind, name);
        await this.driver.executeScript('arguments[0].scrollIntoView({block: "nearest"})', element);
        await element.click();
        return await this.frame();
      } catch (e) {
        if (tries === 4 || !/stale|intercepted|not interactable/i.test(String(e))) throw e;
        await new Promise((r) => setTimeout(r, 150));
      }
  }

  /** Chooses from an open menu. */
  menu(name: string): Promise<void> {
    return this.press(name, 'button[contains(@class, "mat-mdc-menu-item")]');
  }

  /** Opens a section of the selected layer's settings. */
  tab(name: string): Promise<void> {
    return this.press(name, '*[@role="tab"]');
  }

  /** A labelled field within an element, which is given as an XPath. */
  field(within: string, label: string): Promise<WebElement> {
    const path = `${within}//label[./span[normalize-space()=${quoted(label)}]]//input`;
    return this.driver.wait(
      async () => (await this.driver.findElements(By.xpath(path)))[0] ?? (null as unknown as WebElement),
      10_000,
      `There is no field called ${label}`,
    );
  }

  /** Types a figure into a number of the selected layer's settings. */
  async number(label: string, value: number | string): Promise<void> {
    for (let tries = 0; ; tries++) {
      const field = await this.field('//bs-settings', label);
      try {
        await this.fill(field, `${value}${Key.ENTER}`);
        return await this.frame();
      } catch (e) {
        // Drawn anew under the pointer.
        if (tries === 3 || !/stale|not interactable|intercepted/i.test(String(e))) throw e;
      }
    }
  }

  /** Chooses a layer by the beginning of its label in the list. */
  async layer(label: string): Promise<void> {
    await (await this.find(`.layer-item[aria-label^="${label}"]`)).click();
    await this.frame();
  }

  async seeText(text: string, within = 15_000): Promise<WebElement> {
    const own = `contains(normalize-space(.), ${quoted(text)})`;
    return this.seen(
      `for (const e of byPath(args[0])) if (isSeen(e)) return e;`,
      [`//*[${own} and not(self::script) and not(.//*[${own}])]`],
      within,
      `“${text}” is not to be seen`,
    );
  }

  /** Replaces what stands in a field. */
  async fill(element: WebElement, text: string): Promise<void> {
    await element.click();
    await element.sendKeys(Key.chord(Key.CONTROL, 'a'), text);
  }

  keys(...keys: string[]): Promise<void> {
    return this.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  }

  async chord(...keys: string[]): Promise<void> {
    let actions = this.driver.actions();
    for (const k of keys) actions = actions.keyDown(k);
    for (const k of [...keys].reverse()) actions = actions.keyUp(k);
    await actions.perform();
    await this.frame();
  }

  /** Waits until what was done has been drawn: the app draws itself after an event, not within it. */
  private async frame(): Promise<void> {
    await this.driver
      .executeAsyncScript('const done = arguments[0]; requestAnimationFrame(() => setTimeout(done));')
      .catch(() => undefined);
  }

  run<T>(script: string | ((...args: never[]) => unknown), ...args: unknown[]): Promise<T> {
    return this.driver.executeScript<T>(script, ...args);
  }

  async drag(from: { x: number; y: number }, by: { x: number; y: number }): Promise<void> {
    const x = Math.round(from.x);
    const y = Math.round(from.y);
    await this.driver
      .actions()
      .move({ x, y })
      .press()
      .move({ x: x + Math.round(by.x / 2), y: y + Math.round(by.y / 2), duration: 60 })
      .move({ x: x + by.x, y: y + by.y, duration: 60 })
      .release()
      .perform();
  }

  private handed = 0;

  /** Puts files of this machine into the page's hands, as a file manager does: `window.__files`. */
  async give(...files: readonly GivenFile[]): Promise<void> {
    const field = await this.driver.executeScript<WebElement>(
      `const field = document.createElement('input');
       field.type = 'file';
       field.multiple = true;
       field.hidden = true;
       return document.documentElement.appendChild(field);`,
    );
    const paths = files.map(({ bytes }, i) => {
      const path = join(this.given, `${++this.handed}-${i}`);
      writeFileSync(path, bytes);
      return path;
    });
    if (paths.length) await field.sendKeys(paths.join('\n'));
    // Under their own names, which need not be such as a disk takes.
    await this.driver.executeScript(
      `const [field, named] = arguments;
       window.__files = [...field.files].map((f, i) => new File([f], named[i].name, { type: named[i].type ?? '' }));
       field.remove();`,
      field,
      files.map(({ name, type }) => ({ name, type })),
    );
  }

  /** Drops files onto the page as a person's file manager would. */
  async dropFiles(
    css: string,
    files: readonly GivenFile[],
    at: { x: number; y: number } = { x: 0, y: 0 },
  ): Promise<void> {
    await this.give(...files);
    await this.driver.executeScript(
      `const [css, at] = arguments;
       const data = new DataTransfer();
       for (const file of window.__files) data.items.add(file);
       const target = document.querySelector(css);
       for (const type of ['dragover', 'drop']) target.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data, clientX: at.x, clientY: at.y }));`,
      css,
      at,
    );
  }

  async screenshot(path: string): Promise<void> {
    writeFileSync(path, Buffer.from(await this.driver.takeScreenshot(), 'base64'));
  }

  violations(): Promise<string[]> {
    return this.run<string[]>('return window.__violations ?? []');
  }

  /** What the page said to its console as an error. */
  async errors(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get(logging.Type.BROWSER);
    return entries.filter((e) => e.level.value >= logging.Level.SEVERE.value).map((e) => e.message);
  }

  /** Waits until the canvas shows exact surfaces of what was asked last: a change is painted within two frames. */
  async exact(): Promise<WebElement> {
    await this.find('.lit canvas', 30_000);
    await this.driver.executeAsyncScript(
      `const [done] = arguments;
       requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => done())));`,
    );
    return this.find('canvas[data-exact="true"]', 30_000);
  }

  /** Waits until a check holds; `why` is said where it never does. */
  async until(check: () => Promise<boolean>, why: string, within = 15_000): Promise<void> {
    await this.driver.wait(check, within, why);
  }

  async saved(): Promise<void> {
    await this.driver.wait(
      async () => /^Saved /.test(await (await this.find('bs-save-state')).getText()),
      10_000,
      'It never said “Saved”',
    );
  }

  async close(): Promise<void> {
    await this.driver.quit().catch(() => undefined);
    for (const folder of [this.downloads, this.given, ...(this.ownsProfile ? [this.profile] : [])])
      rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

/** What helps a script that looks about in the page. `isSeen` is as WebDriver's "is displayed", which is a long script. */
const LOOK = `
const byPath = (path) => { const found = document.evaluate(path, document, null, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE); return Array.from({ length: found.snapshotLength }, (_, i) => found.snapshotItem(i)); };
const isSeen = (e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && [...e.getClientRects()].some((r) => r.width > 0 && r.height > 0);`;

/** Asks in the page until it gives something: at once, when the document changes, and now and then (styles change too). */
const SEEN = (look: string) => `${LOOK}
const [within, ...rest] = arguments;
const done = rest.at(-1);
const args = rest.slice(0, -1);
const look = (args) => { ${look} };
const end = performance.now() + within;
let waiting;
const observer = new MutationObserver(() => { waiting ??= setTimeout(() => { waiting = undefined; again(); }, 16); });
const timer = setInterval(() => again(), 150);
function finish(found) { observer.disconnect(); clearInterval(timer); clearTimeout(waiting); done(found); }
function again() {
  const found = look(args);
  if (found) finish(found);
  else if (performance.now() > end) finish(null);
}
observer.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
again();`;

/** Goes by the app's router; gives whether that could be done. */
const VISIT = `
const [address, place, done] = arguments;
const to = new URL(address);
const here = document.querySelector('bs-graphics-page, bs-slots-page, bs-house-style-page, bs-sites-page, bs-workbench-page, bs-start-page, bs-export-page');
// Within a place there is nothing that tells when it has arrived.
if (!here || !place || to.origin !== location.origin || here.localName === place) return done(false);
history.pushState(null, '', to.pathname + to.search);
dispatchEvent(new PopStateEvent('popstate', { state: null }));
const end = performance.now() + 5000;
(function look() {
  if (document.querySelector(place) && !here.isConnected) return done(true);
  if (performance.now() > end) return done(false);
  setTimeout(look, 16);
})();`;

/** The page of the app at an address; empty where it is not known. */
function placeOf(address: string): string {
  const { pathname } = new URL(address);
  if (/^\/graphics\/[^/]+\/export$/.test(pathname)) return 'bs-export-page';
  if (pathname === '/graphics/new') return 'bs-start-page';
  if (/^\/graphics\/[^/]+$/.test(pathname)) return 'bs-workbench-page';
  const place = /^\/(graphics|slots|house-style|sites)$/.exec(pathname)?.[1];
  return place ? `bs-${place}-page` : '';
}

function quoted(text: string): string {
  return text.includes("'") ? `"${text}"` : `'${text}'`;
}

export { By, Key, until };
export type { WebDriver, WebElement };
