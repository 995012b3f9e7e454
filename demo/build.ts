// Writes what the demo brings as one file of data: `npx tsx demo/build.ts`.
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Demo } from '@bright-slot/core';
import { demo } from './src/index';

const folder = join(import.meta.dirname, '../dist/demo');
mkdirSync(folder, { recursive: true });
writeFileSync(join(folder, 'demo.json'), JSON.stringify(Demo.parse(demo), null, 1));
