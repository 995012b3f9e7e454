import same from 'fast-deep-equal';
import { middleOf } from '../geometry/turn';
import { cutText } from '../text';
import type { Shaper } from '../words/shaper';
import { firstRun, textOf } from '../words/words';
import { layoutOf } from '../words/layout';
import { isPicture, type Graphic, type Layer, type PictureLayer, type WordsLayer } from './graphic';
import type { ShapeLayer, VeilLayer } from './shape';
import { layerBounds } from './shape-geometry';

const figure = (n: number) => String(Math.round(n * 10) / 10);
const percent = (n: number) => `${Math.round(n * 100)} %`;
const change = (what: string, a: string, b: string) => `${what}${a} → ${b}`;

/** Below this much (canvas px) nothing has moved, or is of another size. */
const SEEN = 0.05;
/** So much of a text is quoted. */
const QUOTED = 28;

/** "12 px lower and 4 px further left"; empty where it stands where it stood. */
function movedText(a: { x: number; y: number }, b: { x: number; y: number }): string {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const said = [
    ...(Math.abs(y) >= SEEN ? [`${figure(Math.abs(y))} px ${y > 0 ? 'lower' : 'higher'}`] : []),
    ...(Math.abs(x) >= SEEN ? [`${figure(Math.abs(x))} px further ${x > 0 ? 'right' : 'left'}`] : []),
  ];
  return said.join(' and ');
}

function wordsDiffer(a: WordsLayer, b: WordsLayer, shaper: Shaper): string[] {
  const [was, is] = [firstRun(a), firstRun(b)];
  const quoted = (l: WordsLayer) => `“${cutText(textOf(l).replace(/\s+/g, ' '), QUOTED, true)}”`;
  const [from, to] = [was.size * layoutOf(a, shaper).by, is.size * layoutOf(b, shaper).by];
  const face = (l: WordsLayer) => {
    const { family, weight, italic } = firstRun(l).face;
    return `${family} ${weight}${italic ? ' italic' : ''}`;
  };
  const plain = (l: WordsLayer) =>
    l.paragraphs.map((p) => ({ align: p.align, runs: p.runs.map((r) => ({ ...r, text: '' })) }));
  const said = [
    ...(textOf(a) === textOf(b) ? [] : [change('', quoted(a), quoted(b))]),
    ...(figure(from) === figure(to) ? [] : [`${figure(from)} → ${figure(to)} px`]),
    ...(face(a) === face(b) ? [] : [change('', face(a), face(b))]),
    ...(was.colour === is.colour ? [] : [change('', was.colour, is.colour)]),
    ...(a.paragraphs[0]!.align === b.paragraphs[0]!.align
      ? []
      : [change('aligned ', a.paragraphs[0]!.align, b.paragraphs[0]!.align)]),
    ...(a.lineSpacing === b.lineSpacing ? [] : [change('line spacing ', figure(a.lineSpacing), figure(b.lineSpacing))]),
    ...(same(a.ground, b.ground) ? [] : ['another ground']),
    ...(same(a.outline, b.outline) ? [] : ['another outline']),
  ];
  return !said.length && textOf(a) === textOf(b) && !same(plain(a), plain(b)) ? ['other looks of single words'] : said;
}

function pictureDiffers(a: PictureLayer, b: PictureLayer): string[] {
  return [
    ...(a.asset === b.asset ? [] : ['another picture']),
    ...(same(a.crop, b.crop) || a.asset !== b.asset ? [] : ['cropped otherwise']),
    ...(same(a.look, b.look) && same(a.tint, b.tint) ? [] : ['another look']),
    ...(same(a.cutout, b.cutout) ? [] : ['cut out otherwise']),
    ...(same(a.flip, b.flip) ? [] : ['mirrored']),
    ...(same([a.fades, a.beyond], [b.fades, b.beyond]) ? [] : ['other edges']),
    ...(same([a.border, a.corners], [b.border, b.corners]) ? [] : ['another frame']),
  ];
}

const fillText = (l: ShapeLayer) =>
  l.fill.kind === 'colour' ? l.fill.colour : l.fill.kind === 'none' ? 'none' : 'a gradient';

function shapeDiffers(a: ShapeLayer, b: ShapeLayer): string[] {
  return [
    ...(same(a.fill, b.fill)
      ? []
      : [fillText(a) === fillText(b) ? 'another gradient' : change('filled ', fillText(a), fillText(b))]),
    ...(same([a.border, a.corners, a.form], [b.border, b.corners, b.form]) ? [] : ['another edge']),
  ];
}

function veilDiffers(a: VeilLayer, b: VeilLayer): string[] {
  return [
    ...(a.strength === b.strength ? [] : [change('', percent(a.strength / 255), percent(b.strength / 255))]),
    ...(a.colour === b.colour ? [] : [change('', a.colour, b.colour)]),
    ...(same(a.form, b.form) ? [] : ['lies otherwise']),
  ];
}

/** How a layer differs from what it was, in a few words each; empty where it does not. */
function layerDiffers(a: Layer, b: Layer, from: Graphic, to: Graphic, shaper: Shaper): string[] {
  if (a.role === 'words' && b.role === 'words' ? false : a.role !== b.role && !(isPicture(a) && isPicture(b)))
    return ['something else now'];
  const own =
    a.role === 'words' && b.role === 'words'
      ? wordsDiffer(a, b, shaper)
      : isPicture(a) && isPicture(b)
        ? pictureDiffers(a, b)
        : a.role === 'shape' && b.role === 'shape'
          ? shapeDiffers(a, b)
          : a.role === 'veil' && b.role === 'veil'
            ? veilDiffers(a, b)
            : [];
  const [was, is] = [layerBounds(a, from, shaper), layerBounds(b, to, shaper)];
  const sized = Math.abs(was.width - is.width) >= SEEN || Math.abs(was.height - is.height) >= SEEN;
  const size = (s: { width: number; height: number }) => `${figure(s.width)} × ${figure(s.height)}`;
  // Words of another size are wider: that is told by their type. What grew about its middle has not moved.
  const said =
    a.role === 'words'
      ? movedText(a.role === b.role ? edge(a) : was, b.role === 'words' ? edge(b) : is)
      : movedText(middleOf(was), middleOf(is));
  const turned = 'turn' in a && 'turn' in b && a.turn !== b.turn;
  const faint = 'opacity' in a && 'opacity' in b && a.opacity !== b.opacity;
  return [
    ...own,
    ...(sized && a.role !== 'words' && a.role !== 'veil' ? [`${size(was)} → ${size(is)} px`] : []),
    ...(said && a.role !== 'veil' ? [said] : []),
    ...(turned ? [change('turned ', `${figure(a.turn)}°`, `${figure(b.turn)}°`)] : []),
    ...(faint ? [change('opacity ', percent(a.opacity), percent(b.opacity))] : []),
    ...('shadow' in a && 'shadow' in b && !same(a.shadow, b.shadow) ? ['another shadow'] : []),
    ...(a.visible === b.visible ? [] : [b.visible ? 'shown' : 'hidden']),
    ...(a.name === b.name ? [] : [`called “${b.name}” now`]),
  ];
}

const edge = (l: WordsLayer) => l.place;

/**
 * What differs between two states of a graphic, in words, a line a layer: "Title: 52 → 48 px, 12 px lower". Empty where
 * nothing is seen to differ.
 */
export function differences(from: Graphic, to: Graphic, shaper: Shaper): string[] {
  const lines: string[] = [];
  const { width, height } = from.canvas;
  if (width !== to.canvas.width || height !== to.canvas.height)
    lines.push(
      `Canvas: ${figure(width)} × ${figure(height)} → ${figure(to.canvas.width)} × ${figure(to.canvas.height)} px`,
    );
  if (!same(from.backdrop, to.backdrop)) {
    const text = ({ backdrop: b }: Graphic) =>
      b.kind === 'colour' ? b.colour : b.kind === 'none' ? 'none' : 'a gradient';
    lines.push(text(from) === text(to) ? 'Backdrop: another gradient' : change('Backdrop: ', text(from), text(to)));
  }
  for (const layer of to.layers) {
    const was = from.layers.find((l) => l.id === layer.id);
    if (!was) lines.push(`${layer.name}: added`);
    else if (was !== layer) {
      const said = layerDiffers(was, layer, from, to, shaper);
      if (said.length) lines.push(`${layer.name}: ${said.join(', ')}`);
    }
  }
  for (const layer of from.layers)
    if (!to.layers.some((l) => l.id === layer.id)) lines.push(`${layer.name}: taken away`);
  const common = (a: Graphic, b: Graphic) =>
    a.layers.filter((l) => b.layers.some((o) => o.id === l.id)).map((l) => l.id);
  if (!same(common(from, to), common(to, from))) lines.push('Layers in another order');
  return lines;
}
