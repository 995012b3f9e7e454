import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, chownSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';

/** A real server of Debian's, on this computer, with a folder that the test can look into. */
export interface Real {
  readonly port: number;
  /** What it holds. */
  readonly folder: string;
  stop(): Promise<void>;
}

/** What it takes: a name and a password that stand nowhere else. */
export const USER = 'otter';
export const PASSWORD = 'mill-stream-4711';

const { uid, username } = userInfo();
/** Servers that root starts work as this one. */
const WORKER = 33;

export function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(port));
    });
  });
}

/** A folder that the worker can reach, with `root` in it that it may write to. */
function place(name: string): { at: string; folder: string } {
  const at = mkdtempSync(join(tmpdir(), `bright-slot-${name}-`));
  const folder = join(at, 'root');
  mkdirSync(folder);
  chmodSync(at, 0o755);
  if (uid === 0) for (const f of [at, folder]) chownSync(f, WORKER, WORKER);
  return { at, folder };
}

const answers = (port: number) =>
  new Promise<boolean>((done) => {
    const socket = connect({ host: '127.0.0.1', port });
    socket.once('connect', () => {
      socket.destroy();
      done(true);
    });
    socket.once('error', () => done(false));
  });

async function running(child: ChildProcess, port: number, at: string, folder: string): Promise<Real> {
  let said = '';
  for (const s of [child.stdout, child.stderr]) s?.on('data', (d: Buffer) => (said += d.toString()));
  const gone = new Promise<void>((done) => child.once('exit', () => done()));
  for (let i = 0; !(await answers(port)); i++) {
    if (i > 200 || child.exitCode !== null) throw new Error(`The server does not start: ${said}`);
    await new Promise((go) => setTimeout(go, 50));
  }
  return {
    port,
    folder,
    async stop() {
      child.kill('SIGTERM');
      const hard = setTimeout(() => child.kill('SIGKILL'), 3000);
      await gone;
      clearTimeout(hard);
      rmSync(at, { recursive: true, force: true });
    },
  };
}

/** A certificate for `localhost` that signs itself, and its key. */
export function certificate(): { cert: string; key: string } {
  const at = mkdtempSync(join(tmpdir(), 'bright-slot-cert-'));
  const [cert, key] = [join(at, 'cert.pem'), join(at, 'key.pem')];
  // prettier-ignore
  execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-keyout', key, '-out', cert, '-days', '2',
    '-subj', '/CN=localhost', '-addext', 'subjectAltName=DNS:localhost,IP:127.0.0.1'], { stdio: 'ignore' });
  const both = { cert: readFileSync(cert, 'utf8'), key: readFileSync(key, 'utf8') };
  rmSync(at, { recursive: true });
  return both;
}

/** Apache with mod_dav: anyone reads, who signs in writes. `digest` asks for Digest (RFC 7616) instead of Basic. */
export async function apache({ tls = false, digest = false, pair = certificate() } = {}): Promise<Real> {
  const { at, folder } = place('dav');
  const port = await freePort();
  const modules =
    'mpm_event authn_core authn_file authz_core authz_user auth_basic auth_digest dav dav_fs mime dir ssl socache_shmcb';
  writeFileSync(join(at, 'cert.pem'), pair.cert);
  writeFileSync(join(at, 'key.pem'), pair.key, { mode: 0o600 });
  if (digest) {
    const ha1 = execFileSync('openssl', ['md5', '-r'], { input: `${USER}:files:${PASSWORD}` });
    writeFileSync(join(at, 'users'), `${USER}:files:${ha1.toString().slice(0, 32)}\n`);
  } else {
    const hash = execFileSync('openssl', ['passwd', '-apr1', PASSWORD]).toString().trim();
    writeFileSync(join(at, 'users'), `${USER}:${hash}\n`);
  }
  writeFileSync(
    join(at, 'apache.conf'),
    `ServerRoot ${at}
ServerName localhost
Listen 127.0.0.1:${port}
PidFile ${at}/pid
ErrorLog ${at}/error.log
${modules
  .split(' ')
  .map((m) => `LoadModule ${m}_module /usr/lib/apache2/modules/mod_${m}.so`)
  .join('\n')}
TypesConfig /dev/null
AddType image/png .png
AddType image/jpeg .jpg
AddType image/webp .webp
${uid === 0 ? 'User www-data\nGroup www-data' : ''}
DocumentRoot ${folder}
DavLockDB ${at}/lock
${tls ? `SSLEngine on\nSSLCertificateFile ${at}/cert.pem\nSSLCertificateKeyFile ${at}/key.pem` : ''}
<Directory ${folder}>
  Dav On
  AllowOverride None
  AuthType ${digest ? 'Digest' : 'Basic'}
  AuthName files
  AuthUserFile ${at}/users
  <LimitExcept GET HEAD>
    Require user ${USER}
  </LimitExcept>
</Directory>
`,
  );
  const child = spawn('/usr/sbin/apache2', ['-d', at, '-f', join(at, 'apache.conf'), '-DFOREGROUND']);
  return running(child, port, at, folder);
}

/** nginx with its plain WebDAV module, which knows neither PROPFIND nor conditions; the proxy before it is no part. */
export async function nginxDav(): Promise<Real> {
  const { at, folder } = place('nginx-dav');
  const port = await freePort();
  const hash = execFileSync('openssl', ['passwd', '-apr1', PASSWORD]).toString().trim();
  writeFileSync(join(at, 'users'), `${USER}:${hash}\n`);
  writeFileSync(
    join(at, 'nginx.conf'),
    `daemon off; pid ${at}/pid; error_log ${at}/error.log; ${uid === 0 ? 'user www-data;' : ''}
events {}
http {
  access_log off;
  types { image/png png; image/jpeg jpg; image/webp webp; }
  client_body_temp_path ${at}/body; proxy_temp_path ${at}/p; fastcgi_temp_path ${at}/f; uwsgi_temp_path ${at}/u; scgi_temp_path ${at}/s;
  server {
    listen 127.0.0.1:${port};
    root ${folder};
    client_max_body_size 64m;
    location / {
      dav_methods PUT DELETE MKCOL COPY MOVE;
      limit_except GET HEAD { auth_basic files; auth_basic_user_file ${at}/users; }
    }
  }
}
`,
  );
  return running(
    spawn('/usr/sbin/nginx', ['-c', join(at, 'nginx.conf'), '-e', join(at, 'error.log')]),
    port,
    at,
    folder,
  );
}

export interface RealSsh extends Real {
  readonly user: string;
  /** A private key that it lets in, PEM. */
  readonly key: string;
  /** Its host key's fingerprint, as `ssh-keygen` writes it. */
  readonly print: string;
}

/** OpenSSH, for files only; it lets in whoever runs the test, by a key made for it. */
export async function openSsh(): Promise<RealSsh> {
  const { at, folder } = place('ssh');
  const port = await freePort();
  const keygen = (file: string) =>
    execFileSync('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-C', 'test', '-f', join(at, file)]);
  keygen('host');
  keygen('user');
  writeFileSync(join(at, 'authorized'), readFileSync(join(at, 'user.pub')), { mode: 0o600 });
  if (uid === 0) {
    chownSync(join(at, 'authorized'), 0, 0);
    chownSync(at, 0, 0);
    mkdirSync('/run/sshd', { recursive: true });
  }
  writeFileSync(
    join(at, 'sshd.conf'),
    `Port ${port}
ListenAddress 127.0.0.1
HostKey ${at}/host
PidFile ${at}/pid
AuthorizedKeysFile ${at}/authorized
StrictModes no
UsePAM no
PasswordAuthentication yes
PermitRootLogin yes
MaxAuthTries 20
MaxStartups 200
Subsystem sftp internal-sftp
`,
  );
  const child = spawn('/usr/sbin/sshd', ['-D', '-e', '-f', join(at, 'sshd.conf')]);
  const real = await running(child, port, at, folder);
  const print = execFileSync('ssh-keygen', ['-l', '-f', join(at, 'host.pub')])
    .toString()
    .split(' ')[1]!;
  return { ...real, user: username, key: readFileSync(join(at, 'user'), 'utf8'), print };
}

/** Pure-FTPd with a user of its own: TLS or nothing, and no more than a number of MB. */
export async function pureFtpd({ tls = true, pair = certificate(), most = 5 } = {}): Promise<Real> {
  const { at, folder } = place('ftp');
  const port = await freePort();
  writeFileSync(join(at, 'both.pem'), pair.key + pair.cert, { mode: 0o600 });
  // Its own way to keep passwords takes seconds a sign-in, by intent; this one does not.
  const hash = execFileSync('openssl', ['passwd', '-6', PASSWORD]).toString().trim();
  const limits = `::::::${most * 2 ** 20}:::::`;
  writeFileSync(join(at, 'passwd'), `${USER}:${hash}:${WORKER}:${WORKER}::${folder}/./${limits}:\n`);
  execFileSync('pure-pw', ['mkdb', join(at, 'pdb'), '-f', join(at, 'passwd')]);
  const first = 42_000 + Math.floor(Math.random() * 20_000);
  // prettier-ignore
  const child = spawn('/usr/sbin/pure-ftpd', ['-S', `127.0.0.1,${port}`, '-l', `puredb:${join(at, 'pdb')}`, '-Y', tls ? '2' : '0',
    '-2', join(at, 'both.pem'), '-u', '1', '-p', `${first}:${first + 200}`, '-E', '-A', '-H', '-n', `1000:${most}`, '-g', join(at, 'pid'), '-4'],
    // A pipe would be taken for a super-server’s connection.
    { stdio: ['ignore', 'pipe', 'pipe'] });
  return running(child, port, at, folder);
}
