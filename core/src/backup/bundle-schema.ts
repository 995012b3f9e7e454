import * as z from 'zod';
import { StepNow } from '../graphic/history';
import { BroughtFont } from '../words/brought-font';
import { BackupAsset, BackupGraphic, Contents, entries } from './backup';

/** What the entries of a bundle hold, by their names: of lists, a line. */
const Bundle = z.object({
  [entries.contents]: Contents,
  [entries.graphics]: BackupGraphic,
  [entries.steps(0)]: StepNow,
  [entries.assets]: BackupAsset,
  [entries.fonts]: BroughtFont,
});

/** The JSON Schema (draft 2020-12) of a bundle's entries, made from the Zod ones. */
export function bundleSchema(): Record<string, unknown> {
  return {
    $id: 'bundle.schema.json',
    title: 'Bright Slot: a bundle of graphics',
    description: `A zip. Each property is one of its entries; of lists (.ndjson) it describes a line. Pictures and fonts stand beside them under the SHA-256 of their bytes. Lengths are CSS px of the canvas unless a field says otherwise.`,
    ...z.toJSONSchema(Bundle, { reused: 'ref' }),
  };
}
