import { STRENGTHS, type LineStyle } from '../graphic/shape';
import { trace } from '../words/outline';
import { fadeStyle, fillStyle, frameOutline, setShadow, type PaintContext } from './context';
import type { PaintOperation } from './plan';

type ShapeOperation = Extract<PaintOperation, { kind: 'shape' }>;
type VeilOperation = Extract<PaintOperation, { kind: 'veil' }>;

/** How long what is drawn of a line and what is left of it are, in its widths. */
const dashes: Record<LineStyle, readonly number[]> = { solid: [], dashed: [3, 2], dotted: [0, 2] };

function outlinePath<Image>(context: PaintContext<Image>, { form, box, corners, outline, ends }: ShapeOperation): void {
  if (ends) {
    context.beginPath();
    context.moveTo(ends.from.x, ends.from.y);
    context.lineTo(ends.to.x, ends.to.y);
  } else if (outline) {
    context.beginPath();
    trace(outline, context);
  } else frameOutline(context, box, form === 'ellipse' ? 'round' : corners);
}

/** The path that a border runs along: half its width within the edge, where there is an inside to speak of. */
function borderPath<Image>(context: PaintContext<Image>, shape: ShapeOperation, width: number): boolean {
  if (shape.outline || shape.ends) {
    outlinePath(context, shape);
    return true;
  }
  const { x, y, width: w, height: h } = shape.box;
  const within = { x: x + width / 2, y: y + width / 2, width: w - width, height: h - width };
  if (within.width <= 0 || within.height <= 0) return false;
  const { corners } = shape;
  const less =
    corners && corners !== 'round'
      ? (corners.map((r) => Math.max(0, r - width / 2)) as unknown as typeof corners)
      : corners;
  outlinePath(context, { ...shape, box: within, corners: less });
  return true;
}

/** Paints a shape: its shadow, its fill, its border. The context's unit is the canvas px. */
export function paintShape<Image>(shape: ShapeOperation, context: PaintContext<Image>): void {
  const { fill, border, shadow, opacity, turn, box } = shape;
  context.save();
  if (turn) {
    context.translate(turn.about.x, turn.about.y);
    context.rotate((turn.degrees * Math.PI) / 180);
    context.translate(-turn.about.x, -turn.about.y);
  }
  context.globalAlpha = opacity;
  // The shadow falls from what is drawn first, so that it falls once.
  if (shadow) setShadow(context, shadow);
  const style = shape.ends ? null : fillStyle(fill, context, box);
  if (style !== null) {
    context.fillStyle = style;
    outlinePath(context, shape);
    context.fill();
    context.shadowColor = 'rgba(0, 0, 0, 0)';
  }
  if (border) {
    context.strokeStyle = border.colour;
    context.lineWidth = border.width;
    context.lineJoin = 'round';
    context.lineCap = border.style === 'dotted' ? 'round' : 'butt';
    context.setLineDash(dashes[border.style].map((n) => n * border.width));
    if (borderPath(context, shape, border.width)) context.stroke();
  }
  context.restore();
}

/** Further than any canvas reaches, canvas px. */
const FAR = 20_000;

/** Paints a veil. The context's unit is the canvas px, `scale` device px to each. */
export function paintVeil<Image>(veil: VeilOperation, context: PaintContext<Image>, scale: number): void {
  const { sheet, colour, strength } = veil;
  context.save();
  context.globalAlpha = strength / (STRENGTHS - 1);
  if (sheet.kind === 'behind') {
    // The soft shape is the shadow of boxes that stand far off the canvas; together, so that none doubles another.
    context.translate(-FAR, 0);
    setShadow(context, { x: FAR * scale, y: 0, blur: sheet.blur * scale, colour, strength: 1 });
    context.fillStyle = '#000000';
    context.beginPath();
    for (const b of sheet.boxes) context.roundRect(b.x, b.y, b.width, b.height, [Math.min(b.height, b.width) / 6]);
    context.fill();
  } else {
    const { x, y, width, height } = sheet.box;
    context.fillStyle = sheet.kind === 'fade' ? fadeStyle(context, sheet.line, colour, sheet) : colour;
    context.fillRect(x, y, width, height);
  }
  context.restore();
}
