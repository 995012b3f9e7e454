import type { Problem, Result, SentPicture, Site } from '@bright-slot/core';

/** A problem of sending, and the next free name where one was taken. */
export type NotTaken = { ok: false; problem: Problem & { next?: string } };

/**
 * How pictures get to a site, and what the site says of itself. The stand-in that ships is one; a site of another make
 * is another.
 */
export interface Connector {
  /** The site: its pages, the slots on each, and what they show. Which slots there are is known nowhere else. */
  list(): Promise<Site>;
  /** Keeps a picture and its facts, neither of them trusted. Nothing shows it yet. */
  put(bytes: Uint8Array | undefined, facts: unknown): Promise<Result<SentPicture> | NotTaken>;
  /** Shows a picture that was sent for a slot there. Fails with `no-slot`, `no-picture`, `other-slot`. */
  show(slot: string, picture: string): Promise<Result<null>>;
  /** Shows pictures side by side, in their order, in a slot that shows several. Fails as `show` does, and with `no-row`. */
  showRow(slot: string, pictures: readonly string[]): Promise<Result<null>>;
  /** Takes down what a slot shows. Fails with `no-slot`. */
  withdraw(slot: string): Promise<Result<null>>;
}
