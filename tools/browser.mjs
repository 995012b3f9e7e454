// Sees to it that the Debian packages of the tests are there: Chromium, its driver, Unicode's data, and the servers that
// stand for a person's own site (nginx, Apache, OpenSSH, Pure-FTPd), and readers of files that we did not write.
import { existsSync } from 'node:fs';
import { run } from './prepare.mjs';

export function installDebianPackages() {
  const wanted = [
    '/usr/bin/chromium',
    '/usr/bin/chromedriver',
    '/usr/share/unicode/auxiliary/LineBreakTest.txt',
    '/usr/sbin/nginx',
    '/usr/bin/openssl',
    '/usr/sbin/apache2',
    '/usr/sbin/sshd',
    '/usr/sbin/pure-ftpd',
    '/usr/bin/exiftool',
    '/usr/bin/pngcheck',
    '/usr/bin/jpeginfo',
    '/usr/bin/unzip',
  ];
  if (wanted.every((path) => existsSync(path))) return;
  console.log(
    'Installing Chromium, its driver, Unicode’s data, servers and readers of files to test against (Debian packages) …',
  );
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  };
  apt('update', '-qq');
  // procps: a test kills the browser without notice.
  const browser = ['chromium', 'chromium-driver', 'procps', 'unicode-data'];
  const servers = ['nginx-light', 'apache2-bin', 'openssh-server', 'pure-ftpd', 'openssl'];
  const readers = ['libimage-exiftool-perl', 'pngcheck', 'jpeginfo', 'unzip'];
  apt('install', '-y', '-qq', ...browser, ...servers, ...readers);
}
