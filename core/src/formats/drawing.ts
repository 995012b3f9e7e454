import type { SaxesTagNS } from 'saxes';
import { bad, good, type Result } from '../problem';
import { identifyPixels } from './identify';
import { quietCss, stays } from './quiet-css';
import {
  SVG_NS,
  beyondDrawing,
  drawingLimits,
  drawingSize,
  drawingText,
  isSvg,
  pointCounter,
  refusedDrawing,
  runsAcross,
  walkDrawing,
  type DrawingSize,
} from './svg-source';

/** What draws and does nothing else; whatever is not among these goes with all it holds. SVG 2, appendix F. */
const DRAWS = new Set(
  (
    'svg g defs symbol use title desc path rect circle ellipse line polyline polygon text tspan textPath image marker ' +
    'linearGradient radialGradient stop pattern clipPath mask switch a style filter feBlend feColorMatrix ' +
    'feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight feDropShadow ' +
    'feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feMerge feMergeNode feMorphology feOffset fePointLight ' +
    'feSpecularLighting feSpotLight feTile feTurbulence'
  ).split(' '),
);

/** What says something of a drawing and does nothing. */
const SAYS = new Set(['metadata', 'view']);

const escaped = (text: string) =>
  text.replace(/[&<>"\n\r\t]/g, (c) =>
    c === '&' ? '&amp;' : c === '<' ? '&lt;' : c === '>' ? '&gt;' : c === '"' ? '&quot;' : `&#${c.charCodeAt(0)};`,
  );
const escapedText = (text: string) =>
  text.replace(/[&<>]/g, (c) => (c === '&' ? '&amp;' : c === '<' ? '&lt;' : '&gt;'));

/** Attributes whose values are addresses; `xlink:` ones are written without their prefix (SVG 2, section 16.1). */
const ADDRESS = /^(href|src|base|data|action|formaction|cite|background|poster|srcset|ping|manifest)$/i;

/** Most of what an effect is asked to do at each pixel: more octaves, a wider reach and a larger matrix only take time. */
const effectProblem = (name: string, value: string): boolean => {
  const figures = value.split(/[\s,]+/).map(Number);
  if (name === 'numOctaves') return figures.some((n) => n > 8);
  if (name === 'order') return figures.some((n) => n > 9);
  if (name === 'radius') return figures.some((n) => n > 200);
  return name === 'stdDeviation' && figures.some((n) => n > 500);
};

function bytesOf(address: string): Uint8Array | null {
  const found = /^\s*data:[^,]{0,100};base64,/i.exec(address.slice(0, 200));
  if (!found) return null;
  try {
    const text = atob(address.slice(found[0].length).replace(/\s+/g, ''));
    return Uint8Array.from(text, (c) => c.charCodeAt(0));
  } catch {
    return null;
  }
}

/** How many elements a line across a whole path counts as. */
const RUN = 5;

/** How many elements are drawn once every reference stands for what it points to: small files can be made to mean millions. */
class Expansion {
  private readonly parts = new Map<string, { own: number; refs: string[] }>();
  private readonly root = { own: 0, refs: [] as string[] };
  private readonly open: { own: number; refs: string[] }[] = [this.root];
  private readonly depths: boolean[] = [];

  enter(id: string | undefined): void {
    for (const p of this.open) p.own++;
    const named = !!id && !this.parts.has(id);
    if (named) {
      const part = { own: 1, refs: [] };
      this.parts.set(id, part);
      this.open.push(part);
    }
    this.depths.push(named);
    if (this.open.length > 60) throw beyondDrawing('names too many of its groups within each other.');
  }

  refers(id: string): void {
    for (const p of this.open) p.refs.push(id);
  }

  /** What is to be drawn here beside the element itself. */
  weigh(more: number): void {
    for (const p of this.open) p.own += more;
  }

  leave(): void {
    if (this.depths.pop()) this.open.pop();
  }

  check(): void {
    const known = new Map<string, number>();
    const under = new Set<string>();
    const cost = (part: { own: number; refs: string[] }): number => {
      let sum = part.own;
      for (const id of part.refs) {
        // Browsers draw no reference that leads back to itself.
        const to = this.parts.get(id);
        if (!to || under.has(id)) continue;
        let n = known.get(id);
        if (n === undefined) {
          if (under.size > 100) throw beyondDrawing('refers to its own parts too deeply.');
          under.add(id);
          n = cost(to);
          under.delete(id);
          known.set(id, n);
        }
        sum += n;
        if (sum > drawingLimits.expanded)
          throw beyondDrawing('would take very long to draw, since it uses its own parts so often.');
      }
      if (sum > drawingLimits.expanded)
        throw beyondDrawing('would take very long to draw: its lines run to and fro too often.');
      return sum;
    };
    cost(this.root);
  }
}

/** The fragments that a value refers to. */
const fragments = (value: string): string[] =>
  !value.includes('#')
    ? []
    : [...value.matchAll(/url\(\s*['"]?#([^'")]{1,200})|^\s*#(.{1,200})$/gi)].map((m) => (m[1] ?? m[2])!.trim());

export interface CleanDrawing extends DrawingSize {
  /** The drawing as it is kept: plain SVG that draws, fetches nothing, runs nothing, its size stated. */
  readonly svg: string;
  /** Whether something was left out that does more than draw: scripts, what answers events, what is fetched from elsewhere. */
  readonly acted: boolean;
}

/**
 * A drawing's bytes made harmless, in one walk: only what draws is written down anew, attribute by attribute. It is used
 * as an image alone, where browsers run and fetch nothing in any case (SVG 2, section 2.2.7, secure static mode).
 * Fails with `unreadable`, `too-heavy`, `too-large` or `svg-entities`.
 */
export function cleanDrawing(bytes: Uint8Array, called: string): Result<CleanDrawing> {
  const text = drawingText(bytes, called);
  if (!text.ok) return text;
  const out: string[] = [];
  const points = pointCounter();
  const expansion = new Expansion();
  let size: DrawingSize | null = null;
  let css = 0;
  let letters = 0;
  let effects = 0;
  let pixels = 0;
  let drawn = 0;
  /** How deep within something that goes. */
  let gone = 0;
  let sheet: string[] | null = null;
  let acted = false;

  const quiet = (value: string, context: 'stylesheet' | 'declarationList' | 'value') => {
    css += value.length;
    if (css > drawingLimits.css)
      throw beyondDrawing(`holds more than ${drawingLimits.css.toLocaleString('en-GB')} letters of styles.`);
    return quietCss(value, context);
  };

  const image = (address: string) => {
    const bytesIn = bytesOf(address);
    const facts = bytesIn && identifyPixels(bytesIn);
    if (!facts) return false;
    pixels += facts.width * facts.height;
    if (pixels > drawingLimits.pixels)
      throw beyondDrawing(`holds pictures of more than ${drawingLimits.pixels / 1e6} million pixels.`);
    return true;
  };

  const attribute = (tag: SaxesTagNS, prefix: string, local: string, uri: string, value: string): void => {
    if (uri === 'http://www.w3.org/2000/xmlns/' || prefix === 'xmlns' || (prefix === '' && local === 'xmlns')) return;
    const xlink = uri === 'http://www.w3.org/1999/xlink';
    if (prefix !== '' && !xlink && prefix !== 'xml') return;
    if (xlink && local !== 'href') return;
    if (!/^[a-z][\w.-]*$/i.test(local) || /^on/i.test(local)) {
      acted ||= /^on/i.test(local);
      return;
    }
    const name = prefix === 'xml' ? `xml:${local}` : local;
    if (prefix === 'xml' && local === 'base') return;
    if (effectProblem(local, value)) throw beyondDrawing('has an effect that would take very long to draw.');
    let kept = value;
    if (ADDRESS.test(local)) {
      // A link leads out; of a picture only what is written into the drawing stays.
      acted ||= !/^\s*(#|data:image\/)/i.test(value);
      if (local !== 'href' || tag.local === 'a' || !stays(value)) return;
      if (tag.local === 'image' ? !image(value) : !/^\s*#/.test(value)) return;
    } else if (local === 'style') kept = quiet(value, 'declarationList');
    else if (/[()\\]/.test(value) && !/^(d|points|transform|gradientTransform|patternTransform|class|id)$/.test(local))
      kept = quiet(value, 'value');
    if (local === 'd' || local === 'points') {
      points(value);
      expansion.weigh(Math.ceil(runsAcross(value) * RUN));
    }
    for (const id of fragments(kept)) expansion.refers(id);
    out.push(` ${name}="${escaped(kept)}"`);
  };

  try {
    walkDrawing(text.value, {
      open(tag, depth) {
        if (gone || !isSvg(tag) || !DRAWS.has(tag.local)) {
          acted ||= gone === 0 && isSvg(tag) && !SAYS.has(tag.local);
          gone++;
          return;
        }
        if (tag.local === 'style') {
          sheet = [];
          return;
        }
        if (tag.local.startsWith('fe') && ++effects > drawingLimits.effects)
          throw beyondDrawing(`has more than ${drawingLimits.effects} filter effects.`);
        expansion.enter(tag.attributes['id']?.value);
        if (!['svg', 'g', 'defs', 'title', 'desc'].includes(tag.local)) drawn++;
        out.push(`<${tag.local}`);
        if (depth === 0) {
          size = drawingSize(tag);
          out.push(` xmlns="${SVG_NS}" viewBox="${size.viewBox}" width="${size.width}" height="${size.height}"`);
        }
        for (const { prefix, local, uri, value } of Object.values(tag.attributes))
          if (depth > 0 || !['viewBox', 'width', 'height'].includes(local)) attribute(tag, prefix, local, uri, value);
        out.push('>');
      },
      text(t) {
        if (sheet) sheet.push(t);
        else if (!gone) {
          const plain = t.trim().length;
          letters += plain;
          if (letters > drawingLimits.letters)
            throw beyondDrawing(`holds more than ${drawingLimits.letters.toLocaleString('en-GB')} letters of words.`);
          if (t) out.push(plain ? escapedText(t) : ' ');
        }
      },
      close(tag) {
        if (gone) gone--;
        else if (sheet) {
          const kept = quiet(sheet.join(''), 'stylesheet');
          for (const id of fragments(kept)) expansion.refers(id);
          if (kept) out.push(`<style>${escapedText(kept)}</style>`);
          sheet = null;
        } else {
          expansion.leave();
          out.push(`</${tag.local}>`);
        }
      },
    });
    expansion.check();
  } catch (error) {
    return refusedDrawing(error, called);
  }
  if (!size || !drawn)
    return bad('unreadable', `${called} holds no drawing that can be used. Save it as plain SVG and try again.`);
  return good({ ...(size as DrawingSize), svg: out.join(''), acted });
}
