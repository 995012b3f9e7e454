import escapeHtml from 'escape-html';
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { clamp } from '../geometry/clamp';
import { limits } from '../limits';
import { bad, good, type Result } from '../problem';
import { cutText } from '../text';

/** The entries of an OpenRaster file: OpenRaster File Layout Specification 0.0.6, “File layout”. */
export const openRaster = {
  mime: 'image/openraster',
  type: 'mimetype',
  stack: 'stack.xml',
  merged: 'mergedimage.png',
  thumbnail: 'Thumbnails/thumbnail.png',
  /** Longest side of the thumbnail, px. */
  thumbnailSide: 256,
  layer: (at: number) => `data/layer${String(at).padStart(3, '0')}.png`,
} as const;

/** A layer of a stack: a picture that lies at (`x`, `y`), px of the file. */
export interface StackLayer {
  readonly name: string;
  /** The entry that holds it. */
  readonly src: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
  readonly visible: boolean;
  /** What it lay in, the outermost first. */
  readonly within: readonly string[];
}

/** What a stack holds, back to front, and what of it cannot be kept, in sentences. */
export interface Stack {
  readonly width: number;
  readonly height: number;
  readonly layers: readonly StackLayer[];
  readonly left: readonly string[];
}

/** Text as an attribute of XML holds it. */
const attribute = (text: string) =>
  escapeHtml(text.toWellFormed().replace(/[^\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, ' '));

/** `stack.xml`, its first layer topmost, as the specification has it; `layers` stand back to front. Px of the file. */
export function stackXml(
  { width, height }: { readonly width: number; readonly height: number },
  layers: readonly Omit<StackLayer, 'within'>[],
): string {
  const lines = layers
    .toReversed()
    .map(
      ({ name, src, x, y, opacity, visible }) =>
        `    <layer name="${attribute(name)}" src="${attribute(src)}" x="${x}" y="${y}" opacity="${opacity}" visibility="${visible ? 'visible' : 'hidden'}" composite-op="svg:src-over"/>`,
    );
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<image version="0.0.6" w="${width}" h="${height}" xres="72" yres="72">`,
    '  <stack>',
    ...lines,
    '  </stack>',
    '</image>',
    '',
  ].join('\n');
}

/** Most letters of a stack, and how deep it may go. */
const MOST_LETTERS = 2e6;
const DEEPEST = 30;

interface Open {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
  readonly visible: boolean;
}

const damaged = bad(
  'unreadable',
  'That OpenRaster file cannot be read: its list of layers breaks off, or is damaged. Save it anew and try again.',
);

/**
 * Reads `stack.xml`: stacks within stacks are opened out, their places and opacities with them. Fails with `unreadable`,
 * `too-many-layers` and `empty`.
 */
export function readStack(xml: string): Result<Stack> {
  if (xml.length > MOST_LETTERS) return damaged;
  const layers: StackLayer[] = [];
  const open: Open[] = [];
  const left = new Map<string, number>();
  let size: { width: number; height: number } | null = null;
  const lost = (what: string) => void left.set(what, (left.get(what) ?? 0) + 1);

  const number = (tag: SaxesTagPlain, name: string, usual: number, least: number, most: number) => {
    const value = Number(tag.attributes[name] ?? usual);
    return Number.isFinite(value) ? clamp(value, least, most) : usual;
  };
  const read = (tag: SaxesTagPlain): Open => ({
    name: cutText((tag.attributes['name'] ?? '').trim(), limits.name),
    x: Math.round(number(tag, 'x', 0, -limits.far, limits.far)),
    y: Math.round(number(tag, 'y', 0, -limits.far, limits.far)),
    opacity: number(tag, 'opacity', 1, 0, 1),
    visible: tag.attributes['visibility'] !== 'hidden',
  });
  const parser = new SaxesParser();
  parser.on('doctype', () => parser.fail('A document type is not taken.'));
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', (tag) => {
    const mode = tag.attributes['composite-op'];
    if (tag.name === 'image' && !size)
      size = { width: number(tag, 'w', 0, 0, 1e6), height: number(tag, 'h', 0, 0, 1e6) };
    else if (tag.name === 'stack') {
      if (open.length >= DEEPEST) parser.fail('Stacks lie too deep.');
      // Their own place is given to what is in them; the outermost has none.
      const own = read(tag);
      const outer = open.at(-1);
      if (outer && (own.opacity < 1 || (mode !== undefined && mode !== 'svg:src-over')))
        lost('groups that are composed by themselves');
      open.push({
        ...own,
        x: own.x + (outer?.x ?? 0),
        y: own.y + (outer?.y ?? 0),
        opacity: own.opacity * (outer?.opacity ?? 1),
        visible: own.visible && (outer?.visible ?? true),
      });
    } else if (tag.name === 'layer' && open.length) {
      const own = read(tag);
      const outer = open.at(-1)!;
      const src = tag.attributes['src'] ?? '';
      if (mode !== undefined && mode !== 'svg:src-over') lost('layers with a blend mode');
      layers.push({
        name: own.name,
        src,
        x: own.x + outer.x,
        y: own.y + outer.y,
        opacity: own.opacity * outer.opacity,
        visible: own.visible && outer.visible,
        within: open.slice(1).map((s) => s.name),
      });
    } else if (open.length) lost('other things');
  });
  parser.on('closetag', (tag) => {
    if (tag.name === 'stack') open.pop();
  });
  try {
    parser.write(xml).close();
  } catch {
    return damaged;
  }
  const found = size as { width: number; height: number } | null;
  if (!found || found.width < 1 || found.height < 1) return damaged;
  if (layers.length > limits.layers)
    return bad(
      'too-many-layers',
      `That OpenRaster file has ${layers.length} layers; a graphic holds ${limits.layers}. Merge some where it was made.`,
    );
  if (!layers.length) return bad('empty', 'That OpenRaster file has no layers.');
  return good({
    ...found,
    layers: layers.toReversed(),
    left: [...left].map(([what, n]) => `${what}: ${n}`),
  });
}
