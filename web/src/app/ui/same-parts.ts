/** Whether two lists hold the very same things: what a signal is made of, so that nothing follows from what is as it was. */
export const sameParts = <T extends readonly unknown[]>(a: T | null | undefined, b: T | null | undefined): boolean =>
  a === b || (!!a && !!b && a.every((v, i) => v === b[i]));
