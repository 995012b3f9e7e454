// Writes the published JSON Schemas, made from core's Zod ones: `npx tsx tools/schemas.mjs`.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundleSchema } from '../core/src/backup/bundle-schema.ts';
import { slotFileSchema } from '../core/src/slot/book.ts';
import { root } from './prepare.mjs';

const publish = (name, schema) =>
  writeFileSync(join(root, 'docs', `${name}.schema.json`), `${JSON.stringify(schema, null, 2)}\n`);

publish('slot-book', slotFileSchema());
publish('bundle', bundleSchema());
