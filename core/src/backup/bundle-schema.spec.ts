import Ajv from 'ajv/dist/2020';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Graphic } from '../graphic/graphic';
import { anyLayers } from '../testing/any';
import { blank, everySlot, random, withLayers } from '../testing/samples';
import { bundleSchema } from './bundle-schema';
import { entries } from './backup';

const published = JSON.parse(
  readFileSync(join(import.meta.dirname, '../../../docs/bundle.schema.json'), 'utf8'),
) as object;

it('the published schema of a bundle is the current one', () => {
  // Made anew by `npx tsx tools/schemas.mjs`.
  expect(published).toEqual(JSON.parse(JSON.stringify(bundleSchema())));
});

it('graphics hold to it, by a validator that shares nothing with ours; what is none does not', () => {
  // Ajv, JSON Schema 2020-12.
  const ajv = new Ajv({ strict: false, validateFormats: false });
  ajv.addSchema(published);
  const line = ajv.compile({ $ref: `bundle.schema.json#/properties/${entries.steps(0).replaceAll('/', '~1')}` });
  const stepOf = (graphic: Graphic) => ({ id: 's', graphicId: graphic.id, parent: null, name: 'Made', at: 1, graphic });
  const r = random(18);
  const { layer } = anyLayers(r);
  const empty = everySlot.map((slot) => blank(slot.id));
  const full = Array.from({ length: 200 }, () => withLayers(blank(), layer('a'), layer('b', 'a'), layer('c')));
  for (const graphic of [...empty, ...full]) {
    const holds = line(JSON.parse(JSON.stringify(stepOf(graphic))));
    expect([graphic.id, holds, line.errors]).toEqual([graphic.id, true, null]);
  }
  expect(line(stepOf({ ...blank(), canvas: { width: -1, height: 5 } }))).toBe(false);
  expect(line({ ...stepOf(blank()), graphic: { layers: [] } })).toBe(false);
});
