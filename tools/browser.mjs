// Sees to it that the Debian packages of the tests are there: Chromium, its driver, nginx, Unicode's data.
import { existsSync } from 'node:fs';
import { run } from './prepare.mjs';

export function installDebianPackages() {
  const wanted = [
    '/usr/bin/chromium',
    '/usr/bin/chromedriver',
    '/usr/share/unicode/auxiliary/LineBreakTest.txt',
    '/usr/sbin/nginx',
    '/usr/bin/openssl',
  ];
  if (wanted.every((path) => existsSync(path))) return;
  console.log('Installing Chromium, its driver, nginx and Unicode’s data (Debian packages) …');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  };
  apt('update', '-qq');
  // procps: a test kills the browser without notice.
  apt('install', '-y', '-qq', 'chromium', 'chromium-driver', 'procps', 'unicode-data', 'nginx-light', 'openssl');
}
