import type { Slot } from './slot';

/** A slot's name without the size that neutral names end in: “Menu tile 320 × 200” is “Menu tile”. */
export const withoutSize = (name: string): string => name.replace(/\s*\d+\s*×\s*\d+$/, '') || name;

/** The same slot worked at another size: zones, safe area and radius go along; what the page shows stays. CSS px. */
export function slotAtSize(slot: Slot, size: { readonly width: number; readonly height: number }): Slot {
  const x = size.width / slot.width;
  const y = size.height / slot.height;
  const zone = <T extends { x: number; y: number; width: number; height: number }>(b: T): T => ({
    ...b,
    x: b.x * x,
    y: b.y * y,
    width: b.width * x,
    height: b.height * y,
  });
  const { safe, shape } = slot;
  return {
    ...slot,
    ...size,
    covered: slot.covered.map(zone),
    shape: shape.kind === 'rounded' ? { ...shape, radius: shape.radius * Math.min(x, y) } : shape,
    safe:
      safe.kind === 'insets'
        ? { ...safe, top: safe.top * y, bottom: safe.bottom * y, left: safe.left * x, right: safe.right * x }
        : safe.kind === 'boxes'
          ? { ...safe, boxes: safe.boxes.map(zone) }
          : safe,
  };
}
