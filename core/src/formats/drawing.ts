import { DOMParser, XMLSerializer, type Document, type Element } from '@xmldom/xmldom';

/** Elements that run, embed or fetch; they go with all they hold. SVG 2, sections 5.6, 12 and 15. */
const FORBIDDEN = new Set([
  'script',
  'foreignobject',
  'iframe',
  'object',
  'embed',
  'audio',
  'video',
  'handler',
  'listener',
  'discard',
  'animate',
  'animatemotion',
  'animatetransform',
  'set',
]);

/** Addresses that stay within the drawing: a fragment, or a picture written into it. */
const stays = (address: string) => /^\s*(#|data:image\/(png|jpeg|webp|gif)[;,])/i.test(address);

/** CSS without what fetches: imports, and every `url()` that is no fragment of the drawing. */
export function quietCss(css: string): string {
  // Escapes and comments go first: they would hide what is looked for after them.
  return css
    .replace(/\\/g, '')
    .replace(/\/\*[\s\S]*?\*\//g, '')
    .replace(/@import[^;]*;?/gi, '')
    .replace(/url\(\s*(['"]?)(?!\s*#)[^)]*\)/gi, 'none')
    .replace(/(?:image-set|src|expression)\s*\(/gi, 'none(');
}

/** A drawing taken apart, so that a page's Content-Security-Policy has nothing to object to while it is checked again. */
export interface DisarmedDrawing {
  /** The drawing without `style` elements; `style` attributes are called `data-kept-style`. */
  readonly svg: string;
  /** Its style sheets, quietened. */
  readonly styles: readonly string[];
}

function parse(text: string): Document | null {
  try {
    const stop = (level: string, message: string) => {
      if (level !== 'warning') throw new Error(message);
    };
    return new DOMParser({ onError: stop }).parseFromString(text.replace(/^\uFEFF/, ''), 'image/svg+xml');
  } catch {
    return null;
  }
}

function walk(element: Element, visit: (e: Element) => boolean): void {
  for (const child of Array.from(element.childNodes)) {
    if (child.nodeType !== 1) {
      // Processing instructions and comments have no part in a picture.
      if (child.nodeType === 7 || child.nodeType === 8) element.removeChild(child);
      continue;
    }
    if (visit(child as Element)) walk(child as Element, visit);
    else element.removeChild(child);
  }
}

/**
 * An SVG (as text) without scripts, handlers, embedded documents and anything that would fetch; null where
 * it is no well-formed drawing. What is left still has to be checked by a sanitiser that knows a real DOM.
 */
export function disarmDrawing(text: string): DisarmedDrawing | null {
  const document = parse(text);
  const root = document?.documentElement;
  if (!root || root.localName !== 'svg') return null;
  const styles: string[] = [];
  const clean = (e: Element): boolean => {
    const name = (e.localName ?? '').toLowerCase();
    if (name === 'style') {
      styles.push(quietCss(e.textContent ?? ''));
      return false;
    }
    if (FORBIDDEN.has(name)) return false;
    for (const a of Array.from(e.attributes)) {
      const attribute = a.name.toLowerCase();
      const fetches = /(^|:)(href|src|base|data)$/.test(attribute) && !stays(a.value);
      if (attribute.startsWith('on') || fetches) e.removeAttributeNode(a);
      else if (attribute === 'style') {
        e.removeAttributeNode(a);
        e.setAttribute('data-kept-style', quietCss(a.value));
      } else if (/url\(/i.test(a.value)) a.value = quietCss(a.value);
    }
    return true;
  };
  clean(root);
  walk(root, clean);
  return { svg: new XMLSerializer().serializeToString(root), styles };
}

/**
 * A checked drawing put together again, its size stated (CSS px), since browsers otherwise fall back on sizes
 * of their own; null where nothing of a drawing is left.
 */
export function assembleDrawing(
  checked: string,
  styles: readonly string[],
  size: { width: number; height: number },
): string | null {
  const document = parse(checked);
  const root = document?.documentElement;
  if (!document || !root || root.localName !== 'svg') return null;
  const restore = (e: Element): boolean => {
    const style = e.getAttribute('data-kept-style');
    if (style !== null) {
      e.removeAttribute('data-kept-style');
      e.setAttribute('style', style);
    }
    return true;
  };
  restore(root);
  walk(root, restore);
  for (const css of styles) {
    const element = document.createElementNS('http://www.w3.org/2000/svg', 'style');
    element.appendChild(document.createTextNode(css));
    root.insertBefore(element, root.firstChild);
  }
  if (!root.hasAttribute('viewBox')) root.setAttribute('viewBox', `0 0 ${size.width} ${size.height}`);
  root.setAttribute('width', String(size.width));
  root.setAttribute('height', String(size.height));
  return new XMLSerializer().serializeToString(root);
}
