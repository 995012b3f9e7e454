// Types of everything but templates, which the app's build reads: one incremental `tsc -b` over all projects.
import { run } from './prepare.mjs';

run('npx', ['tsc', '-b']);
