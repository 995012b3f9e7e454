import { AuthType, createClient, type ResponseDataDetailed, type WebDAVClient } from 'webdav';
import { asFolder, type WayIn } from '@bright-slot/core';
import { agents } from '../net';
import { told } from '../told';
import { changedThere, nameTaken, statusProblem, type Entering, type Remote } from '../remote';

type Way = Extract<WayIn, { kind: 'webdav' }>;

const statusOf = (error: unknown): number | null => {
  const { status } = error as { status?: unknown };
  return typeof status === 'number' ? status : null;
};
/** What a server says that does not know a method (RFC 9110, 15.5.6 and 15.6.2), or lets nobody use it. */
const unknown = (error: unknown) => [400, 405, 501, 502].includes(statusOf(error) ?? 0);

/** A folder by WebDAV (RFC 4918). A file is PUT under another name, then MOVEd with `Overwrite`. */
export function webdav({ way, secret, reach, signal }: Entering<Way>): Remote {
  const { http, https } = agents(reach);
  const clientAt = (address: string): WebDAVClient =>
    createClient(address, {
      httpAgent: http,
      httpsAgent: https,
      ...(way.user
        ? { authType: AuthType.Auto, username: way.user, password: secret.password }
        : secret.password
          ? { authType: AuthType.Token, token: { access_token: secret.password, token_type: 'Bearer' } }
          : { authType: AuthType.None }),
    });
  const client = clientAt(way.address);
  /** The folder, made in the one above it. */
  const makeFolder = () => {
    const url = new URL(way.address);
    const parts = url.pathname.split('/').filter(Boolean);
    const last = decodeURIComponent(parts.pop() ?? '');
    url.pathname = `/${parts.join('/')}`;
    return clientAt(url.href).createDirectory(`/${last}`, { signal });
  };
  const doing = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      const status = statusOf(error);
      throw status === null ? error : statusProblem(status, what);
    }
  };
  /** Null where the server says that there is no such thing. */
  const there = async <T>(work: () => Promise<T>): Promise<T | null> => {
    try {
      return await work();
    } catch (error) {
      if (statusOf(error) === 404) return null;
      throw error;
    }
  };
  /** What was read, by the mark the server gives it, so that nothing else is written over (RFC 4918, section 10.4). */
  const marks = new Map<string, string>();
  const path = (name: string) => `/${name}`;
  const head = (name: string) => there(() => client.customRequest(path(name), { method: 'HEAD', signal }));
  const put = (name: string, bytes: Buffer, progress: (sent: number) => void, overwrite: boolean) =>
    doing('write', () =>
      client.putFileContents(path(name), told(bytes, progress), {
        overwrite,
        signal,
        headers: { 'Content-Length': String(bytes.length) },
      }),
    );
  /** Fails with the status where it was not done, also where that stands in a multi-status (RFC 4918, section 13). */
  const move = async (from: string, to: string, over: boolean) => {
    const address = new URL(encodeURIComponent(to), asFolder(way.address)).href;
    const mark = over ? marks.get(to) : undefined;
    const answer = await client.customRequest(path(from), {
      method: 'MOVE',
      signal,
      headers: {
        Destination: address,
        Overwrite: over ? 'T' : 'F',
        ...(mark ? { If: `<${address}> ([${mark}])` } : {}),
      },
    });
    if (answer.status !== 207) return;
    const failed = /HTTP\/1\.\d ([345]\d\d)/.exec(await answer.text())?.[1];
    if (failed) throw Object.assign(new Error('not moved'), { status: Number(failed) });
  };
  const remove = (name: string) =>
    there(() => client.deleteFile(path(name), { signal })).catch((error: unknown) => {
      throw statusOf(error) === null ? error : statusProblem(statusOf(error)!, 'remove files');
    });

  return {
    async enter() {
      return doing('look', async () => {
        try {
          await client.stat('/', { signal });
          return '';
        } catch (error) {
          // A server without PROPFIND: whether it lets anyone in is seen as it writes.
          if (unknown(error) && (await head('').catch(() => true))) return '';
          if (!unknown(error) && statusOf(error) !== 404) throw error;
        }
        await makeFolder();
        return 'The folder was not there; it was made.';
      });
    },
    async names() {
      try {
        const all = await client.getDirectoryContents('/', { signal });
        return all.map((f) => f.basename);
      } catch (error) {
        if (unknown(error)) return null;
        const status = statusOf(error);
        throw status === null ? error : statusProblem(status, 'look');
      }
    },
    async read(name) {
      return doing('read', () =>
        there(async () => {
          const got = await client.getFileContents(path(name), { format: 'binary', details: true, signal });
          const { data, headers } = got as ResponseDataDetailed<Buffer>;
          const etag = headers['etag'];
          if (etag && !etag.startsWith('W/')) marks.set(name, etag);
          return data;
        }),
      );
    },
    async write(name, bytes, { part, over, progress }) {
      // Some servers know no condition, so it is looked as well.
      if (!over && (await doing('look', () => head(name)))) throw nameTaken(name);
      await put(part, bytes, progress, true);
      try {
        await move(part, name, over);
        return null;
      } catch (error) {
        await remove(part).catch(() => undefined);
        if (statusOf(error) === 412) throw over ? changedThere(name) : nameTaken(name);
        if (!unknown(error)) throw statusOf(error) === null ? error : statusProblem(statusOf(error)!, 'write');
      }
      // A server without MOVE: straight under its name, and away again where that breaks off.
      try {
        if (!(await put(name, bytes, progress, over))) throw nameTaken(name);
      } catch (error) {
        if (!over && (error as { code?: unknown }).code !== 'name-taken') await remove(name).catch(() => undefined);
        throw error;
      }
      return null;
    },
    async remove(name) {
      await remove(name);
    },
    close: () => undefined,
  };
}
