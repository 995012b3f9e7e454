import escapeHtml from 'escape-html';
import type { PaintContext, Surfaces } from './context';
import { paint } from './paint';
import type { Plan, SurfaceNeed } from './plan';

/** What stands in a drawing for a need: an address that holds its surface, or the drawing itself, still to be laid (`data:`). */
export interface SvgPicture {
  readonly href: string;
  readonly as: 'surface' | 'drawing';
}

/** A picture of a drawing: what stands for a need, or what was drawn on a sheet of its own. */
export type SvgImage = (SvgPicture & { readonly need: SurfaceNeed }) | { readonly sheet: SvgSheet };

interface Gradient {
  readonly head: string;
  readonly stops: string[];
  addColorStop(at: number, colour: string): void;
}

/** Text as XML takes it: XML 1.0, section 2.2. */
const escapeXml = (text: string) =>
  escapeHtml(text.toWellFormed().replace(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, ''));

const n = (value: number) => String(Math.round(value * 1000) / 1000);
/** Transforms keep more places: what they move may be far off. */
const exact = (value: number) => String(Math.round(value * 1e6) / 1e6);

/** A colour as SVG 1.1 writes it, and its opacity apart. */
function paintOf(css: string): { colour: string; opacity: number } {
  const [, r, g, b, a] = /^rgba?\(([\d.]+),? ([\d.]+),? ([\d.]+)(?:,| \/) ([\d.e-]+)\)$/.exec(css) ?? [];
  return a === undefined
    ? { colour: css, opacity: 1 }
    : { colour: `rgb(${[r, g, b].map((c) => Math.round(Number(c))).join()})`, opacity: Number(a) };
}

const said = (name: string, value: number, usual = 1) => (value === usual ? '' : ` ${name}="${n(value)}"`);

type Matrix = readonly [number, number, number, number, number, number];

function times([a, b, c, d, e, f]: Matrix, [g, h, i, j, k, l]: Matrix): Matrix {
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
}

/** Further off than anything that is seen, device px: where a shadow's own thing is put that shall not be seen itself. */
const OFF = 5000;

/** What a context has set, and puts back. */
class State {
  fillStyle: unknown = '#000000';
  strokeStyle: unknown = '#000000';
  lineWidth = 1;
  lineJoin: unknown = 'miter';
  lineCap: unknown = 'butt';
  globalAlpha = 1;
  globalCompositeOperation: unknown = 'source-over';
  shadowColor = 'rgba(0, 0, 0, 0)';
  shadowBlur = 0;
  shadowOffsetX = 0;
  shadowOffsetY = 0;
  font = '10px sans-serif';
  imageSmoothingEnabled = true;
  imageSmoothingQuality: unknown = 'low';
  dashes: readonly number[] = [];
  matrix: Matrix = [1, 0, 0, 1, 0, 0];
}

/** Gradients and filters of a whole drawing, each once. */
class Definitions {
  private readonly ids = new Map<string, string>();

  id(kind: string, of: (id: string) => string): string {
    const key = of('');
    let id = this.ids.get(key);
    if (id === undefined) this.ids.set(key, (id = `${kind}${this.ids.size + 1}`));
    return id;
  }

  toString(): string {
    return [...this.ids].map(([markup, id]) => markup.replace(' id=""', ` id="${id}"`)).join('');
  }
}

/**
 * A context that writes what is painted as SVG 1.1 elements (HTML, section 4.12.5, gives what each call means). Device px.
 * It knows what exact painting uses; nothing is clipped and nothing composed otherwise than over what lies below.
 */
export class SvgSheet extends State implements PaintContext<SvgImage> {
  private readonly kept: State[] = [];
  private readonly parts: string[] = [];
  private path: string[] = [];

  constructor(
    private readonly width: number,
    private readonly height: number,
    readonly definitions = new Definitions(),
  ) {
    super();
  }

  get markup(): string {
    return this.parts.join('\n');
  }

  save(): void {
    this.kept.push(Object.assign(new State(), this.state()));
  }
  restore(): void {
    const before = this.kept.pop();
    if (before) Object.assign(this, before);
  }
  private state(): State {
    const own = new State();
    for (const key of Object.keys(own) as (keyof State)[]) Object.assign(own, { [key]: this[key] });
    return own;
  }

  setTransform(...matrix: [number, number, number, number, number, number]): void {
    this.matrix = matrix;
  }
  translate(x: number, y: number): void {
    this.matrix = times(this.matrix, [1, 0, 0, 1, x, y]);
  }
  rotate(angle: number): void {
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    this.matrix = times(this.matrix, [c, s, -s, c, 0, 0]);
  }
  scale(x: number, y: number): void {
    this.matrix = times(this.matrix, [x, 0, 0, y, 0, 0]);
  }

  beginPath(): void {
    this.path = [];
  }
  moveTo(x: number, y: number): void {
    this.path.push(`M${n(x)} ${n(y)}`);
  }
  lineTo(x: number, y: number): void {
    this.path.push(`L${n(x)} ${n(y)}`);
  }
  quadraticCurveTo(...at: [number, number, number, number]): void {
    this.path.push(`Q${at.map(n).join(' ')}`);
  }
  bezierCurveTo(...at: [number, number, number, number, number, number]): void {
    this.path.push(`C${at.map(n).join(' ')}`);
  }
  closePath(): void {
    this.path.push('Z');
  }
  rect(x: number, y: number, w: number, h: number): void {
    this.path.push(`M${n(x)} ${n(y)}h${n(w)}v${n(h)}h${n(-w)}Z`);
  }
  ellipse(x: number, y: number, rx: number, ry: number): void {
    const arc = `A${n(rx)} ${n(ry)} 0 1 1`;
    this.path.push(`M${n(x + rx)} ${n(y)}${arc} ${n(x - rx)} ${n(y)}${arc} ${n(x + rx)} ${n(y)}Z`);
  }
  roundRect(x: number, y: number, w: number, h: number, radii: number[]): void {
    const four = radii.length === 4 ? radii : new Array<number>(4).fill(radii[0] ?? 0);
    // Radii that do not fit are made smaller together: HTML, section 4.12.5.1.6, as CSS Backgrounds 3, section 5.5.
    const [a, b, c, d] = four as [number, number, number, number];
    const by = Math.min(1, w / (a + b || 1), h / (b + c || 1), w / (c + d || 1), h / (d + a || 1));
    const [tl, tr, br, bl] = [a * by, b * by, c * by, d * by];
    const arc = (r: number, dx: number, dy: number) => (r ? `a${n(r)} ${n(r)} 0 0 1 ${n(dx)} ${n(dy)}` : '');
    this.path.push(
      `M${n(x + tl)} ${n(y)}H${n(x + w - tr)}${arc(tr, tr, tr)}V${n(y + h - br)}${arc(br, -br, br)}`,
      `H${n(x + bl)}${arc(bl, -bl, -bl)}V${n(y + tl)}${arc(tl, tl, -tl)}Z`,
    );
  }

  createLinearGradient(x1: number, y1: number, x2: number, y2: number): Gradient {
    return gradient('linearGradient', { x1, y1, x2, y2 });
  }
  createRadialGradient(x: number, y: number, _from: number, x2: number, y2: number, r: number): Gradient {
    return gradient('radialGradient', { cx: x2, cy: y2, fx: x, fy: y, r });
  }
  setLineDash(lengths: number[]): void {
    this.dashes = lengths;
  }
  clip(): void {
    // Only rough pictures are clipped, and none is drawn here.
  }
  clearRect(): void {
    // A drawing begins empty.
  }

  fillRect(x: number, y: number, w: number, h: number): void {
    const before = this.path;
    this.path = [];
    this.rect(x, y, w, h);
    this.fill();
    this.path = before;
  }
  fill(): void {
    const { fill, opacity } = this.styled('fill', this.fillStyle);
    this.put(`<path d="${this.path.join('')}"${fill}`, opacity);
  }
  stroke(): void {
    const { fill, opacity } = this.styled('stroke', this.strokeStyle);
    this.put(`<path d="${this.path.join('')}" fill="none"${fill}${this.line()}`, opacity);
  }
  fillText(text: string, x: number, y: number): void {
    const { fill, opacity } = this.styled('fill', this.fillStyle);
    this.put(`<text x="${n(x)}" y="${n(y)}"${this.face()}${fill}`, opacity, `>${escapeXml(text)}</text>`);
  }
  strokeText(text: string, x: number, y: number): void {
    const { fill, opacity } = this.styled('stroke', this.strokeStyle);
    const head = `<text x="${n(x)}" y="${n(y)}"${this.face()} fill="none"${fill}${this.line()}`;
    this.put(head, opacity, `>${escapeXml(text)}</text>`);
  }
  drawImage(image: SvgImage, x: number, y: number, w: number, h: number): void {
    if ('sheet' in image) this.put('<g', 1, `>${image.sheet.markup}</g>`);
    else if (image.as === 'drawing') {
      const { place } = image.need;
      const lay = `translate(${n(x)} ${n(y)}) scale(${exact(w / place.width)} ${exact(h / place.height)})`;
      this.put('<g', 1, `><g transform="${lay}"${this.laid(image.need, image.href)}</g></g>`);
    } else {
      const box = `x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}"`;
      // As SVG 1.1 has it, which later readers know too (SVG 2, section 16.1.2): said in both ways it would be held twice.
      this.put(`<image ${box} preserveAspectRatio="none" xlink:href="${escapeXml(image.href)}"`, 1);
    }
  }

  /** The rest of a group that holds a drawing as a need shows it, cut, mirrored and turned by quarters as its surface would be. */
  private laid({ image, shown, place, orient }: SurfaceNeed, href: string): string {
    const at = (x: number, y: number) => `${exact(x - place.x)} ${exact(y - place.y)}`;
    const cut = `M${at(shown.x, shown.y)}h${exact(shown.width)}v${exact(shown.height)}h${exact(-shown.width)}Z`;
    const clip = this.definitions.id('c', (own) => `<clipPath id="${own}"><path d="${cut}"/></clipPath>`);
    const [width, height] = orient.quarters % 2 ? [image.height, image.width] : [image.width, image.height];
    const lay = `translate(${at(image.x + image.width / 2, image.y + image.height / 2)}) rotate(${orient.quarters * 90}) scale(${orient.across ? -1 : 1} ${orient.down ? -1 : 1})`;
    const box = `x="${exact(-width / 2)}" y="${exact(-height / 2)}" width="${exact(width)}" height="${exact(height)}"`;
    return ` clip-path="url(#${clip})"><image transform="${lay}" ${box} preserveAspectRatio="none" xlink:href="${escapeXml(href)}"/>`;
  }

  private line(): string {
    const dashes = this.dashes.length ? ` stroke-dasharray="${this.dashes.map(n).join(' ')}"` : '';
    return ` stroke-width="${n(this.lineWidth)}" stroke-linejoin="${String(this.lineJoin)}" stroke-linecap="${String(this.lineCap)}"${dashes}`;
  }

  private face(): string {
    const [, italic, weight, size, family] = /^(italic )?(\d+) ([\d.]+)px (.+)$/.exec(this.font) ?? [];
    return ` font-family="${family ?? 'sans-serif'}" font-size="${size ?? 10}" font-weight="${weight ?? 400}"${italic ? ' font-style="italic"' : ''}`;
  }

  private styled(what: 'fill' | 'stroke', style: unknown): { fill: string; opacity: number } {
    if (typeof style === 'string') {
      const { colour, opacity } = paintOf(style);
      return { fill: ` ${what}="${colour}"`, opacity };
    }
    const { head, stops } = style as Gradient;
    const name = head.split(' ')[0]!.slice(1);
    const id = this.definitions.id('g', (own) => `${head} id="${own}">${stops.join('')}</${name}>`);
    return { fill: ` ${what}="url(#${id})"`, opacity: 1 };
  }

  /** Puts an element, with the shadow that falls from it below it. */
  private put(head: string, opacity: number, rest = '/>'): void {
    const [a, b, c, d, e, f] = this.matrix;
    const moved = (x: number, y: number) => {
      const at = [a, b, c, d, e + x, f + y].map(exact).join(' ');
      return at === '1 0 0 1 0 0' ? '' : ` transform="matrix(${at})"`;
    };
    const element = (x = 0, y = 0) => `${head}${said('opacity', this.globalAlpha * opacity)}${moved(x, y)}${rest}`;
    const shade = paintOf(this.shadowColor);
    const { shadowOffsetX: x, shadowOffsetY: y, shadowBlur } = this;
    if (shade.opacity > 0 && (shadowBlur > 0 || x !== 0 || y !== 0)) {
      // Its σ is half the blur: HTML, section 4.12.5.1.18. It falls by device px, whatever the transform.
      const blur = shadowBlur / 2;
      const room = Math.ceil(3 * blur + 2);
      const id = this.definitions.id(
        'f',
        (own) =>
          `<filter id="${own}" filterUnits="userSpaceOnUse" x="${-room}" y="${-room}" width="${this.width + 2 * room}" height="${this.height + 2 * room}" color-interpolation-filters="sRGB">` +
          `<feGaussianBlur in="SourceAlpha" stdDeviation="${n(blur)}"/>` +
          `<feComponentTransfer result="a"><feFuncA type="linear" slope="${n(shade.opacity)}"/></feComponentTransfer>` +
          `<feFlood flood-color="${shade.colour}"/><feComposite in2="a" operator="in"/></filter>`,
      );
      // A group of its own, so that the filter is not in the element's own transform.
      this.parts.push(`<g filter="url(#${id})">${element(x, y)}</g>`);
    }
    // What stands far off is there for its shadow alone.
    if (Math.abs(x) < OFF) this.parts.push(element());
  }
}

function gradient(name: string, at: Record<string, number>): Gradient {
  const where = Object.entries(at).map(([key, value]) => ` ${key}="${exact(value)}"`);
  const stops: string[] = [];
  return {
    head: `<${name} gradientUnits="userSpaceOnUse"${where.join('')}`,
    stops,
    addColorStop(offset, css) {
      const { colour, opacity } = paintOf(css);
      stops.push(`<stop offset="${exact(offset)}" stop-color="${colour}"${said('stop-opacity', opacity)}/>`);
    },
  };
}

/**
 * A plan as an SVG file: letters as outlines, but for those that no face has; pictures as `pictureOf` gives them for their
 * needs. No drawing stands within another one’s, which not all readers draw. `width` and `height` are what it shows as, CSS px.
 */
export function svgOf(
  p: Plan,
  { width, height, title }: { readonly width: number; readonly height: number; readonly title: string },
  pictureOf: (need: SurfaceNeed) => SvgPicture,
): string {
  const sheet = new SvgSheet(p.width, p.height);
  const surfaces: Surfaces<SvgImage> = {
    exact: (need) => ({ ...pictureOf(need), need }),
    rough: () => undefined,
    scratch(w, h) {
      const own = new SvgSheet(w, h, sheet.definitions);
      return { context: own, image: { sheet: own } };
    },
  };
  paint(p, surfaces, sheet);
  const definitions = sheet.definitions.toString();
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${n(width)}" height="${n(height)}" viewBox="0 0 ${p.width} ${p.height}">`,
    ...(title ? [`<title>${escapeXml(title)}</title>`] : []),
    ...(definitions ? [`<defs>${definitions}</defs>`] : []),
    sheet.markup,
    '</svg>\n',
  ].join('\n');
}
