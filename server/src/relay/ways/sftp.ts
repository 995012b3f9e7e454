import { createHash } from 'node:crypto';
import SftpClient from 'ssh2-sftp-client';
import type { WayIn } from '@bright-slot/core';
import { connectWithin } from '../net';
import { WayProblem, asProblem, doer, nameTaken, refusedSignIn, type Entering, type Remote } from '../remote';
import { told } from '../told';

type Way = Extract<WayIn, { kind: 'sftp' }>;

/** A host key's fingerprint as OpenSSH writes it: SHA-256, base64 without padding (RFC 7479 does so for DNS). */
export const fingerprint = (key: Buffer): string =>
  `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`;

/** What an SFTP server's failure means (draft-ietf-secsh-filexfer-02, section 7), by status or by its words. */
function sftpProblem(error: unknown, doing: string): unknown {
  const { code, message = '' } = error as { code?: unknown; message?: string };
  if (code === 3 || /permission denied/i.test(message))
    return new WayProblem('forbidden', `The site signs you in but does not let you ${doing} in this folder.`);
  if (code === 2 || code === 'ENOENT' || /no such file/i.test(message))
    return new WayProblem('no-folder', 'There is no such folder on the site. Check its name.');
  if (/authentication methods failed|Permission denied \(/i.test(message)) return refusedSignIn();
  // OpenSSH says no more of a full disk than “Failure”.
  if (code === 4 || /: Failure/i.test(message))
    return new WayProblem('full', `The site could not ${doing}: its disk may be full, or you have used your share.`);
  if (/Cannot parse privateKey|Unsupported key format|passphrase/i.test(message))
    return new WayProblem('key', 'That private key cannot be opened. Check the key, and the passphrase it has.');
  return asProblem(error);
}

/** A folder by SFTP. The host's key is the one that was pinned, or nothing is said to it. */
export function sftp({ way, secret, reach, signal, patience }: Entering<Way>): Remote {
  // Without listeners of its own it would write errors to the console; they come as what it was asked fails.
  const quiet = () => undefined;
  const client = new SftpClient('sftp', { error: quiet, end: quiet, close: quiet });
  let seen = '';
  const stop = () => void client.end().catch(() => undefined);
  signal.addEventListener('abort', stop);
  const folder = way.folder.replace(/\/+$/, '');
  const path = (name: string) => (folder || way.folder ? `${folder}/${name}` : name);
  const doing = doer(signal, sftpProblem);

  return {
    async enter() {
      const sock = await connectWithin(way.host, way.port, reach, patience);
      try {
        await client.connect({
          sock,
          username: way.user,
          readyTimeout: patience,
          ...(secret.key
            ? { privateKey: secret.key, ...(secret.password ? { passphrase: secret.password } : {}) }
            : { password: secret.password }),
          hostVerifier: (key: Buffer) => (seen = fingerprint(key)) === way.hostKey,
        });
      } catch (error) {
        sock.destroy();
        signal.throwIfAborted();
        if (seen && way.hostKey === null)
          throw new WayProblem(
            'host-key',
            'This server is met for the first time. Compare its key with what your host tells you, then agree to it.',
            { hostKey: seen },
          );
        if (seen && seen !== way.hostKey)
          throw new WayProblem(
            'host-key-changed',
            'The server shows another key than before, so nothing was sent. Ask your host whether it was changed; only then agree to the new one.',
            { hostKey: seen },
          );
        throw sftpProblem(error, 'sign in');
      }
      return doing('make folders', async () => {
        if (!folder || (await client.exists(folder))) return '';
        await client.mkdir(folder, true);
        return 'The folder was not there; it was made.';
      });
    },
    names: () => doing('look', async () => (await client.list(folder || '.')).map((f) => f.name)),
    read: (name) =>
      doing('read', async () =>
        (await client.exists(path(name))) ? ((await client.get(path(name))) as Buffer) : null,
      ),
    async write(name, bytes, { part, over, progress }) {
      const taken = async () => !over && (await doing('look', () => client.exists(path(name))));
      if (await taken()) throw nameTaken(name);
      await doing('write', () => client.put(told(bytes, progress), path(part)));
      await doing('write', async () => {
        if (!over) return client.rename(path(part), path(name));
        // Takes the other's place in one step, where the server can (posix-rename@openssh.com).
        return client.posixRename(path(part), path(name)).catch(async () => {
          await client.delete(path(name), true);
          return client.rename(path(part), path(name));
        });
      }).catch(async (error: unknown) => {
        await client.delete(path(part), true).catch(() => undefined);
        // Another came first.
        throw (await taken().catch(() => false)) ? nameTaken(name) : error;
      });
      return null;
    },
    remove: async (name) => {
      await doing('remove files', () => client.delete(path(name), true));
    },
    async close() {
      signal.removeEventListener('abort', stop);
      await client.end().catch(() => undefined);
    },
  };
}
