// Writes the published JSON Schema of the slot book, made from core's Zod one: `npx tsx tools/slot-schema.mjs`.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { slotFileSchema } from '../core/src/slot/book.ts';
import { root } from './prepare.mjs';

writeFileSync(join(root, 'docs/slot-book.schema.json'), `${JSON.stringify(slotFileSchema(), null, 2)}\n`);
