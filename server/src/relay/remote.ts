import type { OpenWay, Secret } from '@bright-slot/core';
import type { Reach } from './net';

/** What a site's way in does for us, in one sign-in. Everything is by a plain file name in its folder. */
export interface Remote {
  /** Signs in, and finds or makes the folder. Gives a word on what was done beside. */
  enter(): Promise<string>;
  /** The names there; null where this way cannot tell. */
  names(): Promise<string[] | null>;
  /** A file's bytes; null where there is none. Fails with `cannot` where this way reads nothing. */
  read(name: string): Promise<Buffer | null>;
  /**
   * Puts a file there whole or not at all: under `part` first, then moved, where the way can. With `over` it takes the
   * place of what is there, otherwise it fails with `name-taken` where something is. Gives its address where the site
   * says one.
   */
  write(name: string, bytes: Buffer, given: Writing): Promise<string | null>;
  /** Takes a file away; `address` is where visitors find it. Fails with `cannot` where this way removes nothing. */
  remove(name: string, address: string): Promise<void>;
  close(): Promise<void> | void;
}

export interface Writing {
  readonly part: string;
  readonly over: boolean;
  readonly progress: (sent: number) => void;
}

export interface Entering<W extends OpenWay = OpenWay> {
  readonly way: W;
  readonly secret: Secret;
  readonly reach: Reach;
  readonly signal: AbortSignal;
  /** So long the site may say nothing, ms. */
  readonly patience: number;
}

/** Most that is fetched of one file. */
export const MOST_FETCHED = 64 * 2 ** 20;

/** A problem at a site, with a sentence for the person. */
export class WayProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly more: { hostKey?: string; left?: string } = {},
  ) {
    super(message);
  }
}

export const nameTaken = (name: string) =>
  new WayProblem('name-taken', `There is a “${name}” already; nothing is written over. Take the next free name.`);

export const changedThere = (name: string) =>
  new WayProblem(
    'changed',
    `“${name}” was changed there since it was fetched, perhaps by someone else. Look at it, then send again.`,
  );

export const refusedSignIn = () =>
  new WayProblem(
    'sign-in',
    'The site did not take that name and password. Check both; some hosts have a password of its own for this.',
  );

const full = () =>
  new WayProblem('full', 'The site’s disk is full, so nothing was put there. Make room there, then send again.');

/** Does things at a site; what fails is told as the way in makes of it, unless it was called off. */
export const doer =
  (signal: AbortSignal, problemOf: (error: unknown, doing: string) => unknown) =>
  async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    signal.throwIfAborted();
    try {
      return await work();
    } catch (error) {
      signal.throwIfAborted();
      throw problemOf(error, what);
    }
  };

/** What an HTTP status says of something that was to be done. */
export function statusProblem(status: number, doing: string): WayProblem {
  if (status === 401) return refusedSignIn();
  if (status === 403)
    return new WayProblem('forbidden', `The site signs you in but does not let you ${doing} in this folder.`);
  if (status === 404 || status === 409 || status === 410)
    return new WayProblem('no-folder', 'There is no such folder on the site. Check the address.');
  if (status === 405 || status === 501)
    return new WayProblem('cannot', `This address does not let anyone ${doing}. Check that it is the right one.`);
  if (status === 413) return new WayProblem('too-heavy', 'The site takes no file as large as this one.');
  if (status === 415) return new WayProblem('type', 'The site takes no file of this kind.');
  if (status === 429 || status === 503)
    return new WayProblem('busy', 'The site is busy. It is tried again in a moment.');
  if (status === 507) return full();
  if (status >= 300 && status < 400)
    return new WayProblem('leads-on', 'That address leads on to another one. Type the one it leads to.');
  return new WayProblem('site', `The site answers ${status} when asked to ${doing}.`);
}

const byCode: Record<string, [string, string]> = {
  NOT_PUBLIC: [
    'not-public',
    'That name leads to this computer or its own network. If your site is there, tick “It is on my own network”.',
  ],
  NOT_NAMED: [
    'leads-on',
    'The site leads on to a host that you did not name. Type the address it leads to, if it is the right one.',
  ],
  ENOTFOUND: ['no-host', 'There is no host of that name. Check its spelling.'],
  EAI_AGAIN: ['unreachable', 'The name cannot be looked up just now. Check that you are online.'],
  ECONNREFUSED: ['unreachable', 'Nothing answers there. Check the host and the port.'],
  EHOSTUNREACH: ['unreachable', 'The host cannot be reached. Check that you are online.'],
  ENETUNREACH: ['unreachable', 'The host cannot be reached. Check that you are online.'],
  ETIMEDOUT: ['slow', 'The site said nothing for a long time. It may be busy; try again.'],
  ECONNRESET: ['cut-off', 'The connection was cut. Nothing half stands there.'],
  EPIPE: ['cut-off', 'The connection was cut. Nothing half stands there.'],
  ERR_STREAM_PREMATURE_CLOSE: ['cut-off', 'The connection was cut. Nothing half stands there.'],
  ENOSPC: ['full', full().message],
};

/** Any error of the net as a problem with a sentence. */
export function asProblem(error: unknown): WayProblem {
  if (error instanceof WayProblem) return error;
  let at: unknown = error;
  for (let depth = 0; at && depth < 5; depth++) {
    const { code, name, message } = at as { code?: unknown; name?: unknown; message?: unknown };
    if (name === 'AbortError') return new WayProblem('cancelled', 'It was called off.');
    const known = typeof code === 'string' ? byCode[code] : undefined;
    if (known) return new WayProblem(...known);
    if (typeof code === 'string' && /CERT|SELF_SIGNED|UNABLE_TO_VERIFY|ERR_TLS/.test(code))
      return new WayProblem(
        'certificate',
        code === 'ERR_TLS_CERT_ALTNAME_INVALID'
          ? 'The certificate there is for another host, so nothing was sent. Type the host as the certificate has it.'
          : code === 'CERT_HAS_EXPIRED'
            ? 'The certificate there has run out, so nothing was sent. Ask your host to renew it.'
            : 'The certificate there is signed by nobody known, so nothing was sent. Ask your host about it.',
      );
    if (typeof message === 'string' && /timed out|timeout/i.test(message))
      return new WayProblem(...byCode['ETIMEDOUT']!);
    if (
      typeof message === 'string' &&
      /socket hang up|closed|premature|reset|unexpected (end|close)|not connected|no response from server|connection lost/i.test(
        message,
      )
    )
      return new WayProblem('cut-off', byCode['ECONNRESET']![1]);
    at = (at as { cause?: unknown }).cause;
  }
  return new WayProblem('site', 'The site answered in a way that could not be read. Try again.');
}
