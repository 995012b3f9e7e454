import type { Slot } from './slot';

/** From the foot up: share of the slot's height, and of the darkening's strength. */
export const footStops = [
  { at: 0, share: 1 },
  { at: 0.45, share: 0.45 },
  { at: 0.85, share: 0 },
] as const;

/** The opacity (0…1) of the black that a page lays over its slot, so far up it (share of its height, 0 at the foot). */
export function darkeningAt({ darkening }: Pick<Slot, 'darkening'>, up: number): number {
  if (!darkening?.on) return 0;
  if (darkening.kind === 'all') return darkening.strength;
  const next = footStops.findIndex((stop) => stop.at > up);
  if (next <= 0) return next === 0 ? darkening.strength : 0;
  const [a, b] = [footStops[next - 1]!, footStops[next]!];
  return darkening.strength * (a.share + ((b.share - a.share) * (up - a.at)) / (b.at - a.at));
}

/** A slot with the page's darkening the other way; null where it cannot be switched. */
export function switchedDarkening<S extends Pick<Slot, 'darkening'>>(slot: S): S | null {
  const { darkening } = slot;
  return darkening?.switchable ? { ...slot, darkening: { ...darkening, on: !darkening.on } } : null;
}
