import { request as askHttp, type IncomingHttpHeaders, type IncomingMessage } from 'node:http';
import { request as askHttps } from 'node:https';
import { agents, type Reach } from './net';
import { told } from './told';

export interface Asking {
  readonly method?: string;
  readonly headers?: Record<string, string>;
  readonly body?: Buffer;
  readonly reach: Reach;
  readonly signal?: AbortSignal;
  /** ms without anything said. */
  readonly within?: number;
  readonly progress?: (sent: number) => void;
}

/** Asks one address by http or https, without going where it leads on to. */
export function ask(
  address: URL,
  { method = 'GET', headers = {}, body, reach, signal, within = 20_000, progress }: Asking,
): Promise<IncomingMessage> {
  return new Promise((resolve, reject) => {
    const { http, https } = agents(reach);
    const secure = address.protocol === 'https:';
    const sent = (secure ? askHttps : askHttp)(
      address,
      {
        method,
        agent: secure ? https : http,
        headers: {
          'User-Agent': 'Bright Slot',
          ...headers,
          ...(body ? { 'Content-Length': String(body.length) } : {}),
        },
        timeout: within,
        ...(signal ? { signal } : {}),
      },
      resolve,
    );
    sent.on('error', reject);
    sent.on('timeout', () => sent.destroy(Object.assign(new Error('slow'), { code: 'ETIMEDOUT' })));
    if (body) told(body, progress ?? (() => undefined)).pipe(sent);
    else sent.end();
  });
}

/** All of an answer; null where it is more than `most` bytes. */
export async function readAll(answer: IncomingMessage, most: number): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const part of answer as AsyncIterable<Buffer>) {
    length += part.length;
    if (length > most) {
      answer.destroy();
      return null;
    }
    parts.push(part);
  }
  return Buffer.concat(parts);
}

export interface Answer {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
  readonly bytes: Buffer;
  readonly address: URL;
}

/** An answer, whole, following where it leads within the reach; null where it leads on and on or is too large. */
export async function fetchWhole(from: URL, asking: Asking, most: number, hops = 4): Promise<Answer | null> {
  let address = from;
  for (let hop = 0; hop <= hops; hop++) {
    if (!/^https?:$/.test(address.protocol) || address.username || address.password) return null;
    const answer = await ask(address, asking);
    const { statusCode: status = 0, headers } = answer;
    if (status >= 300 && status < 400 && headers.location) {
      answer.destroy();
      address = new URL(headers.location, address);
      continue;
    }
    const bytes = await readAll(answer, most);
    return bytes && { status, headers, bytes, address };
  }
  return null;
}
