import type { Database } from '../database';
import { HistoryStore } from '../history-store';
import { allUsed, editionUses, setUses } from '../used';

/** What a bringing back has written so far stands under this in the settings, until all of it is there. */
const MARK = 'bringing-back/';

export type BroughtKind =
  'asset' | 'font' | 'graphic' | 'slot' | 'set' | 'collection' | 'tiles' | 'edition' | 'site' | 'page' | 'sent';

/** The settings record that notes one thing brought in; written in the same transaction as the thing. */
export const mark = (kind: BroughtKind, key: string) => ({ key: `${MARK}${kind}/${key}`, value: key });

const marks = (db: Database) => db.settings.where('key').startsWith(MARK);

/** All that was brought is there: it stays. */
export async function settleBringing(db: Database): Promise<void> {
  await marks(db).delete();
}

/** Takes back what a bringing back that did not come to its end had written. Gives whether there was any. */
export async function undoBringing(db: Database): Promise<boolean> {
  const begun = await marks(db).toArray();
  if (!begun.length) return false;
  const keysOf = (kind: BroughtKind) =>
    begun.filter((r) => r.key.startsWith(`${MARK}${kind}/`)).map((r) => String(r.value));
  const { assets, fonts, graphics, slots, sets, collections, tileSets, editions, sites, settings, ownPages, sent } = db;
  const histories = new HistoryStore(db);
  const tables = [
    assets,
    fonts,
    graphics,
    slots,
    sets,
    collections,
    tileSets,
    editions,
    sites,
    settings,
    ownPages,
    sent,
    ...histories.tables,
  ];
  await db.transaction('rw', tables, async () => {
    // First, since what is marked counts as used.
    await settings.bulkDelete(begun.map((r) => r.key));
    await slots.bulkDelete(keysOf('slot'));
    await sets.bulkDelete(keysOf('set'));
    await collections.bulkDelete(keysOf('collection'));
    await tileSets.bulkDelete(keysOf('tiles'));
    await editions.bulkDelete(keysOf('edition'));
    await histories.remove([...keysOf('tiles').map(setUses), ...keysOf('edition').map(editionUses)]);
    await sites.bulkDelete(keysOf('site'));
    await ownPages.bulkDelete(keysOf('page'));
    await sent.bulkDelete(keysOf('sent'));
    // One that was opened since may have been worked on.
    const opened = new Set((await graphics.bulkGet(keysOf('graphic'))).flatMap((g) => (g?.writer ? [g.id] : [])));
    const ids = keysOf('graphic').filter((id) => !opened.has(id));
    await graphics.bulkDelete(ids);
    await histories.remove(ids);
    // What someone put into a graphic of their own meanwhile stays.
    const brought = (await fonts.bulkGet(keysOf('font'))).filter((f) => f !== undefined);
    const used = await allUsed(db);
    await assets.bulkDelete(keysOf('asset').filter((hash) => !used.hash(hash)));
    await fonts.bulkDelete(brought.filter((f) => !used.family(f.family)).map((f) => f.hash));
  });
  return true;
}

/** The lock that whoever brings back holds, in any tab. */
export const BRINGING = 'bright-slot-bringing-back';
