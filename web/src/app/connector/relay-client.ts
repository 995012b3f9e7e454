import { Injectable } from '@angular/core';
import {
  LookFacts,
  Refusal,
  RelayLine,
  bad,
  good,
  type Problem,
  type RelayAsk,
  type Result,
  type Secret,
  type WayIn,
} from '@bright-slot/core';

type Line<K extends RelayLine['at']> = Extract<RelayLine, { at: K }>;
export type RelayProblem = Problem & Partial<Omit<Line<'problem'>, 'code' | 'message'>>;
export type RelayDone = Line<'done'>;

export interface Found {
  readonly blob: Blob;
  readonly facts: LookFacts;
}

const away = bad('unreachable', 'Bright Slot’s server does not answer. Start it again; nothing here is lost.');
const stopped = bad('cancelled', 'It was called off.');
const unread = bad('site', 'The server answered in a way that could not be read. Reload the page.');

/** Asks our own server to speak to the person's site, since few sites let another page do so. */
@Injectable({ providedIn: 'root' })
export class RelayClient {
  /** Does what is asked; `line` hears what happens on the way. */
  async run(
    ask: Exclude<RelayAsk, { do: 'look' | 'read' }>,
    {
      file,
      signal,
      line,
    }: { file?: Blob | undefined; signal?: AbortSignal | undefined; line?: (line: RelayLine) => void } = {},
  ): Promise<Result<RelayDone, RelayProblem>> {
    try {
      const response = await this.post(ask, file, signal);
      if (!response.ok || !response.body) return await this.refused(response);
      let end: RelayLine | null = null;
      for await (const text of lines(response.body)) {
        const read = RelayLine.safeParse(JSON.parse(text));
        if (!read.success) return unread;
        end = read.data;
        line?.(end);
      }
      if (end?.at === 'done') return good(end);
      if (end?.at !== 'problem') return bad('cut-off', 'The answer broke off. Try again.');
      const { code, message, ...more } = end;
      return { ok: false, problem: { code, message, ...more } };
    } catch {
      return signal?.aborted ? stopped : away;
    }
  }

  /** What a visitor is shown at an address; `fresh` looks past caches. */
  look(address: string, ownNetwork: boolean, fresh: boolean, signal?: AbortSignal): Promise<Result<Found>> {
    return this.fetched({ do: 'look', address, ownNetwork, fresh }, signal);
  }

  /** A file's own bytes, which visitors may be shown otherwise. */
  read(way: WayIn, secret: Secret, name: string, signal?: AbortSignal): Promise<Result<Found>> {
    return this.fetched({ do: 'read', way, secret, name }, signal);
  }

  private async fetched(ask: RelayAsk, signal?: AbortSignal): Promise<Result<Found>> {
    try {
      const response = await this.post(ask, undefined, signal);
      if (!response.ok) return await this.refused(response);
      const facts = LookFacts.safeParse(JSON.parse(decodeURIComponent(response.headers.get('X-Look') ?? 'null')));
      return facts.success ? good({ blob: await response.blob(), facts: facts.data }) : unread;
    } catch {
      return signal?.aborted ? stopped : away;
    }
  }

  private post(ask: RelayAsk, file: Blob | undefined, signal: AbortSignal | undefined): Promise<Response> {
    const body = new FormData();
    body.set('ask', JSON.stringify(ask));
    if (file) body.set('file', file, 'file');
    return fetch('/api/relay', { method: 'POST', body, ...(signal ? { signal } : {}) });
  }

  private async refused(response: Response): Promise<{ ok: false; problem: Problem }> {
    const refusal = Refusal.safeParse(await response.json().catch(() => null));
    return refusal.success ? { ok: false, problem: refusal.data } : unread;
  }
}

/** Lines of a text that is still coming. */
async function* lines(body: ReadableStream<Uint8Array<ArrayBuffer>>): AsyncGenerator<string, void, void> {
  let rest = '';
  const reader = body.pipeThrough(new TextDecoderStream()).getReader();
  for (;;) {
    const { done, value } = await reader.read();
    const parts = (rest + (value ?? '')).split('\n');
    rest = parts.pop()!;
    for (const part of parts) if (part) yield part;
    if (done) break;
  }
  if (rest) yield rest;
}
