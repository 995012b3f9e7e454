import { Writable } from 'node:stream';
import { isIP } from 'node:net';
import { Client, FTPError } from 'basic-ftp';
import type { WayIn } from '@bright-slot/core';
import { addressWithin } from '../net';
import {
  MOST_FETCHED,
  WayProblem,
  asProblem,
  doer,
  nameTaken,
  refusedSignIn,
  type Entering,
  type Remote,
} from '../remote';
import { told } from '../told';

type Way = Extract<WayIn, { kind: 'ftp' }>;

/** What an FTP reply means (RFC 959, section 4.2). */
function ftpProblem(error: unknown, doing: string): unknown {
  if (!(error instanceof FTPError)) return asProblem(error);
  if (error.code === 530) return refusedSignIn();
  if (error.code === 452 || error.code === 552 || (error.code === 451 && /space|quota/i.test(error.message)))
    return new WayProblem('full', 'The site’s disk is full, or your share of it, so nothing was put there.');
  if (error.code === 421) return new WayProblem('busy', 'The site is busy. It is tried again in a moment.');
  if (error.code === 426) return new WayProblem('cut-off', 'The connection was cut. Nothing half stands there.');
  if ([500, 502, 504, 534].includes(error.code))
    return new WayProblem(
      'no-tls',
      'This server does not know TLS, so your password was not sent. Ask your host about SFTP.',
    );
  if (error.code === 550 || error.code === 553)
    return new WayProblem('forbidden', `The site signs you in but does not let you ${doing} in this folder.`);
  return new WayProblem('site', `The site answers ${error.code} when asked to ${doing}.`);
}

/** A folder by FTP with explicit TLS (RFC 4217), or without where that was asked for. */
export function ftp({ way, secret, reach, signal, patience }: Entering<Way>): Remote {
  // Files come and go over the host that was named, whatever the server says.
  const client = new Client(patience, { allowSeparateTransferHost: false });
  const stop = () => client.close();
  signal.addEventListener('abort', stop);
  const doing = doer(signal, ftpProblem);
  const names = () => doing('look', async () => (await client.list()).map((f) => f.name));

  return {
    async enter() {
      const host = await addressWithin(way.host, way.port, reach, patience);
      const known = isIP(way.host) ? { host: way.host } : { servername: way.host };
      await doing('sign in', () =>
        client.access({
          host,
          port: way.port,
          user: way.user,
          password: secret.password,
          secure: way.secure,
          ...(way.secure ? { secureOptions: { ...known, ...(reach.ca === undefined ? {} : { ca: reach.ca }) } } : {}),
        }),
      );
      if (!way.folder) return '';
      try {
        await client.cd(way.folder);
        return '';
      } catch (error) {
        if (!(error instanceof FTPError)) throw asProblem(error);
      }
      await doing('make folders', () => client.ensureDir(way.folder));
      return 'The folder was not there; it was made.';
    },
    names,
    async read(name) {
      if (!(await names()).includes(name)) return null;
      const parts: Buffer[] = [];
      let length = 0;
      const into = new Writable({
        write(part: Buffer, _encoding, done) {
          length += part.length;
          parts.push(part);
          done(length > MOST_FETCHED ? new Error('too large') : null);
        },
      });
      await doing('read', () => client.downloadTo(into, name));
      return Buffer.concat(parts);
    },
    async write(name, bytes, { part, over, progress }) {
      if (!over && (await names()).includes(name)) throw nameTaken(name);
      await doing('write', () => client.uploadFrom(told(bytes, progress), part));
      // FTP's renaming may write over another, so it is looked once more right before.
      if (!over && (await names()).includes(name)) {
        await client.remove(part).catch(() => undefined);
        throw nameTaken(name);
      }
      await doing('write', async () => {
        try {
          await client.rename(part, name);
        } catch (error) {
          // Some servers do not rename onto what is there.
          if (!over) throw error;
          await client.remove(name);
          await client.rename(part, name);
        }
      });
      return null;
    },
    remove: async (name) => {
      await doing('remove files', () => client.remove(name));
    },
    close() {
      signal.removeEventListener('abort', stop);
      client.close();
    },
  };
}
