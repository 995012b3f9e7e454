// Sees to it that Debian's Chromium and its driver are there.
import { existsSync } from 'node:fs';
import { run } from './prepare.mjs';

export function installBrowser() {
  if (existsSync('/usr/bin/chromium') && existsSync('/usr/bin/chromedriver')) return;
  console.log('Installing Chromium and its driver (Debian packages) …');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  };
  apt('update', '-qq');
  // procps: a test kills the browser without notice.
  apt('install', '-y', '-qq', 'chromium', 'chromium-driver', 'procps');
}
