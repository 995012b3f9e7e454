import type { Density } from '../slot/slot';

export const densities: readonly Density[] = [1, 2, 3];

/** Where a name says its density. */
const SAID = /(^|-)[123]x(?=[-.])/;

/** A file's name at a density: `header.jpg` at 1×, `header-2x.jpg` at 2×; one that says its density says this one. */
export function nameAt(name: string, density: number): string {
  if (SAID.test(name)) return name.replace(SAID, `$1${density}x`);
  if (density === 1) return name;
  const dot = name.lastIndexOf('.');
  return `${name.slice(0, dot)}-${density}x${name.slice(dot)}`;
}
