/** A number held between two ends; where the ends have changed places, the lower one is the first that is given. */
export const clamp = (n: number, least: number, most: number): number =>
  Math.min(Math.max(n, least), Math.max(least, most));
