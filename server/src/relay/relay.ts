import { createHash, randomBytes } from 'node:crypto';
import {
  finalAddress,
  hostOf,
  isNamedLocal,
  isOpen,
  mayUse,
  wayCan,
  type OpenWay,
  type RelayAsk,
  type RelayLine,
  type Secret,
  type TryStep,
  type WayIn,
} from '@bright-slot/core';
import { fetchWhole, type Answer } from './ask';
import { type Reach } from './net';
import { MOST_FETCHED, WayProblem, asProblem, changedThere, nameTaken, type Entering, type Remote } from './remote';
import { ftp } from './ways/ftp';
import { form, micropub } from './ways/posted';
import { sftp } from './ways/sftp';
import { webdav } from './ways/webdav';

export interface RelayOptions {
  /** Whether hosts on this computer and its own network may be named: only where it is the person's own computer. */
  readonly ownNetwork: boolean;
  /** Certificate authorities beside the usual ones, PEM. */
  readonly ca?: string;
  /** So long a site may say nothing, ms. */
  readonly patience?: number;
  readonly lookup?: Reach['lookup'];
}

type Tell = (line: RelayLine) => void;
type Doing<K extends RelayAsk['do']> = Extract<RelayAsk, { do: K }>;

/** A whole picture of two pixels, PNG: what a way in is tried with. */
const SPECIMEN = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAIAAAB7QOjdAAAACXBIWXMAAAPoAAAD6AG1e1JrAAAAD0lEQVQI12NYEqi/JFAfAAjtAkmXhRBuAAAAAElFTkSuQmCC',
  'base64',
);
const PATIENCE = 20_000;

const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

function remoteOf(entering: Entering): Remote {
  const { way } = entering;
  switch (way.kind) {
    case 'webdav':
      return webdav({ ...entering, way });
    case 'sftp':
      return sftp({ ...entering, way });
    case 'ftp':
      return ftp({ ...entering, way });
    case 'micropub':
      return micropub({ ...entering, way });
    case 'form':
      return form({ ...entering, way });
  }
}

/** Everything that is asked of a site, for one request each: nothing is kept beyond it. */
export class Relay {
  private readonly patience: number;

  constructor(private readonly options: RelayOptions) {
    this.patience = options.patience ?? PATIENCE;
  }

  /** `host` may lie on this computer's own network where it was named so. */
  private own(host: string, meant: boolean): string[] {
    return this.options.ownNetwork && (meant || isNamedLocal(host)) ? [host] : [];
  }

  private reachOf(way: OpenWay): Reach {
    const host = hostOf(way);
    return { hosts: [host], own: this.own(host, way.ownNetwork), ca: this.options.ca, lookup: this.options.lookup };
  }

  private open(ask: { way: WayIn }): OpenWay {
    if (!isOpen(ask.way)) throw new WayProblem('cannot', 'Files do not go there by themselves.');
    const allowed = mayUse(ask.way);
    if (!allowed.ok) throw new WayProblem(allowed.problem.code, allowed.problem.message);
    return allowed.value;
  }

  /** Signs in, does some work, and leaves again whatever happens. */
  private async within<T>(
    ask: { way: WayIn; secret: Secret },
    signal: AbortSignal,
    work: (remote: Remote, note: string) => Promise<T>,
  ): Promise<T> {
    const way = this.open(ask);
    const remote = remoteOf({ way, secret: ask.secret, reach: this.reachOf(way), signal, patience: this.patience });
    try {
      return await work(remote, await remote.enter());
    } finally {
      await remote.close();
    }
  }

  /** What a visitor is shown at an address; `fresh` goes past caches. */
  async look(address: string, ownNetwork: boolean, fresh: boolean, signal: AbortSignal): Promise<Answer> {
    const url = new URL(address);
    // A cache that heeds no request keeps what it has by its address.
    if (fresh) url.searchParams.set('fresh', randomBytes(4).toString('hex'));
    const found = await fetchWhole(
      url,
      {
        reach: {
          hosts: null,
          own: this.own(url.hostname, ownNetwork),
          ca: this.options.ca,
          lookup: this.options.lookup,
        },
        headers: { Accept: 'image/*,*/*;q=0.5', ...(fresh ? { 'Cache-Control': 'no-cache' } : {}) },
        within: this.patience,
        signal,
      },
      MOST_FETCHED,
    );
    if (!found) throw new WayProblem('site', 'That address leads on and on, or to more than 64 MB.');
    return found;
  }

  async try(ask: Doing<'try'>, tell: Tell, signal: AbortSignal): Promise<void> {
    let step: TryStep = 'signed-in';
    try {
      const way = this.open(ask);
      await this.within(ask, signal, async (remote, note) => {
        tell({ at: 'step', step, note });
        step = 'wrote';
        const word = randomBytes(4).toString('hex');
        const name = `bright-slot-test-${word}.png`;
        const told = await remote.write(name, SPECIMEN, {
          part: `bright-slot-test-${word}-part.png`,
          over: false,
          progress: () => undefined,
        });
        tell({ at: 'step', step, note: '' });
        const address = told ?? finalAddress(way, name)!;
        let problem: WayProblem | null = null;
        try {
          tell({ at: 'step', step: (step = 'read'), note: await this.readBack(way, address, signal) });
        } catch (error) {
          problem = asProblem(error);
        }
        // What was written is taken away even where no visitor can see it.
        try {
          await remote.remove(name, address);
        } catch (error) {
          const left = `The test file ${address} is still there; take it away by hand.`;
          if (problem) throw new WayProblem(problem.code, problem.message, { left });
          step = 'removed';
          const { code, message } = asProblem(error);
          throw new WayProblem(code, message, { left });
        }
        if (problem) throw problem;
        tell({ at: 'step', step: (step = 'removed'), note: '' });
        tell({ at: 'done' });
      });
    } catch (error) {
      const { code, message, more } = asProblem(error);
      tell({ at: 'problem', code, message, step, ...more });
    }
  }

  /** Reads the specimen as a visitor. Gives a word where it comes back changed. */
  private async readBack(way: OpenWay, address: string, signal: AbortSignal): Promise<string> {
    const { status, bytes, headers } = await this.look(address, way.ownNetwork, false, signal);
    if (status === 401 || status === 403)
      throw new WayProblem('not-shown', `Visitors are not let in at ${address} (${status}). Is that folder public?`);
    if (status !== 200)
      throw new WayProblem(
        'not-shown',
        `The file was written, but visitors find nothing at ${address} (${status}). Check “Visitors find it at”.`,
      );
    if (bytes.equals(SPECIMEN)) return '';
    if (/^image\//.test(headers['content-type'] ?? ''))
      return 'The site writes pictures anew: they may be softer there.';
    throw new WayProblem('not-shown', `Visitors are shown something else at ${address}. Check “Visitors find it at”.`);
  }

  async names(ask: Doing<'names'>, signal: AbortSignal): Promise<string[] | null> {
    return this.within(ask, signal, (remote) => remote.names());
  }

  /** A file as it is kept there, its bytes untouched; 404 where there is none. */
  async read(ask: Doing<'read'>, signal: AbortSignal): Promise<Answer> {
    const bytes = await this.within(ask, signal, (remote) => remote.read(ask.name));
    const address = new URL(finalAddress(ask.way, ask.name)!);
    return { status: bytes ? 200 : 404, headers: {}, bytes: bytes ?? Buffer.alloc(0), address };
  }

  /** Sends a file, whole or not at all. Gives its address. */
  async send(ask: Doing<'send'>, bytes: Buffer, tell: Tell, signal: AbortSignal): Promise<string> {
    const stopped = new AbortController();
    let still: NodeJS.Timeout | undefined;
    const moved = () => {
      clearTimeout(still);
      still = setTimeout(
        () =>
          stopped.abort(new WayProblem('slow', 'The site took nothing for a long time. It may be busy; try again.')),
        2 * this.patience,
      );
    };
    const either = AbortSignal.any([signal, stopped.signal]);
    const dot = ask.name.lastIndexOf('.');
    const part = `${ask.name.slice(0, dot)}-${ask.token.slice(0, 12)}-part${ask.name.slice(dot)}`;
    moved();
    try {
      const said = await this.within(ask, either, async (remote) => {
        if (ask.over !== null) await this.unchanged(remote, ask.name, ask.over);
        let told = 0;
        const where = await remote.write(ask.name, bytes, {
          part,
          over: ask.over !== null,
          progress: (sent) => {
            moved();
            if (sent - told < bytes.length / 50 && sent < bytes.length) return;
            told = sent;
            tell({ at: 'progress', sent, total: bytes.length });
          },
        });
        if (wayCan(ask.way).list) await this.ours(remote, ask.name, bytes);
        return where;
      });
      return said ?? finalAddress(ask.way, ask.name)!;
    } catch (error) {
      const problem = asProblem(stopped.signal.aborted ? stopped.signal.reason : error);
      // Nothing of it is left there, where the site can still be spoken to.
      if (problem.code === 'cancelled' || problem.code === 'full' || problem.code === 'cut-off')
        await this.within(ask, AbortSignal.timeout(this.patience), (remote) => remote.remove(part, '')).catch(
          () => undefined,
        );
      throw problem;
    } finally {
      clearTimeout(still);
    }
  }

  /**
   * Fails where something else stands there than what was just put: few servers look and rename in one step, so that of
   * two who send at one moment the later may have taken the earlier's place. Who may not read is believed.
   */
  private async ours(remote: Remote, name: string, bytes: Buffer): Promise<void> {
    const there = await remote.read(name).catch(() => null);
    if (there && !there.equals(bytes)) throw nameTaken(name);
  }

  /** Fails where a file is not the one that was fetched and kept. */
  private async unchanged(remote: Remote, name: string, digest: string): Promise<void> {
    const there = await remote.read(name);
    if (there && sha256(there) !== digest) throw changedThere(name);
  }

  async remove(ask: Doing<'remove'>, signal: AbortSignal): Promise<void> {
    await this.within(ask, signal, (remote) => remote.remove(ask.name, ask.address));
  }
}
