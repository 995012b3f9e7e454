/** What went wrong, as a typed value: a code for the program and a sentence for the person. */
export interface Problem {
  readonly code: string;
  readonly message: string;
}

export type Result<T, P extends Problem = Problem> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: P };

/** Wraps a value as a success. */
export function good<T>(value: T): { readonly ok: true; readonly value: T } {
  return { ok: true, value };
}

/** Wraps a problem as a failure; `message` says what happened and what to do, in a shop owner's words. */
export function bad(code: string, message: string): { ok: false; problem: Problem } {
  return { ok: false, problem: { code, message } };
}
