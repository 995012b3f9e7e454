import {
  pictureFormats,
  BackupAsset,
  HouseStyle,
  MOST_BYTES,
  MOST_FONT_BYTES,
  OwnPage,
  SLOT_VERSION,
  SentFile,
  SiteRecord,
  Collection,
  SlotSet,
  Slot,
  calledIn,
  entries,
  familyNamed,
  fontKind,
  good,
  identify,
  isNewer,
  linesIn,
  planSteps,
  plainHouseStyle,
  plannedStep,
  readContents,
  readFontLine,
  readGraphicLine,
  readEdition,
  readStep,
  readTileSet,
  slotsIn,
  slotsToAdd,
  valueOf,
  type BackupGraphic,
  type BackupHead,
  type Result,
  type Step,
  type StepsPlan,
  type Stored,
} from '@bright-slot/core';
import { LRUCache } from 'lru-cache';
import { HistoryStore } from '../history-store';
import type * as z from 'zod';
import { mark, settleBringing, undoBringing } from './bringing';
import { database, type AssetRecord, type Database } from '../database';
import { readable } from '../readable';
import { routineLists } from '../routine-lists';
import { storageProblem } from '../storage-problem';
import { sha256 } from '../hash';
import { editionUses, putUses, setUses } from '../used';
import { EntryRefused, openZip, type OpenZip } from './zip';
import type { BroughtBack } from './messages';

/** How many steps are written at once. */
const AT_ONCE = 40;
/** How many steps that were written are kept, for those that follow them to be written as patches. */
const KEPT = 200;
/** Most bytes of a list that version 1 held whole. */
const MOST_CONTENTS = 64 * 2 ** 20;
const MOST_STEPS_OF_OLD = 512 * 2 ** 20;
/** How many names of what was left out are kept; more are only counted. */
const MOST_NAMED = 200;

/** The values of an entry of lines, or of a list that stands in the contents. */
async function* listed(zip: OpenZip, entry: string, old: readonly unknown[] | undefined) {
  if (old) for (const value of old) yield await Promise.resolve(value);
  else for await (const line of linesIn(zip.pieces(entry))) yield valueOf(line);
}

/** A graphic's steps as they stand in the zip: lines, or version 1's array. */
async function* stepsIn(zip: OpenZip, record: BackupGraphic): AsyncGenerator<unknown, void, void> {
  if (record.entry.endsWith('.ndjson')) {
    for await (const line of linesIn(zip.pieces(record.entry))) yield valueOf(line);
    return;
  }
  const bytes = await zip.bytes(record.entry, MOST_STEPS_OF_OLD);
  const value = valueOf(bytes && new TextDecoder().decode(bytes));
  if (Array.isArray(value)) yield* value as unknown[];
}

/** The same, with a digest over all that was seen: the same content gives the same ids for a copy. */
function digested(values: AsyncIterable<unknown>) {
  let digest = '';
  return {
    digest: () => digest,
    values: (async function* () {
      for await (const value of values) {
        digest = await sha256(new TextEncoder().encode(digest + (JSON.stringify(value) ?? '')));
        yield value;
      }
    })(),
  };
}

/** Whether a graphic stands here with every step the zip has of it. */
async function isHere(
  db: Database,
  histories: HistoryStore,
  zip: OpenZip,
  record: BackupGraphic,
  plan: StepsPlan,
): Promise<boolean> {
  const here = await db.graphics.get(record.id);
  if (!here || here.deleted !== undefined || here.head !== plan.head) return false;
  for await (const value of stepsIn(zip, record)) {
    const step = readStep(value);
    if (!step || !plan.parents.has(step.id)) continue;
    const own = await histories.step(step.id);
    if (!own || JSON.stringify(own.graphic) !== JSON.stringify(step.graphic)) return false;
  }
  return true;
}

/** What was brought in so far, and what was not. */
interface Tally {
  graphics: number;
  same: number;
  pictures: number;
  left: string[];
  more: number;
}

class Bringing {
  private readonly histories: HistoryStore;
  readonly tally: Tally = { graphics: 0, same: 0, pictures: 0, left: [], more: 0 };

  constructor(
    private readonly db: Database,
    private readonly zip: OpenZip,
    private readonly head: BackupHead,
    /** Told how many bytes of the zip were dealt with. */
    private readonly moved: (bytes: number) => void,
  ) {
    this.histories = new HistoryStore(db);
  }

  private leave(what: string): void {
    if (this.tally.left.length < MOST_NAMED) this.tally.left.push(what);
    else this.tally.more++;
  }

  /** Goes through a list; one that is damaged in its middle gives what stands before that. */
  private async through(
    list:
      | 'graphics'
      | 'assets'
      | 'slots'
      | 'fonts'
      | 'sets'
      | 'collections'
      | 'tileSets'
      | 'editions'
      | 'sites'
      | 'ownPages'
      | 'exportRoutines'
      | 'routines'
      | 'sent',
    take: (value: unknown) => Promise<void>,
  ) {
    try {
      for await (const value of listed(
        this.zip,
        entries[list],
        list === 'graphics' || list === 'assets' || list === 'slots' || list === 'fonts'
          ? this.head.old?.[list]
          : undefined,
      ))
        await take(value);
    } catch (error) {
      if (!(error instanceof EntryRefused)) throw error;
      const called = {
        assets: 'pictures',
        ownPages: 'pages',
        sent: 'files that were sent',
        exportRoutines: 'routines',
      };
      this.leave(`the rest of the list of ${list in called ? called[list as keyof typeof called] : list}`);
    }
  }

  async pictures(): Promise<void> {
    const { db, zip } = this;
    await this.through('assets', async (value) => {
      const read = BackupAsset.safeParse(value);
      const called = `the picture ${calledIn(value, 'without a name')}`;
      if (!read.success) return this.leave(called);
      const facts = read.data;
      this.moved(zip.packed(entries.asset(facts.hash)));
      if (await db.assets.where('hash').equals(facts.hash).count()) return;
      const bytes = await zip.bytes(entries.asset(facts.hash), MOST_BYTES);
      const told = bytes && identify(bytes, facts.name);
      const sound = bytes && told?.ok && told.value.type === facts.type && (await sha256(bytes)) === facts.hash;
      if (!sound) return this.leave(called);
      const asset: AssetRecord = {
        ...facts,
        silhouette: facts.silhouette && { ...facts.silhouette, alpha: Uint8Array.from(facts.silhouette.alpha) },
        blob: new Blob([bytes], { type: pictureFormats[facts.type].mime }),
      };
      await db.transaction('rw', db.assets, db.settings, async () => {
        await db.assets.add(asset);
        await db.settings.put(mark('asset', facts.hash));
      });
      this.tally.pictures++;
    });
  }

  async fonts(): Promise<void> {
    const { db, zip } = this;
    await this.through('fonts', async (value) => {
      const facts = readFontLine(value);
      const called = `the font ${calledIn(value, 'without a name')}`;
      if (!facts) return this.leave(called);
      if (await db.fonts.get(facts.hash)) return;
      const bytes = await zip.bytes(entries.font(facts.hash), 4 * MOST_FONT_BYTES);
      if (!bytes || fontKind(bytes) !== 'opentype' || (await sha256(bytes)) !== facts.hash) return this.leave(called);
      const { readFont } = await import('@bright-slot/core/words/read-font');
      if (!readFont(bytes, facts.family).ok) return this.leave(called);
      // One that has the name of another would change what was made with that.
      const taken = new Set((await db.fonts.toArray()).map((f) => f.family.toLowerCase()));
      let family = facts.family.trim() || 'A font';
      for (let n = 2; familyNamed(family) || taken.has(family.toLowerCase()); n++)
        family = `${facts.family.trim().slice(0, 70)} ${n}`;
      await db.transaction('rw', db.fonts, db.settings, async () => {
        await db.fonts.add({ ...facts, family, blob: new Blob([bytes]) });
        await db.settings.put(mark('font', facts.hash));
      });
    });
  }

  async graphics(): Promise<void> {
    await this.through('graphics', async (value) => {
      const record = readGraphicLine(value);
      const called = `the graphic ${calledIn(value, 'without a name')}`;
      if (!record) return this.leave(called);
      this.moved(this.zip.packed(record.entry));
      try {
        await this.graphic(record);
      } catch (error) {
        if (!(error instanceof EntryRefused)) throw error;
        this.leave(called);
      }
    });
  }

  private async graphic(record: BackupGraphic): Promise<void> {
    const { db, zip } = this;
    const seen = digested(stepsIn(zip, record));
    const plan = await planSteps(seen.values, record);
    const called = `the graphic ${calledIn(record, 'without a name')}`;
    if (!plan.ok)
      return this.leave(
        plan.problem.code === 'newer' ? `${called}, ${plan.problem.message}` : `${called}, which is damaged`,
      );
    if (await isHere(db, this.histories, zip, record, plan.value)) {
      this.tally.same++;
      return;
    }
    if (plan.value.passed) this.leave(`${plan.value.passed} damaged steps of ${called}`);
    const clash = await db.graphics.get(record.id);
    const ids = [...plan.value.parents.keys()];
    const stepsHere = clash ? 1 : (await db.steps.bulkGet(ids)).filter((s) => s !== undefined).length;
    if (!clash && !stepsHere) {
      await this.write(record, plan.value, { graphicId: record.id, idOf: (old) => old, rename: (name) => name });
      return;
    }
    const copied = (prefix: string) => {
      const places = new Map(ids.map((id, i) => [id, `${prefix}-${i + 1}`]));
      return {
        graphicId: `${prefix}-0`,
        idOf: (old: string) => places.get(old) ?? old,
        rename: (name: string) => `${name.slice(0, 104)}, brought back`,
      };
    };
    const copy = copied(seen.digest().slice(0, 32));
    const before = await db.graphics.get(copy.graphicId);
    if (!before) await this.write(record, plan.value, copy);
    // One that was brought back once and deleted since is wanted again, under ids of its own.
    else if (before.deleted !== undefined)
      await this.write(record, plan.value, copied(crypto.randomUUID().slice(0, 32)));
    else this.tally.same++;
  }

  /** Writes a graphic's steps a few at a time; it is there once its record is, which comes last. */
  private async write(record: BackupGraphic, plan: StepsPlan, as: Parameters<typeof plannedStep>[2]): Promise<void> {
    const { db, histories } = this;
    const head = as.idOf(plan.head);
    const written = new Set<string>();
    const stored = new LRUCache<string, Stored>({ max: KEPT });
    let batch: Step[] = [];
    await db.settings.put(mark('graphic', as.graphicId));
    const flush = async () => {
      await db.transaction('rw', histories.tables, async () => {
        await histories.add(batch, await histories.pack(batch, stored));
        await histories.putHeads(
          batch.filter((s) => s.id === head),
          stored,
        );
      });
      batch = [];
    };
    for await (const value of stepsIn(this.zip, record)) {
      const step = plannedStep(value, plan, as);
      if (!step || written.has(step.id)) continue;
      written.add(step.id);
      batch.push(step);
      if (batch.length >= AT_ONCE) await flush();
    }
    await flush();
    await histories.putRedo(
      as.graphicId,
      plan.next.map(([a, b]) => [as.idOf(a), as.idOf(b)] as const),
    );
    await db.graphics.put({
      id: as.graphicId,
      head,
      created: record.created,
      changed: record.changed,
    });
    this.tally.graphics++;
  }

  async slots(): Promise<void> {
    const { db } = this;
    const book = new Map<string, Slot>();
    for (const value of (await db.slots.toArray()) as unknown[]) {
      const own = Slot.safeParse(value);
      if (own.success) book.set(own.data.id, own.data);
    }
    // An entry that cannot be read here is not written over.
    const kept = new Set(await db.slots.toCollection().primaryKeys());
    let newer = 0;
    await this.through('slots', async (value) => {
      const read = Slot.safeParse(value);
      if (!read.success) {
        if (isNewer(value, SLOT_VERSION)) newer++;
        else this.leave(`the slot ${calledIn(value, 'without a name')}`);
        return;
      }
      // The same entry gets the same id each time, so that a second bringing back adds no second copy.
      const id = (await sha256(new TextEncoder().encode(JSON.stringify(read.data)))).slice(0, 32);
      const near = [book.get(read.data.id), book.get(id)].filter((s) => s !== undefined);
      for (const slot of slotsToAdd(near, [read.data], () => id)) {
        if (kept.has(slot.id)) continue;
        kept.add(slot.id);
        book.set(slot.id, slot);
        await db.transaction('rw', db.slots, db.settings, async () => {
          await db.slots.put(slot);
          await db.settings.put(mark('slot', slot.id));
        });
      }
    });
    if (newer) this.leave(`${newer} ${newer === 1 ? 'slot' : 'slots'} that a newer Bright Slot wrote`);
  }

  /** Sets whose slots are here; one that is here already stays as it is. Slots that came in as copies have none. */
  async sets(): Promise<void> {
    await this.records('sets', 'set', SlotSet, async (set) => {
      const there = await this.db.slots.bulkGet([...slotsIn(set)]);
      return there.every((slot) => slot !== undefined);
    });
  }

  /** Collections that are not here; one that is stays as it is. */
  async collections(): Promise<void> {
    await this.records('collections', 'collection', Collection, () => Promise.resolve(true));
  }

  /** Sets of tiles, and editions, that are not here; those that are stay as they are. */
  async tileSets(): Promise<void> {
    const { db } = this;
    await this.through('tileSets', async (value) => {
      const set = readTileSet(value);
      if (!set) return this.leave(`the set ${calledIn(value, 'without a name')}`);
      if (await db.tileSets.where('id').equals(set.id).count()) return;
      await db.transaction('rw', db.tileSets, db.uses, db.settings, async () => {
        await db.tileSets.add(set);
        await putUses(db, setUses(set.id), set);
        await db.settings.put(mark('tiles', set.id));
      });
    });
    await this.through('editions', async (value) => {
      const edition = readEdition(value);
      if (!edition) return this.leave(`the edition ${calledIn(value, 'without a name')}`);
      if (await db.editions.where('id').equals(edition.id).count()) return;
      await db.transaction('rw', db.editions, db.uses, db.settings, async () => {
        await db.editions.add(edition);
        await putUses(db, editionUses(edition.id), edition);
        await db.settings.put(mark('edition', edition.id));
      });
    });
  }

  /** Sites that are not here; one that is stays as it is. */
  async sites(): Promise<void> {
    await this.records('sites', 'site', SiteRecord, () => Promise.resolve(true));
  }

  /** Records of one list that are not here, each by its id. */
  private async records<T extends SlotSet | Collection | SiteRecord>(
    list: 'sets' | 'collections' | 'sites',
    kind: 'set' | 'collection' | 'site',
    schema: z.ZodType<T>,
    wanted: (record: T) => Promise<boolean>,
  ): Promise<void> {
    const { db } = this;
    const table = db.table<T, string>(list);
    await this.through(list, async (value) => {
      const read = schema.safeParse(value);
      if (!read.success) return this.leave(`the ${kind} ${calledIn(value, 'without a name')}`);
      const record = read.data;
      if ((await table.where('id').equals(record.id).count()) || !(await wanted(record))) return;
      await db.transaction('rw', table, db.settings, async () => {
        await table.add(record);
        await db.settings.put(mark(kind, record.id));
      });
    });
  }

  /** Pages of slots of which nothing is known here. */
  async pages(): Promise<void> {
    const { db } = this;
    await this.through('ownPages', async (value) => {
      const read = OwnPage.safeParse(value);
      if (!read.success) return this.leave('a page of a slot');
      const page = read.data;
      if (await db.ownPages.where('slot').equals(page.slot).count()) return;
      await db.transaction('rw', db.ownPages, db.settings, async () => {
        await db.ownPages.add(page);
        await db.settings.put(mark('page', page.slot));
      });
    });
  }

  /** Files that were sent to sites, each by its bytes. */
  async sent(): Promise<void> {
    const { db, zip } = this;
    await this.through('sent', async (value) => {
      const read = SentFile.safeParse(value);
      const called = `the file ${calledIn(value, 'without a name')} that was sent`;
      if (!read.success) return this.leave(called);
      const file = read.data;
      if (await db.sent.where('id').equals(file.id).count()) return;
      const bytes = await zip.bytes(entries.sentFile(file.id), MOST_BYTES);
      if (!bytes || (await sha256(bytes)) !== file.sha256) return this.leave(called);
      const blob = new Blob([bytes], { type: pictureFormats[file.type].mime });
      await db.transaction('rw', db.sent, db.settings, async () => {
        await db.sent.add({ ...file, blob });
        await db.settings.put(mark('sent', file.id));
      });
    });
  }

  /** Routines that are not here; one of the same id or name stays as it is. The lists are written once all are read. */
  async routines(): Promise<void> {
    const { settings } = this.db;
    for (const { list, key, schema, most } of routineLists) {
      const found: { id: string; name: string }[] = [];
      await this.through(list, (value) => {
        const read = schema.safeParse(value);
        if (read.success) found.push(read.data);
        else this.leave(`the routine ${calledIn(value, 'without a name')}`);
        return Promise.resolve();
      });
      if (!found.length) continue;
      await this.db.transaction('rw', settings, async () => {
        const kept: unknown = (await settings.get(key))?.value;
        const all: unknown[] = Array.isArray(kept) ? [...(kept as unknown[])] : [];
        const has = (r: { id: string; name: string }) =>
          readable(all, schema).some((own) => own.id === r.id || own.name === r.name);
        for (const routine of found) {
          if (has(routine)) continue;
          if (all.length < most) all.push(routine);
          else this.leave(`the routine ${calledIn(routine, 'without a name')}, since there are ${most} here`);
        }
        await settings.put({ key, value: all });
      });
    }
  }

  async houseStyle(): Promise<void> {
    const { houseStyle } = this.head;
    if (houseStyle === null || houseStyle === undefined) return;
    const read = HouseStyle.safeParse(houseStyle);
    if (!read.success) {
      this.leave(
        isNewer(houseStyle, plainHouseStyle.version)
          ? 'the house style, which a newer Bright Slot wrote'
          : 'the house style, which is damaged',
      );
      return;
    }
    // A house style that someone set here stays.
    await this.db.transaction('rw', this.db.settings, async () => {
      const here = await this.db.settings.get('house-style');
      if (JSON.stringify(here?.value ?? plainHouseStyle) === JSON.stringify(plainHouseStyle))
        await this.db.settings.put({ key: 'house-style', value: read.data });
    });
  }
}

/**
 * Brings back what a backup holds, a piece at a time, however large it is. Nothing here is overwritten: what is here
 * already is left, what differs comes in beside it under a new id. What is damaged or from a newer version is left out
 * and named, the rest comes in. Until all is there, what was written is marked, and taken back where it breaks off.
 */
export async function bringBack(
  file: Blob,
  progress: (done: number, of: number) => void,
  db = database(),
): Promise<Result<BroughtBack>> {
  const opened = await openZip(file);
  if (!opened.ok) return opened;
  const zip = opened.value;
  try {
    const contents = await wholeText(zip, entries.contents, MOST_CONTENTS);
    if (!contents.ok) return contents;
    const head = readContents(contents.value);
    if (!head.ok) return head;
    await undoBringing(db);
    let moved = 0;
    const bringing = new Bringing(db, zip, head.value, (bytes) => {
      moved += bytes;
      progress(Math.min(moved, file.size), file.size);
    });
    try {
      await bringing.pictures();
      await bringing.fonts();
      await bringing.graphics();
      await bringing.slots();
      await bringing.sets();
      await bringing.collections();
      await bringing.tileSets();
      await bringing.sites();
      await bringing.pages();
      await bringing.sent();
      await bringing.routines();
      await bringing.houseStyle();
      await settleBringing(db);
    } catch (error) {
      await undoBringing(db).catch(() => undefined);
      if (error instanceof EntryRefused) return { ok: false, problem: { code: 'damaged', message: error.message } };
      return { ok: false, problem: storageProblem(error, 'bring-back') };
    }
    const { graphics, same, pictures, left, more } = bringing.tally;
    return good({ graphics, same, pictures, left: more ? [...left, `and ${more} more`] : left });
  } finally {
    await zip.close().catch(() => undefined);
  }
}

/** An entry's text; null where there is none. Fails with `swells`. */
async function wholeText(zip: OpenZip, name: string, most: number): Promise<Result<string | null>> {
  try {
    const parts: string[] = [];
    const decoder = new TextDecoder();
    for await (const piece of zip.pieces(name, most)) {
      parts.push(decoder.decode(piece, { stream: true }));
    }
    return good(zip.has(name) ? parts.join('') : null);
  } catch (error) {
    return {
      ok: false,
      problem: {
        code: 'damaged',
        message:
          error instanceof EntryRefused && /swells/.test(error.message)
            ? error.message
            : 'The list of what the zip holds is damaged; nothing was brought in.',
      },
    };
  }
}
