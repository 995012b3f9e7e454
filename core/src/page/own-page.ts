import '../zod-setup';
import * as z from 'zod';
import { LONGEST_SIDE, SlotRecord, type Slot } from '../slot/slot';
import { PHONE_MOST, type Device } from '../slot/shown';
import { AssetHash } from '../values';
import { PageColours } from './colours';
import { escapeHtml } from './html';

const px = z.number().positive().max(100_000);

/** A screenshot of a page: its picture, and where on it a slot stands (both in its own px). */
export const PageShot = z.object({
  asset: AssetHash,
  width: px,
  height: px,
  box: z.object({
    x: z.number().min(0).max(100_000),
    y: z.number().min(0).max(100_000),
    width: z
      .number()
      .positive()
      .max(LONGEST_SIDE * 4),
    height: z
      .number()
      .positive()
      .max(LONGEST_SIDE * 4),
  }),
  /** Device px a CSS px. */
  density: z.number().positive().max(10),
});
export type PageShot = z.infer<typeof PageShot>;

/** What a person knows of the page of a slot: how it really looks, and the colours it is to have. */
export const OwnPage = z.object({
  version: z.literal(1),
  slot: z.string().min(1).max(80),
  desktop: PageShot.nullable(),
  phone: PageShot.nullable(),
  colours: PageColours.nullable(),
  /** What the slot's ground and border were before colours were kept; null where none are. */
  was: SlotRecord.pick({ ground: true, border: true }).nullable(),
});
export type OwnPage = z.infer<typeof OwnPage>;

/** A page of which nothing is known yet. */
export const plainPage = (slot: string): OwnPage => ({
  version: 1,
  slot,
  desktop: null,
  phone: null,
  colours: null,
  was: null,
});

/** Which device a screenshot is of, by its width: one as narrow as a phone's window is of a phone. */
export const shotDevice = ({ width, density }: Pick<PageShot, 'width' | 'density'>): 'desktop' | 'phone' =>
  width / density <= PHONE_MOST ? 'phone' : 'desktop';

/** The screenshot that a device's page is drawn from; null where there is none, and a likeness is drawn instead. */
export const shotFor = (page: OwnPage | undefined, device: Device): PageShot | null =>
  (device === 'tablet' ? null : page?.[device]) ?? null;

/** How wide a screenshot's page is, CSS px. */
export const shotWidth = ({ width, density }: Pick<PageShot, 'width' | 'density'>): number => width / density;

const n = (value: number) => `${Math.round(value * 1e5) / 1e5}`;
const share = (value: number, of: number) => `${n((value / of) * 100)}%`;

/** A page drawn from a screenshot of it. */
export interface ShownShot {
  /** Where the screenshot's picture is to be had. */
  readonly url: string;
  readonly shot: PageShot;
}

/**
 * A screenshot as a page: `place` (markup of the slot's place) stands where the slot was measured, in shares of it, so
 * that it does at any width. What the page lays over the picture is seen as it is on the screenshot itself.
 */
export function shotPage({ url, shot }: ShownShot, slot: Slot, place: string): { html: string; css: string } {
  const { box, width, height } = shot;
  const across = box.width / slot.width;
  const down = box.height / slot.height;
  const at = '.page.page-own>.spot>.place[data-slot]';
  const over = slot.covered
    .map((zone, i) => {
      // A title is printed on whatever picture there is: the one on the screenshot is not ours.
      if (zone.kind === 'title') return '';
      const [left, top] = [box.x + zone.x * across, box.y + zone.y * down];
      const [wide, high] = [zone.width * across, zone.height * down];
      return `${at}>.over-${i}{border:0;background:url("${url}") ${share(left, Math.max(1, width - wide))} ${share(top, Math.max(1, height - high))}/${share(width, wide)} ${share(height, high)}}
${at}>.over-${i}::after{content:none}`;
    })
    .filter(Boolean);
  return {
    html: `<img class="shot" src="${escapeHtml(url)}" alt=""><div class="spot">${place}</div>`,
    css: [
      `.page.page-own{position:relative;display:block}`,
      `.page-own>.shot{display:block;width:100%;aspect-ratio:${n(width)}/${n(height)}}`,
      `.page-own>.spot{position:absolute;left:0;right:0;top:0;aspect-ratio:${n(width)}/${n(height)}}`,
      // Stronger than what the slot's own size is elsewhere.
      `${at}{position:absolute;display:block;border:0;max-width:none;aspect-ratio:auto;left:${share(box.x, width)};top:${share(box.y, height)};width:${share(box.width, width)};height:${share(box.height, height)}}`,
      ...over,
    ].join('\n'),
  };
}
