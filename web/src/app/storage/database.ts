import { Dexie, type DexieOptions, type EntityTable, type Table, type Transaction } from 'dexie';
import {
  readStep,
  pairsOf,
  type BroughtFont,
  type Frame,
  type OwnPage,
  type SentFile,
  type Silhouette,
  type SiteRecord,
  type Slot,
  type Collection,
  type Edition,
  type SlotSet,
  type Step,
  type StoredStep,
  type TileSet,
} from '@bright-slot/core';
import { usesIn } from './used';

/** A graphic's place in its own history, and what lists need to know of it. */
export interface GraphicRecord {
  id: string;
  head: string;
  created: string;
  changed: number;
  deleted?: number;
  /** The session that may write it: whoever opened it for writing last. */
  writer?: string;
}

/** What lists show of a graphic, so that they read no more of it. */
export interface ListedRecord {
  id: string;
  /** The step at its head, and the version of the graphic there. */
  head: string;
  version: number;
  name: string;
  frames: Frame[];
  /** The graphic it was made from. */
  madeFrom?: string;
}

/** A graphic's head, whole, so that opening it waits for no other step. */
export interface HeadRecord {
  /** The graphic's. */
  id: string;
  step: Step;
  /** How far it is from the last step that is stored whole (see `Stored`). */
  depth: number;
  weight: number;
}

/** Where redo leads from a step, where that is not the latest of what follows it. */
export interface RedoRecord {
  from: string;
  to: string;
  graphicId: string;
}

/** That some step of a graphic uses a picture (by its hash) or a font (`font/` and its family). */
export interface UseRecord {
  graphicId: string;
  what: string;
}

/** A picture brought in; the blob is kept once, under the SHA-256 of its bytes. */
export interface AssetRecord {
  hash: string;
  blob: Blob;
  type: string;
  width: number;
  height: number;
  opaque: boolean;
  /** Where it is to be seen; null when opaque. */
  silhouette: Silhouette | null;
  /** One colour all along its border, as a logo on a sheet has. */
  flatBorder?: boolean | undefined;
  name: string;
  added: number;
  credit: string;
  /** The point to keep in sight and what is around it, in shares of the picture; proposed from its content or set by hand. */
  focus?: { x: number; y: number } | undefined;
  subject?: { x: number; y: number; width: number; height: number } | undefined;
  licence?: string | undefined;
  /** Its maker asks to be named where it is shown. */
  showCredit?: boolean | undefined;
  /** A small copy for lists; a drawing is its own. */
  thumb?: Blob | undefined;
  /** Not a picture to be used in graphics: what a cut-out keeps of one, or the screenshot of a page. */
  mask?: boolean | undefined;
}

/** A finished miniature, valid for one state of a graphic, and its fit word, valid for how it was judged as well. */
export interface PreviewRecord {
  graphicId: string;
  state: string;
  blob: Blob;
  /** Of a graphic with several frames, the others, in their order. */
  others?: Blob[];
  fit: string;
  /** See `ReportContexts.judgedBy`; wanting in records from before there was more than the state. */
  judgedBy?: string;
}

/** A file that was saved or sent, so that its name is not given again. */
export interface ExportRecord {
  name: string;
  graphicId: string;
  at: number;
  to: 'file' | 'site';
  /** What its file showed, in which format and quality: the same again has the same name. */
  made?: string;
}

/** A font brought in; its bytes are bare OpenType. */
export interface FontRecord extends BroughtFont {
  blob: Blob;
}

/** A file that was sent to a site or found there, with its bytes. */
export interface SentRecord extends SentFile {
  blob: Blob;
}

/** What signs in at a site, encrypted (`connector/sealed.ts`). */
export interface SecretRecord {
  site: string;
  rounds: number;
  salt: Uint8Array;
  iv: Uint8Array;
  sealed: Uint8Array;
}

export interface SettingRecord {
  key: string;
  value: unknown;
}

export class Database extends Dexie {
  readonly graphics!: EntityTable<GraphicRecord, 'id'>;
  readonly steps!: EntityTable<StoredStep, 'id'>;
  readonly heads!: EntityTable<HeadRecord, 'id'>;
  readonly listed!: EntityTable<ListedRecord, 'id'>;
  readonly redo!: EntityTable<RedoRecord, 'from'>;
  readonly uses!: Table<UseRecord, [string, string]>;
  readonly assets!: EntityTable<AssetRecord, 'hash'>;
  readonly previews!: EntityTable<PreviewRecord, 'graphicId'>;
  readonly exports!: EntityTable<ExportRecord, 'name'>;
  readonly slots!: EntityTable<Slot, 'id'>;
  readonly sets!: EntityTable<SlotSet, 'id'>;
  readonly collections!: EntityTable<Collection, 'id'>;
  readonly tileSets!: EntityTable<TileSet, 'id'>;
  readonly editions!: EntityTable<Edition, 'id'>;
  readonly sites!: EntityTable<SiteRecord, 'id'>;
  readonly settings!: EntityTable<SettingRecord, 'key'>;
  readonly fonts!: EntityTable<FontRecord, 'hash'>;
  readonly ownPages!: EntityTable<OwnPage, 'slot'>;
  readonly sent!: EntityTable<SentRecord, 'id'>;
  readonly secrets!: EntityTable<SecretRecord, 'site'>;

  /** `store` stands in for the browser's own database in tests. */
  constructor(name = 'bright-slot', store: Pick<DexieOptions, 'indexedDB' | 'IDBKeyRange'> = {}) {
    // Strict durability: a transaction completes only once its data is on disk.
    super(name, { chromeTransactionDurability: 'strict', ...store });
    this.version(1).stores({
      graphics: 'id, changed',
      steps: 'id, graphicId',
      assets: 'hash, added',
      previews: 'graphicId',
      settings: 'key',
    });
    this.version(2).stores({ exports: 'name, graphicId' });
    this.version(3).stores({ slots: 'id' });
    this.version(4).stores({ fonts: 'hash, family' });
    this.version(5)
      .stores({
        steps: 'id, graphicId, parent',
        heads: 'id',
        listed: 'id',
        sites: 'id',
        sets: 'id',
        redo: 'from, graphicId',
        uses: '[graphicId+what], graphicId, what',
      })
      .upgrade(headsApart);
    this.version(6).stores({ ownPages: 'slot' });
    this.version(7).stores({ sent: 'id, site, slot', secrets: 'site' });
    this.version(8).stores({ collections: 'id' });
    this.version(9).stores({ tileSets: 'id', editions: 'id, of' });
  }
}

/** What lists show of the graphic at a head. */
export function listedOf({ id, graphicId, graphic }: Step): ListedRecord {
  const { version, name, frames, madeFrom } = graphic;
  return { id: graphicId, head: id, version, name, frames, ...(madeFrom === undefined ? {} : { madeFrom }) };
}

/** Before version 5 every step was whole, lists read the steps at the heads, and a sweep read all there are. */
async function headsApart(t: Transaction): Promise<void> {
  for (const record of await t.table<GraphicRecord & { next?: unknown }>('graphics').toArray()) {
    const { next, ...own } = record;
    await t.table('redo').bulkPut(pairsOf(next).map(([from, to]) => ({ from, to, graphicId: own.id })));
    await t.table('graphics').put(own);
    const stored: unknown = await t.table('steps').get(own.head);
    const step = readStep(stored);
    if (step?.graphicId !== own.id) continue;
    // As it is stored, since what is written next stands on that.
    await t.table('heads').put({ id: own.id, step: stored, depth: 0, weight: 0 });
    await t.table('listed').put(listedOf(step));
  }
  const uses = new Map<string, UseRecord>();
  await t.table('steps').each((step: { graphicId?: unknown } | null) => {
    if (typeof step?.graphicId !== 'string') return;
    for (const what of usesIn(step)) uses.set(`${step.graphicId} ${what}`, { graphicId: step.graphicId, what });
  });
  await t.table('uses').bulkPut([...uses.values()]);
}

let shared: Database | undefined;

/** The one database of this page or worker. */
export function database(): Database {
  return (shared ??= new Database());
}
