/** Linear light 0…1 for each encoded sRGB byte. CSS Color 4, section 10.2 (`lin_sRGB`). */
export const linearOf: Float32Array = Float32Array.from({ length: 256 }, (_, i) => {
  const c = i / 255;
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
});

/** Encoded sRGB 0…1 from linear light 0…1. CSS Color 4, section 10.2 (`gam_sRGB`). */
export function encoded(linear: number): number {
  return linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;
}

/** The channels of a colour written `#rrggbb`, 0…255 each. */
export function channelsOf(hex: string): readonly [number, number, number] {
  const at = (i: number) => parseInt(hex.slice(i, i + 2), 16);
  return [at(1), at(3), at(5)];
}

/** `#rrggbb` of three channels, 0…255, whole. */
export const hexOfChannels = (channels: readonly number[]): string =>
  `#${channels.map((c) => c.toString(16).padStart(2, '0')).join('')}`;

const STEPS = 4096;
// Bytes are looked up on a square-root scale: fine where the encoding is steep, so the answer is never off by more than rounding at a boundary.
/** Encoded sRGB bytes over the square root of linear light, in 4096 steps. */
export const byteOfRoot: Uint8Array = Uint8Array.from({ length: STEPS + 1 }, (_, i) =>
  Math.round(encoded((i / STEPS) ** 2) * 255),
);

/** Encoded sRGB byte for linear light; values outside 0…1 are clamped. */
export function byteOf(linear: number): number {
  if (linear <= 0) return 0;
  if (linear >= 1) return 255;
  return byteOfRoot[(Math.sqrt(linear) * STEPS + 0.5) | 0]!;
}
