import { intersection, type Box, type Size } from '../geometry/box';
import type { PageFit, PageKind, ShownAt, Slot } from './slot';

/** Widths of the window that stand for three kinds of device, CSS px: common practice, no source. */
export const deviceWidths = { desktop: 1280, tablet: 768, phone: 390 } as const;
export type Device = keyof typeof deviceWidths;
export const devices = ['desktop', 'tablet', 'phone'] as const satisfies readonly Device[];
/** Heights of the first screen of each, CSS px: common practice, no source. */
export const deviceHeights: Readonly<Record<Device, number>> = { desktop: 800, tablet: 1024, phone: 844 };

/** Up to these widths a page stands as on a tablet, as on a phone, CSS px. */
export const TABLET_MOST = 899;
export const PHONE_MOST = 559;

/** How wide the column is in which each kind of page shows a slot, CSS px, and what it keeps off at its sides. */
const columns: Readonly<
  Record<PageKind, { readonly most: number; readonly less?: number; readonly toTheEdge?: true }>
> = {
  blog: { most: 940 },
  shop: { most: 960 },
  checkout: { most: 752 },
  form: { most: 1600, toTheEdge: true },
  class: { most: 1200 },
  landing: { most: Infinity, toTheEdge: true },
  menu: { most: 1240 },
  mosaic: { most: 1050 },
  strip: { most: 750 },
  community: { most: 851 },
  profile: { most: 792 },
  chat: { most: 720 },
  about: { most: 720 },
  feed: { most: 640, less: 40 },
  plain: { most: Infinity, toTheEdge: true },
};

/** The room a page leaves for its slots at a width of the window, CSS px. */
export function columnAt({ anyWidth, page }: Pick<Slot, 'anyWidth' | 'page'>, windowWidth: number): number {
  if (anyWidth) return windowWidth;
  const { most, less = 0, toTheEdge = false } = columns[page];
  const room = toTheEdge ? windowWidth : windowWidth - (windowWidth <= PHONE_MOST ? 24 : 40);
  return Math.min(most, room) - less;
}

/** A slot as its page shows it. */
export interface Shown {
  /** CSS px of the page. */
  readonly width: number;
  readonly height: number;
  /** The part of the slot that is to be seen, slot px: the page cuts off the rest. */
  readonly part: Box;
  /** CSS px of the page that a slot px is drawn at. */
  readonly scale: { readonly x: number; readonly y: number };
}

const modeAt = (slot: Pick<Slot, 'tablet' | 'phone'>, windowWidth: number): ShownAt =>
  windowWidth <= PHONE_MOST ? slot.phone : windowWidth <= TABLET_MOST ? slot.tablet : { mode: 'scales' };

/** The frame that a page keeps for a slot in a window of a width, CSS px; null where it shows none. */
function frameAt(slot: Slot, windowWidth: number): { width: number; height: number } | null {
  const column = columnAt(slot, windowWidth);
  const at = modeAt(slot, windowWidth);
  switch (at.mode) {
    case 'hidden':
      return null;
    case 'size':
      return { width: Math.min(at.width, column), height: at.height };
    case 'height':
      return { width: column, height: at.height };
    case 'scales': {
      if (slot.anyWidth) return { width: column, height: slot.height };
      const width = Math.min(slot.shownWidth, column);
      return { width, height: (width * slot.height) / slot.width };
    }
  }
}

/** A part of a picture, its own px, and the px of its frame that one of those is drawn at. */
export type Fitted = Pick<Shown, 'part' | 'scale'>;

/**
 * What of a picture is seen in a frame, and how large. As CSS fits pictures (CSS Images Module Level 3, section 5.5):
 * `fills-…` is `cover`, `fits-within` `contain`, `stretches` `fill`, `top-left` `none`.
 */
export function fitted(picture: Size, frame: Size, fit: PageFit): Fitted {
  const [across, down] = [frame.width / picture.width, frame.height / picture.height];
  const whole: Box = { x: 0, y: 0, width: picture.width, height: picture.height };
  switch (fit) {
    case 'stretches':
      return { part: whole, scale: { x: across, y: down } };
    case 'fits-within': {
      const by = Math.min(across, down);
      return { part: whole, scale: { x: by, y: by } };
    }
    case 'top-left': {
      const width = Math.min(picture.width, frame.width);
      return { part: { ...whole, width, height: Math.min(picture.height, frame.height) }, scale: { x: 1, y: 1 } };
    }
    case 'fills-centre':
    case 'fills-top':
    case 'asks-crop': {
      const by = Math.max(across, down);
      const [width, height] = [frame.width / by, frame.height / by];
      const y = fit === 'fills-top' ? 0 : (picture.height - height) / 2;
      return { part: { x: (picture.width - width) / 2, y, width, height }, scale: { x: by, y: by } };
    }
  }
}

/** How a page shows a slot in a window of a width (CSS px): how large, which part of it, at which scale; null where it shows none. */
export function shownAt(slot: Slot, windowWidth: number): Shown | null {
  const frame = frameAt(slot, windowWidth);
  return frame && { ...frame, ...fitted({ width: slot.width, height: slot.height }, frame, slot.fit) };
}

/** The devices on which a slot is shown, and how; the widest first. */
export function shownOnDevices(slot: Slot): { readonly device: Device; readonly shown: Shown }[] {
  return devices.flatMap((device) => {
    const shown = shownAt(slot, windowWidth(slot, device));
    return shown ? [{ device, shown }] : [];
  });
}

/** How wide the window of a device is in which a slot is looked at, CSS px: at a desk wide enough to show it at its full width. */
export function windowWidth({ anyWidth, shownWidth }: Pick<Slot, 'anyWidth' | 'shownWidth'>, device: Device): number {
  if (device !== 'desktop' || anyWidth) return deviceWidths[device];
  return Math.max(deviceWidths.desktop, shownWidth + 64);
}

/**
 * The smallest scale (CSS px of the page per slot px) at which type on a slot is shown on any device: what is read there
 * is read everywhere, since WCAG asks more of small type than of large.
 */
export function smallestScale(slot: Slot): number {
  const scales = shownOnDevices(slot).map(({ shown }) => Math.min(shown.scale.x, shown.scale.y));
  return Math.min(slot.shownWidth / slot.width, ...scales);
}

/** The part of a slot, slot px, that its page shows on every device that shows it; null where there is none. */
export function seenEverywhere(slot: Slot): Box | null {
  return shownOnDevices(slot).reduce<Box | null>((all, { shown }) => all && intersection(all, shown.part), {
    x: 0,
    y: 0,
    width: slot.width,
    height: slot.height,
  });
}
