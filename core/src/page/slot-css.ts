import { PHONE_MOST, TABLET_MOST } from '../slot/shown';
import { footStops } from '../slot/darkening';
import type { PageFit, ShownAt, Slot } from '../slot/slot';
import { cssString } from './html';

/** What each way of fitting is in CSS. CSS Images Module Level 3, section 5. */
const fits: Record<PageFit, string> = {
  'fills-centre': 'object-fit:cover',
  'fills-top': 'object-fit:cover;object-position:50% 0',
  'fits-within': 'object-fit:contain',
  stretches: 'object-fit:fill',
  'asks-crop': 'object-fit:cover',
  'top-left': 'object-fit:none;object-position:0 0',
};

const n = (value: number) => String(Math.round(value * 1000) / 1000);

function shownAs(at: ShownAt): string {
  switch (at.mode) {
    case 'scales':
      return '';
    case 'height':
      return `width:100%;height:${n(at.height)}px;aspect-ratio:auto`;
    case 'size':
      return `width:${n(at.width)}px;height:${n(at.height)}px;aspect-ratio:auto`;
    case 'hidden':
      return 'display:none';
  }
}

/** Where things that the page lays over the picture stand, as shares of the slot. */
function zoneCss(slot: Slot, selector: string): string {
  const share = (value: number, of: number) => `${n((value / of) * 100)}%`;
  return slot.covered
    .map(
      (zone, i) =>
        `${selector}>.over-${i}{left:${share(zone.x, slot.width)};top:${share(zone.y, slot.height)};width:${share(
          zone.width,
          slot.width,
        )};${
          // A portrait stays one where the slot changes its ratio.
          zone.kind === 'portrait'
            ? `aspect-ratio:${n(zone.width)}/${n(zone.height)}`
            : `height:${share(zone.height, slot.height)}`
        }}`,
    )
    .join('\n');
}

/** The style of one slot on its page: size at each width of the page, outline, fit, border, darkening, what lies over it. */
export function slotCss(slot: Slot): string {
  const at = `.page .place[data-slot=${cssString(slot.id)}]`;
  const scale = slot.shownWidth / slot.width;
  const sized = slot.anyWidth
    ? `width:100%;max-width:none;height:${n(slot.height)}px`
    : `width:${n(slot.shownWidth)}px;aspect-ratio:${n(slot.width)}/${n(slot.height)}`;
  const radius =
    slot.shape.kind === 'ellipse' ? '50%' : slot.shape.kind === 'rounded' ? `${n(slot.shape.radius * scale)}px` : '';
  const dark = slot.darkening?.on ? slot.darkening : null;
  const black = (alpha: number) => `rgb(0 0 0/${n(alpha)})`;
  return [
    `${at}{${sized}${slot.border ? `;box-sizing:content-box;border:${n(slot.border.width)}px solid ${slot.border.colour}` : ''}}`,
    `${at}>.slot>img{${fits[slot.fit]}}`,
    radius && `${at}>.slot{border-radius:${radius}}`,
    dark &&
      `${at}>.slot::after{content:'';position:absolute;inset:0;background:${
        dark.kind === 'all'
          ? black(dark.strength)
          : `linear-gradient(to top,${footStops.map(({ at: up, share }) => `${black(dark.strength * share)} ${n(up * 100)}%`).join(',')})`
      }}`,
    zoneCss(slot, at),
    ...(
      [
        [TABLET_MOST, slot.tablet],
        [PHONE_MOST, slot.phone],
      ] as const
    ).map(([most, shown]) => {
      const own = shownAs(shown);
      return own && `@container (max-width:${most}px){${at}{${own}}}`;
    }),
  ]
    .filter(Boolean)
    .join('\n');
}
