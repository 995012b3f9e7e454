import type { Problem } from '@bright-slot/core';

/** A problem of ours, thrown where a transaction has to end because of it. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
  }
}

const said = {
  change: {
    full: 'The browser has no room left, so the last change is not saved. Free some space or delete graphics; your work stays open here.',
    other: (why: string) =>
      `The browser could not store the last change (${why}). Your work stays open here; try again or save a file.`,
  },
  'bring-back': {
    full: 'The browser has no room for all that the file holds, so nothing was brought in. Free some space, or delete graphics, and try again.',
    other: (why: string) =>
      `The browser could not store what the file holds (${why}); nothing was brought in. Try again.`,
  },
  pack: {
    full: 'The browser has no room left to put the file together. Free some space on this computer and try again.',
    other: (why: string) => `The file could not be put together (${why}). Try again; nothing here was changed.`,
  },
  delete: {
    full: 'The browser has no room left, not even to note that a graphic is deleted.',
    other: (why: string) => `The browser could not delete it (${why}). Try again.`,
  },
} as const;

/** Turns what storage threw into a sentence for the person; `what` was being done. */
export function storageProblem(error: unknown, what: keyof typeof said = 'change'): Problem {
  if (error instanceof Refused) return error.problem;
  const { name = '', inner } = (error ?? {}) as { name?: string; inner?: { name?: string } };
  // Dexie wraps what a transaction threw.
  if (inner instanceof Refused) return inner.problem;
  if (name === 'QuotaExceededError' || inner?.name === 'QuotaExceededError')
    return { code: 'disk-full', message: said[what].full };
  return { code: 'storage', message: said[what].other(name || 'unknown reason') };
}
