// Rebuilds the app as its sources change, and serves it.
import { spawn } from 'node:child_process';
import { build } from './build.mjs';
import { root } from './prepare.mjs';

await build();
spawn('npx', ['ng', 'build', 'web', '--configuration', 'development', '--watch'], { cwd: root, stdio: 'inherit' });
spawn('npx', ['tsx', 'watch', 'server/src/main.ts'], { cwd: root, stdio: 'inherit' });
