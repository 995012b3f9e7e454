// Writes docs/fit-rules.md from the rules.
import { writeFileSync } from 'node:fs';
import * as prettier from 'prettier';
import { rulesTable } from '../core/src/report/table';

const path = new URL('../docs/fit-rules.md', import.meta.url).pathname;
writeFileSync(
  path,
  await prettier.format(rulesTable(), { ...(await prettier.resolveConfig(path)), parser: 'markdown' }),
);
