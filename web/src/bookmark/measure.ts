/**
 * The measuring bookmark: runs on the person's own page, outlines what the
 * pointer or Tab is on, and hands its figures back. It leaves nothing on the
 * page and sends nothing anywhere; only the address it opens carries them, after
 * the "#", which no server is told. Built into one script; `__APP__` becomes the app's address.
 */
declare const __APP__: string;

interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

const MARK = 'data-bright-slot-measure';
const near = (a: number, b: number) => Math.abs(a - b) <= 1;
const sameRect = (a: DOMRect, b: DOMRect) =>
  near(a.x, b.x) && near(a.y, b.y) && near(a.width, b.width) && near(a.height, b.height);
const px = (text: string) => Number.parseFloat(text) || 0;
const clear = (colour: string) => /^(transparent|rgba\([^)]*,\s*0\))$/.test(colour);

/** The box that the picture is painted in: without border and padding for an image, the padding box for a background. */
function contentRect(e: Element): Rect {
  const r = e.getBoundingClientRect();
  const s = getComputedStyle(e);
  const border = [s.borderLeftWidth, s.borderTopWidth, s.borderRightWidth, s.borderBottomWidth].map(px);
  const padding =
    e instanceof HTMLImageElement
      ? [s.paddingLeft, s.paddingTop, s.paddingRight, s.paddingBottom].map(px)
      : [0, 0, 0, 0];
  const [l, t, right, b] = border.map((n, i) => n + padding[i]!) as [number, number, number, number];
  return { x: r.x + l, y: r.y + t, width: r.width - l - right, height: r.height - t - b };
}

const backgroundOf = (e: Element) => /url\(["']?(.*?)["']?\)/.exec(getComputedStyle(e).backgroundImage)?.[1] ?? null;
const isPicture = (e: Element) =>
  e instanceof HTMLImageElement || /^(svg|video|canvas|picture)$/i.test(e.tagName) || backgroundOf(e) !== null;

/** The element itself and those around it that fill the same place. */
function shells(e: Element): Element[] {
  const own = e.getBoundingClientRect();
  const all = [e];
  for (let up = e.parentElement; up && up !== document.body; up = up.parentElement) {
    const r = up.getBoundingClientRect();
    const s = getComputedStyle(up);
    const frame = px(s.borderLeftWidth) + px(s.borderRightWidth);
    if (!sameRect(r, own) && !(frame > 0 && near(r.width - frame, own.width))) break;
    all.push(up);
  }
  return all;
}

function row(e: Element): { count: number; gap: number } {
  const all = shells(e);
  let item = all[all.length - 1]!;
  for (let level = 0; level < 3 && item.parentElement && item !== document.body; level++) {
    const own = item.getBoundingClientRect();
    const alike = [...item.parentElement.children]
      .map((c) => c.getBoundingClientRect())
      .filter((r) => near(r.width, own.width) && near(r.height, own.height) && near(r.y, own.y))
      .sort((a, b) => a.x - b.x);
    if (alike.length > 1) return { count: alike.length, gap: alike[1]!.x - alike[0]!.x - alike[0]!.width };
    item = item.parentElement;
  }
  return { count: 1, gap: 0 };
}

function groundOf(e: Element): string {
  for (let up = e.parentElement; up; up = up.parentElement) {
    const colour = getComputedStyle(up).backgroundColor;
    if (!clear(colour)) return colour;
  }
  return 'rgb(255, 255, 255)';
}

function picture(e: Element) {
  if (e instanceof HTMLImageElement)
    return {
      address: (e.currentSrc || e.src).slice(0, 4000),
      width: e.naturalWidth,
      height: e.naturalHeight,
      how: 'image' as const,
    };
  const background = backgroundOf(e);
  if (background === null) return null;
  const loaded = new Image();
  loaded.src = background;
  return {
    address: new URL(background, document.baseURI).href.slice(0, 4000),
    width: loaded.naturalWidth,
    height: loaded.naturalHeight,
    how: 'background' as const,
  };
}

/** Everything about the place an element fills, in CSS px. */
function measure(e: Element) {
  const rect = contentRect(e);
  const style = getComputedStyle(e);
  const around = shells(e);
  const radius = around
    .map((s) => {
      const [x, y = x] = getComputedStyle(s).borderTopLeftRadius.split(' ');
      const of = (text: string | undefined, side: number) =>
        text?.endsWith('%') ? (px(text) / 100) * side : px(text ?? '0');
      return { x: of(x, rect.width), y: of(y, rect.height) };
    })
    .sort((a, b) => b.x - a.x)[0]!;
  const framed = around
    .map((s) => getComputedStyle(s))
    .find((s) => px(s.borderTopWidth) > 0 && s.borderTopStyle !== 'none');
  const isImage = e instanceof HTMLImageElement;
  return {
    version: 1 as const,
    width: rect.width,
    height: rect.height,
    density: devicePixelRatio || 1,
    page: location.href.split('#')[0]!.slice(0, 2000),
    title: document.title.slice(0, 300),
    picture: picture(e),
    fit: (isImage ? style.objectFit : style.backgroundSize).slice(0, 60),
    position: (isImage ? style.objectPosition : style.backgroundPosition).slice(0, 60),
    radius,
    border: framed ? { width: px(framed.borderTopWidth), colour: framed.borderTopColor } : null,
    ground: groundOf(around[around.length - 1]!),
    row: row(e),
  };
}

const round = (n: number) => String(Math.round(n * 100) / 100);

function words(m: ReturnType<typeof measure>): string[] {
  const lines = [`${round(m.width)} × ${round(m.height)} px`];
  if (m.picture?.width)
    lines.push(
      `picture ${m.picture.width} × ${m.picture.height}, ${m.picture.how === 'image' ? m.fit : `background ${m.fit}`}`,
    );
  if (m.radius.x > 0) lines.push(m.radius.x >= m.width / 2 - 0.6 ? 'round' : `corners ${round(m.radius.x)}`);
  if (m.border) lines.push(`border ${round(m.border.width)}`);
  if (m.row.count > 1) lines.push(`${m.row.count} in a row, gaps of ${round(m.row.gap)}`);
  return lines;
}

function start(): void {
  const running = document.querySelector(`[${MARK}]`);
  if (running) {
    running.dispatchEvent(new Event('end'));
    return;
  }
  const host = document.createElement('div');
  host.setAttribute(MARK, '');
  Object.assign(host.style, {
    all: 'initial',
    position: 'fixed',
    inset: '0',
    zIndex: '2147483647',
    pointerEvents: 'none',
  });
  const root = host.attachShadow({ mode: 'open' });
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(`
    .frame{position:fixed;outline:3px solid #f2b01e;box-shadow:0 0 0 4px #1f2a30;display:none}
    .said,.help{position:fixed;background:#1f2a30;color:#fff;font:600 13px/1.45 system-ui,sans-serif;padding:8px 12px;border-radius:6px;max-width:320px;white-space:pre-line}
    .said{display:none}.help{right:12px;bottom:12px;font-weight:400}
    textarea{pointer-events:auto;display:block;width:290px;height:110px;margin-top:8px;font:12px/1.4 monospace}`);
  root.adoptedStyleSheets = [sheet];
  const part = (name: string, role?: string) => {
    const e = document.createElement('div');
    e.className = name;
    if (role) e.setAttribute('role', role);
    root.append(e);
    return e;
  };
  const frame = part('frame');
  const said = part('said', 'status');
  const help = part('help');
  help.textContent = 'Point at a picture or press Tab. Click or Enter takes its measure, Escape ends.';
  document.documentElement.append(host);

  let target: Element | null = null;
  const show = (e: Element | null) => {
    target = e;
    frame.style.display = said.style.display = e ? 'block' : 'none';
    if (!e) return;
    const r = contentRect(e);
    Object.assign(frame.style, { left: `${r.x}px`, top: `${r.y}px`, width: `${r.width}px`, height: `${r.height}px` });
    said.textContent = words(measure(e)).join('\n');
    const below = r.y + r.height + 12;
    const fits = below + said.offsetHeight < innerHeight;
    said.style.left = `${Math.max(8, Math.min(innerWidth - said.offsetWidth - 8, r.x))}px`;
    said.style.top = `${fits ? below : Math.max(8, r.y - said.offsetHeight - 12)}px`;
  };
  const pointed = (x: number, y: number) => {
    const stack = document.elementsFromPoint(x, y).filter((e) => e !== host && e !== document.documentElement);
    return stack.find(isPicture) ?? stack[0] ?? null;
  };
  const pictures = () =>
    [...document.querySelectorAll('body *')].filter((e) => {
      const r = e.getBoundingClientRect();
      return isPicture(e) && r.width > 8 && r.height > 8 && e !== host;
    });

  const ending = new AbortController();
  const end = () => {
    ending.abort();
    host.remove();
  };
  const ask = (text: string) => {
    help.textContent =
      'This page does not let a window open. Copy this text and paste it into Bright Slot. Escape ends.';
    const box = document.createElement('textarea');
    box.readOnly = true;
    box.value = text;
    help.append(box);
    box.focus();
    box.select();
    navigator.clipboard?.writeText(text).then(
      () => {
        help.firstChild!.textContent = 'The measure is on the clipboard: paste it into Bright Slot. Escape ends.';
      },
      () => undefined,
    );
  };
  const take = () => {
    if (!target) return;
    const text = JSON.stringify(measure(target));
    const opened = window.open(`${__APP__}/slots?way=live#measured=${encodeURIComponent(text)}`, '_blank');
    if (!opened) return ask(text);
    opened.opener = null;
    end();
  };
  const on = <K extends keyof DocumentEventMap>(type: K, work: (event: DocumentEventMap[K]) => void) =>
    document.addEventListener(type, work, { capture: true, signal: ending.signal });
  const swallow = (event: Event) => {
    event.preventDefault();
    event.stopImmediatePropagation();
  };

  on('pointermove', (event) => show(pointed(event.clientX, event.clientY)));
  on('pointerdown', (event) => event.composedPath()[0] instanceof HTMLTextAreaElement || swallow(event));
  on('click', (event) => {
    if (event.composedPath().includes(host)) return;
    swallow(event);
    show(pointed(event.clientX, event.clientY));
    take();
  });
  on('keydown', (event) => {
    if (event.key === 'Escape') {
      swallow(event);
      end();
    } else if (event.key === 'Enter') {
      swallow(event);
      take();
    } else if (event.key === 'Tab') {
      swallow(event);
      const all = pictures();
      const next = (all.indexOf(target!) + (event.shiftKey ? -1 : 1) + all.length) % Math.max(1, all.length);
      all[next]?.scrollIntoView({ block: 'nearest' });
      show(all[next] ?? null);
    }
  });
  document.addEventListener('scroll', () => show(target), { capture: true, passive: true, signal: ending.signal });
  host.addEventListener('end', end, { signal: ending.signal });
}

start();
