import '../zod-setup';
import * as z from 'zod';
import { hexOfChannels } from '../colour/srgb';
import { bad, good, type Result } from '../problem';
import { LONGEST_SIDE, type PageFit, type Slot } from './slot';
import { typedSlot } from './slots-to-start';

const px = z.number().min(0).max(1e6);

/** What the measuring bookmark hands back. Lengths in CSS px; `natural` in the picture's px. */
export const LiveMeasure = z.object({
  version: z.literal(1),
  width: px,
  height: px,
  density: z.number().positive().max(10),
  /** The page's address and title. */
  page: z.string().max(2000),
  title: z.string().max(300),
  picture: z
    .object({ address: z.string().max(4000), width: px, height: px, how: z.enum(['image', 'background']) })
    .nullable(),
  /** `object-fit` and `object-position`, or `background-size` and `background-position`, as the browser computes them. */
  fit: z.string().max(60),
  position: z.string().max(60),
  /** Computed radius of the top left corner. */
  radius: z.object({ x: px, y: px }),
  border: z.object({ width: px, colour: z.string().max(40) }).nullable(),
  ground: z.string().max(40),
  /** Neighbours of the same size in its row, itself included, and the gap between two. */
  row: z.object({ count: z.number().int().min(1).max(1000), gap: z.number().min(-1e5).max(1e5) }),
});
export type LiveMeasure = z.infer<typeof LiveMeasure>;

/** Reads what the bookmark put into the address or onto the clipboard: JSON, perhaps percent-encoded. Fails with `live`. */
export function readLive(text: string): Result<LiveMeasure> {
  const problem = bad('live', 'That is not what the measuring bookmark gives. Measure again and paste all of it.');
  if (text.length > 20_000) return problem;
  for (const read of [() => text, () => decodeURIComponent(text)])
    try {
      const parsed = LiveMeasure.safeParse(JSON.parse(read()));
      if (parsed.success) return good(parsed.data);
    } catch {
      // Not JSON in this form; perhaps in the other.
    }
  return problem;
}

/** "rgb(1, 2, 3)" or "rgba(…)" as "#010203"; null for anything transparent or else. CSS Color Module Level 4, section 15.2. */
export function hexFromCss(css: string): string | null {
  const found = /^rgba?\(\s*(\d{1,3})[\s,]+(\d{1,3})[\s,]+(\d{1,3})(?:\s*[,/]\s*([\d.]+))?\s*\)$/.exec(css.trim());
  if (!found || (found[4] !== undefined && Number(found[4]) < 0.99)) return null;
  const channels = found.slice(1, 4).map(Number);
  return channels.every((c) => c <= 255) ? hexOfChannels(channels) : null;
}

/** What the page does to the picture, from the computed style. CSS Images 3, section 5; CSS Backgrounds 3, section 2.9. */
export function fitOf({ fit, position }: Pick<LiveMeasure, 'fit' | 'position'>): PageFit {
  const top = /^\S+\s+(0%|0px|top)/.test(position);
  if (fit === 'cover') return top ? 'fills-top' : 'fills-centre';
  if (fit === 'contain' || fit === 'scale-down') return 'fits-within';
  if (fit === 'none' || fit === 'auto') return 'top-left';
  return 'stretches';
}

/** A slot for the book from what was measured on a live page. Fails with `slot-size` as `typedSlot` does. */
export function slotFromLive(m: LiveMeasure, own: { id: string; dated: string }): Result<Slot> {
  const hundredth = (n: number) => Math.round(n * 100) / 100;
  const width = hundredth(m.width);
  const height = hundredth(m.height);
  const half = Math.min(width, height) / 2;
  const round = m.radius.x >= width / 2 - 0.6 && m.radius.y >= height / 2 - 0.6;
  const radius = hundredth(Math.min(m.radius.x, half));
  let site = '';
  try {
    site = new URL(m.page).host.slice(0, 80);
  } catch {
    // A page without an address has no site.
  }
  const border = m.border && m.border.width > 0 ? hexFromCss(m.border.colour) : null;
  return typedSlot(width, height, {
    ...own,
    name: (m.title.trim() || 'Measured on a page').slice(0, 80),
    site,
    shownWidth: Math.min(LONGEST_SIDE, width),
    shape: round ? { kind: 'ellipse' } : radius > 0 ? { kind: 'rounded', radius } : { kind: 'rectangle' },
    fit: fitOf(m),
    densities: m.density > 2 ? [1, 2, 3] : m.density > 1 ? [1, 2] : [1],
    ground: hexFromCss(m.ground) ?? '#ffffff',
    border: border === null ? null : { width: Math.min(100, m.border!.width), colour: border },
    rowShows: Math.min(100, m.row.count),
    group: m.row.count > 2 ? 'Mosaics and strips' : width / height > 2.2 ? 'Headers' : 'Tiles and avatars',
    source: `measured on the live page ${m.page.slice(0, 150)}`,
  });
}
