import { trace } from '../words/outline';
import { itemInk, type PlacedFallback, type PlacedGlyph, type WordsLayout } from '../words/layout';
import { grown, intersection, type Box } from '../geometry/box';
import { fadeStyle, fillStyle, frameOutline, setShadow, type PaintContext, type Surfaces } from './context';
import type { FadeLine } from '../pixels/finishing';
import type { PaintOperation, Plan, RoughPlace, SurfaceNeed, WordsLook } from './plan';
import { paintShape, paintVeil } from './sheets';

/** A fade as a mask over all that is drawn so far. */
function maskFade<Image>(context: PaintContext<Image>, fade: FadeLine, box: Box): void {
  context.globalCompositeOperation = 'destination-in';
  context.fillStyle = fadeStyle(context, fade);
  context.fillRect(box.x - 2, box.y - 2, box.width + 4, box.height + 4);
  context.globalCompositeOperation = 'source-over';
}

/** Draws a rough picture as its surface will look, but for what only pixels can do. */
function paintRough<Image>(
  context: PaintContext<Image>,
  image: Image,
  { image: i, shown, degrees, pivot, flip, finish }: RoughPlace,
): void {
  context.translate(pivot.x, pivot.y);
  context.rotate((degrees * Math.PI) / 180);
  context.translate(-pivot.x, -pivot.y);
  context.imageSmoothingEnabled = true;
  context.imageSmoothingQuality = 'medium';
  context.save();
  frameOutline(context, shown, finish.corners);
  context.clip();
  context.translate(i.x + i.width / 2, i.y + i.height / 2);
  context.scale(flip.across ? -1 : 1, flip.down ? -1 : 1);
  context.drawImage(image, -i.width / 2, -i.height / 2, i.width, i.height);
  context.restore();
  if (finish.border) {
    const half = finish.border.width / 2;
    const inner = {
      x: shown.x + half,
      y: shown.y + half,
      width: shown.width - 2 * half,
      height: shown.height - 2 * half,
    };
    context.strokeStyle = finish.border.colour;
    context.lineWidth = finish.border.width;
    const corners = finish.corners;
    if (inner.width > 0 && inner.height > 0) {
      frameOutline(
        context,
        inner,
        corners && corners !== 'round'
          ? (corners.map((r) => Math.max(0, r - half)) as [number, number, number, number])
          : corners,
      );
      context.stroke();
    }
  }
  for (const fade of finish.fades) maskFade(context, fade, shown);
}

const fallbackFont = (item: PlacedFallback) =>
  `${item.italic ? 'italic ' : ''}${Math.round(item.weight)} ${item.size}px sans-serif`;

function paintFallback<Image>(item: PlacedFallback, context: PaintContext<Image>): void {
  context.font = fallbackFont(item);
  context.fillStyle = item.colour;
  context.fillText(item.text, item.x, item.y);
}

/** Paints one letter alone, in whatever transform is set, with a line around it (canvas px); for its mask. */
export function paintLetter<Image>(item: PlacedGlyph | PlacedFallback, context: PaintContext<Image>, line = 0): void {
  if (line > 0) strokeLetters([item], { width: line, colour: item.colour }, context);
  fillLetters([item], context);
}

/** So many letters go into one path: one that is much longer takes a canvas far longer than its parts. */
const MOST_IN_PATH = 300;

/** Fills a block's letters; neighbours of one colour go into one path. */
function fillLetters<Image>(items: WordsLayout['items'], context: PaintContext<Image>): void {
  let colour: string | null = null;
  let together = 0;
  const flush = () => {
    if (colour !== null) {
      context.fillStyle = colour;
      context.fill();
    }
    colour = null;
    together = 0;
  };
  for (const item of items) {
    if (item.kind === 'fallback') {
      flush();
      paintFallback(item, context);
      continue;
    }
    if (item.colour !== colour || together >= MOST_IN_PATH) {
      flush();
      context.beginPath();
      colour = item.colour;
    }
    trace(item.outline, context, item.scale, item.x, item.y);
    together++;
  }
  flush();
}

/** A line around letters, outside them: twice its width, half of which the letters cover again. */
function strokeLetters<Image>(
  items: WordsLayout['items'],
  outline: { width: number; colour: string },
  context: PaintContext<Image>,
): void {
  context.strokeStyle = outline.colour;
  context.lineWidth = outline.width * 2;
  context.lineJoin = 'round';
  const outlines = items.filter((item) => item.kind === 'outline');
  for (let i = 0; i < outlines.length; i += MOST_IN_PATH) {
    context.beginPath();
    for (const item of outlines.slice(i, i + MOST_IN_PATH)) trace(item.outline, context, item.scale, item.x, item.y);
    context.stroke();
  }
  for (const item of items)
    if (item.kind === 'fallback') {
      context.font = fallbackFont(item);
      context.strokeText(item.text, item.x, item.y);
    }
}

/** The letters that reach into what is painted, with all that is around them. */
function lettersIn(items: WordsLayout['items'], look: WordsLook, seen: Box): WordsLayout['items'] {
  // Of a few letters none is worth leaving out; turned ones are anywhere.
  if (items.length < MOST_IN_PATH || look.turn) return items;
  const { shadow, outline } = look;
  const far = (shadow ? Math.hypot(shadow.x, shadow.y) + 2 * shadow.blur : 0) + (outline?.width ?? 0);
  const near = grown(seen, far);
  return items.filter((item) => {
    const ink = itemInk(item);
    return ink !== null && intersection(ink, near) !== null;
  });
}

/** Further than any canvas reaches, canvas px. */
const FAR = 20_000;

/** Words with all that is around them, from back to front: ground, shadow, outline, letters. */
function paintWords<Image>(
  { layout, look, under }: Extract<PaintOperation, { kind: 'words' }>,
  context: PaintContext<Image>,
  scale: number,
  seen: Box,
): void {
  const { outline, ground, groundBox: box, shadow, turn } = look;
  const letters = lettersIn(layout.items, look, seen);
  context.save();
  if (turn) {
    context.translate(turn.about.x, turn.about.y);
    context.rotate((turn.degrees * Math.PI) / 180);
    context.translate(-turn.about.x, -turn.about.y);
  }
  if (ground && box) {
    context.save();
    context.globalAlpha = ground.opacity;
    context.fillStyle = ground.colour;
    context.beginPath();
    context.roundRect(box.x, box.y, box.width, box.height, [Math.min(ground.radius, box.width / 2, box.height / 2)]);
    context.fill();
    context.restore();
  }
  // The shadow falls from what is drawn first, the outline where there is one, so that it falls once.
  context.save();
  if (shadow) setShadow(context, shadow);
  if (outline) strokeLetters(letters, outline, context);
  else if (shadow && !under) fillLetters(letters, context);
  else if (shadow) {
    // The shadow alone: its letters stand far off the canvas.
    context.shadowOffsetX += FAR * scale;
    context.translate(-FAR, 0);
    fillLetters(letters, context);
  }
  context.restore();
  if (!under && (outline || !shadow)) fillLetters(letters, context);
  context.restore();
}

/** Makes a context's unit the canvas px, from the frame's corner. */
function inCanvasPx<Image>(context: PaintContext<Image>, { scale, origin }: Plan): void {
  context.setTransform(scale, 0, 0, scale, -origin.x * scale, -origin.y * scale);
}

/**
 * Phase two: paints a plan, synchronously, on a context whose canvas has the plan's size.
 * Gives the needs for which there was no exact surface (a rough one was used, or nothing).
 */
export function paint<Image>(p: Plan, surfaces: Surfaces<Image>, context: PaintContext<Image>): SurfaceNeed[] {
  const wanting: SurfaceNeed[] = [];
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, p.width, p.height);
  for (const operation of p.operations) {
    switch (operation.kind) {
      case 'fill':
        context.fillStyle = fillStyle(operation.fill, context, { x: 0, y: 0, width: p.width, height: p.height });
        context.fillRect(0, 0, p.width, p.height);
        break;
      case 'picture': {
        const { need, rough, opacity } = operation;
        const exact = surfaces.exact(need);
        const recent = exact === undefined ? surfaces.recent?.(need) : undefined;
        if (exact === undefined) wanting.push(need);
        const surface = exact ?? recent?.image;
        context.save();
        context.globalAlpha = opacity;
        if (surface !== undefined) {
          const { x, y, width, height } = recent?.place ?? need.place;
          context.imageSmoothingEnabled = false;
          context.drawImage(surface, x, y, width, height);
        } else {
          const image = surfaces.rough(need);
          const { shadow, fades } = rough.finish;
          const sheet =
            image !== undefined && (shadow || fades.length) ? surfaces.scratch?.(p.width, p.height) : undefined;
          if (sheet && image !== undefined) {
            paintRough(sheet.context, image, rough);
            if (shadow) setShadow(context, shadow);
            context.drawImage(sheet.image, 0, 0, p.width, p.height);
          } else if (image !== undefined)
            // Without a sheet of its own a fade would take along what lies below.
            paintRough(context, image, { ...rough, finish: { ...rough.finish, fades: [] } });
        }
        context.restore();
        break;
      }
      case 'words':
        inCanvasPx(context, p);
        paintWords(operation, context, p.scale, {
          ...p.origin,
          width: p.width / p.scale,
          height: p.height / p.scale,
        });
        context.setTransform(1, 0, 0, 1, 0, 0);
        break;
      case 'shape':
        if (operation.apart) {
          // Fill and border let through what lies below them, not one another.
          const sheet = surfaces.scratch?.(p.width, p.height);
          if (sheet) {
            inCanvasPx(sheet.context, p);
            paintShape({ ...operation, opacity: 1 }, sheet.context);
            context.globalAlpha = operation.opacity;
            context.drawImage(sheet.image, 0, 0, p.width, p.height);
            context.globalAlpha = 1;
            break;
          }
        }
        inCanvasPx(context, p);
        paintShape(operation, context);
        context.setTransform(1, 0, 0, 1, 0, 0);
        break;
      case 'veil':
        inCanvasPx(context, p);
        paintVeil(operation, context, p.scale);
        context.setTransform(1, 0, 0, 1, 0, 0);
        break;
    }
  }
  return wanting;
}
