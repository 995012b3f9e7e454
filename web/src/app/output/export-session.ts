import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import {
  cutText,
  endingFor,
  pictureFormats,
  fileName,
  heldFormat,
  heldName,
  finalAddress,
  filePixels,
  isQuicklyFound,
  isSafeName,
  isStaleDescription,
  limits,
  nextFreeName,
  proposedDescription,
  rowFullText,
  topDensity,
  bestUnder,
  chromaOf,
  clamp,
  fileText,
  finest,
  lightestSame,
  nameParts,
  notesFor,
  withNotes,
  waysFor,
  whatHelps,
  weightText,
  pictureState,
  siteOf,
  type Chroma,
  type FileDifference,
  type FileFormat,
  type Frame,
  type Graphic,
  type Next,
  type Trial,
  type SiteRecord,
  type Site,
  type Slot,
} from '@bright-slot/core';
import { firstValueFrom } from 'rxjs';
import { OwnPages } from '../storage/own-pages.service';
import { HouseStyleService } from '../storage/house-style.service';
import { FitReportService } from '../document/fit-report.service';
import { FieldsService } from '../document/fields.service';
import { SiteClient } from '../connector/site-client';
import { SentFiles } from '../storage/sent-files.service';
import { Sites } from '../storage/sites.service';
import { saveFile } from '../ui/download';
import { SiteSending } from './site-sending';
import { Workbench } from '../document/workbench';
import { GraphicsRepository } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';
import { FileTrials, type TrialSubject } from './file-trials';
import { DescribeDialog, type Described } from './describe-dialog';
import { FindingsDialog } from './findings-dialog';
import { today } from '../ui/when';

export interface MadeFile {
  readonly format: FileFormat;
  readonly quality: number;
  readonly chroma: Chroma;
  /** `unfit`: nothing is made of it unless it is chosen, since the format cannot hold what the slot keeps. */
  readonly state: 'making' | 'made' | 'failed' | 'unfit';
  /** How it differs from the canvas. */
  readonly difference?: FileDifference;
  readonly blob?: Blob;
  readonly width?: number;
  readonly height?: number;
  readonly url?: string;
  /** How many pictures had to be decoded for it: none that is on the canvas. */
  readonly decoded?: number;
  readonly problem?: string;
}

/** What was sent: where it is, and where its page is to be seen; neither where the person puts it there. */
export interface Sent {
  readonly address: string;
  readonly visitor: string;
  /** The file's record, at a site of the person's. */
  readonly file: string | null;
}

/** So often, a tenth of a second apart, the fit report is waited for before something is sent. */
const MOST_WAITS = 40;

const moment = () => new Promise((done) => setTimeout(done, 100));

/**
 * What a graphic leaves as: its files, its name, its description; saved, or sent to the site. For whoever shows it: the
 * Export page with all formats, the workbench with the one that was chosen last.
 */
@Injectable()
export class ExportSession {
  /** The graphic that is to leave, and which files of it are wanted. */
  private readonly id = signal('');
  private readonly wanted = signal<'all' | 'chosen'>('all');
  private readonly workbench = inject(Workbench);
  private readonly repository = inject(GraphicsRepository);
  private readonly site = inject(SiteClient);
  readonly trials = inject(FileTrials);
  private readonly sites = inject(Sites);
  private readonly siteSending = inject(SiteSending);
  private readonly sentFiles = inject(SentFiles);
  private readonly pages = inject(OwnPages);
  private readonly house = inject(HouseStyleService);
  private readonly fields = inject(FieldsService);
  private readonly dialogs = inject(MatDialog);
  private readonly report = inject(FitReportService);

  readonly graphic = computed(() => {
    const g = this.workbench.graphic();
    return g?.id === this.id() ? g : null;
  });
  readonly draftQuality = signal<number | null>(null);
  readonly typedName = signal<string | null>(null);
  readonly taken = signal<ReadonlySet<string>>(new Set());
  /** What the site answered; neither while it is being asked. */
  private readonly siteAnswer = signal<{ site: Site | null; problem: string }>({ site: null, problem: '' });
  /** Names of files on the site, and those this graphic's states were given. */
  private readonly onTheSite = signal<ReadonlySet<string>>(new Set());
  private readonly given = signal<ReadonlyMap<string, string>>(new Map());
  readonly sending = signal(false);
  readonly sent = signal<Sent | null>(null);
  readonly refused = signal<{ message: string; next?: string } | null>(null);
  readonly savedAs = signal('');

  /** The frame that is to leave. */
  readonly frame = computed(() => (this.graphic() ? this.workbench.frame() : null));
  readonly slot = computed(() => this.frame()?.slot ?? null);
  readonly needs = computed(() => {
    const slot = this.slot();
    return slot ? filePixels(slot, topDensity(slot)) : { width: 0, height: 0 };
  });
  /** What the file is to be: what the person chose; until then, once it is found, the lightest that looks the same. */
  readonly choice = computed((): Next => {
    const { format: last = 'jpeg', quality = 85, chroma = '444', own = false } = this.frame()?.export ?? {};
    const format = own ? last : (this.heldFormat() ?? last);
    const proposal = own ? null : this.trials.proposal();
    return proposal
      ? { format: proposal.format, quality: proposal.quality, chroma: proposal.chroma }
      : { format, quality, chroma: chromaOf(format, chroma) };
  });
  /** Whether it is chosen by itself. */
  readonly byItself = computed(() => !this.frame()?.export.own);
  /** Whether it is tried in all ways where nobody looks on; else it leaves as it did last. */
  private readonly quicklyFound = computed(() => {
    const slot = this.slot();
    return slot !== null && isQuicklyFound(slot);
  });
  /** Whether the lightest that looks the same is still being looked for. */
  readonly looking = computed(() => this.byItself() && this.trials.tried() !== 'chosen' && !this.trials.found());
  readonly format = computed(() => this.choice().format);
  readonly quality = computed(() => this.draftQuality() ?? this.choice().quality);
  /** Most bytes the file may have: as typed, or as its slot takes. */
  readonly most = computed(() => this.frame()?.export.mostBytes ?? this.slot()?.mostBytes ?? null);
  /** One file of each format: the chosen one, and of the others the lightest that looks the same. */
  readonly files = computed((): readonly MadeFile[] => {
    const slot = this.slot();
    if (!slot) return [];
    const formats = this.wanted() === 'all' ? slot.formats : [this.format()];
    return formats.map((format) => this.fileOf(format));
  });
  readonly chosen = computed(() => this.files().find((f) => f.format === this.format()) ?? null);
  readonly heaviest = computed(() => Math.max(1, ...this.files().map((f) => f.blob?.size ?? 0)));
  /** The person's own site that the slot stands on; the stand-in is none. */
  readonly ownSite = computed(() => {
    const slot = this.slot();
    const site = slot && siteOf(slot, this.sites.all() ?? []);
    return site && site.way.kind !== 'stand-in' ? site : null;
  });
  /** What a place there holds on to, under which every file goes. */
  readonly heldName = computed(() => {
    const [site, slot] = [this.ownSite(), this.slot()];
    return site && slot ? heldName(site, slot.id) : null;
  });
  /** What that name says its files are, where the slot takes it. */
  private readonly heldFormat = computed(() => {
    const slot = this.slot();
    return slot && heldFormat(slot, this.sites.all() ?? []);
  });
  /** Where visitors will find the file; empty where only the site can tell. */
  readonly willBeAt = computed(() => {
    const site = this.ownSite();
    return site ? (finalAddress(site.way, this.heldName() ?? this.name()) ?? '') : '';
  });
  /** What is said before another is sent to a row that is full. */
  readonly rowFull = computed(() => {
    const [site, slot] = [this.ownSite(), this.slot()];
    return site && slot ? rowFullText(slot, site.members[slot.id]?.length ?? 0) : '';
  });
  /** What sending is called. */
  readonly sendWord = computed(() =>
    this.ownSite()?.way.kind === 'by-hand' ? 'Save it to upload' : 'Put on the site',
  );
  /** The file that was sent last from here, by its id. */
  private readonly file = signal('');
  /** How far what is being sent is, 0 to 1. */
  readonly share = computed(() => this.siteSending.going().get(this.file())?.share ?? 0);
  readonly waitsToRetry = computed(() => this.siteSending.going().get(this.file())?.waits ?? false);
  /** What a visitor was found to be shown of what was sent. */
  readonly live = computed(() => {
    const id = this.sent()?.file;
    return id ? ((this.sentFiles.all() ?? []).find((f) => f.id === id)?.live?.said ?? '') : '';
  });
  /** The site's own slot that it can stand in: its own, or one of the same size. */
  readonly siteSlot = computed(() => {
    const own = this.slot();
    if (this.ownSite()) return own;
    const alike = (s: Slot) => own !== null && s.width === own.width && s.height === own.height;
    const slots = (this.siteAnswer().site?.pages ?? []).flatMap((p) => p.slots.map((s) => s.slot));
    return slots.find((s) => s.id === own?.id) ?? slots.find(alike) ?? null;
  });
  /** Why it cannot be put on the site; empty where it can. */
  readonly notThere = computed(() => {
    const { site, problem } = this.siteAnswer();
    if (this.siteSlot()) return '';
    if (problem) return problem;
    return site ? 'The site has no slot of this size; save the file instead.' : 'The site is being asked …';
  });
  /** What goes over the file; empty for nothing. */
  private readonly watermark = computed(() =>
    this.frame()?.export.watermark ? JSON.stringify(this.house.style().watermark) : '',
  );
  /** Names what the file shows and how it is made. */
  private readonly madeOf = computed(() => {
    const g = this.graphic();
    const f = this.frame();
    const { format, quality, chroma } = this.choice();
    const more = [chroma === '420' ? chroma : '', this.watermark()].filter((m) => m);
    return g && f ? [pictureState(g, f), format, quality, ...more].join('|') : '';
  });

  readonly name = computed(() => {
    const typed = this.typedName();
    if (typed !== null) return typed;
    const g = this.graphic();
    const slot = this.slot();
    if (!g || !slot) return '';
    const own = this.given().get(this.madeOf());
    if (own !== undefined) return own;
    const date = today();
    return fileName(
      this.house.style().namePattern,
      {
        ...nameParts(g.name, slot, this.format(), date, this.house.style().business),
        version: this.given().size + 1,
      },
      this.taken(),
      slot.names.longest,
    );
  });
  readonly nameProblem = computed(() => {
    const name = this.name();
    const ending = `.${endingFor(this.format())}`;
    if (!isSafeName(name))
      return `Small letters a to z, digits and hyphens only, then .${endingFor(this.format())}: anything else breaks in addresses.`;
    if (!name.endsWith(ending))
      return `A ${pictureFormats[this.format()].name} is called something that ends in ${ending}.`;
    return '';
  });
  /** The next free name, where the one that stands has been given already. */
  readonly nextFree = computed(() =>
    this.taken().has(this.name()) && this.given().get(this.madeOf()) !== this.name()
      ? nextFreeName(this.name(), this.taken())
      : null,
  );
  readonly ready = computed(() => !!this.chosen()?.blob && !this.nameProblem() && !this.nextFree() && !this.sending());
  /** Whether something stands in the way that waiting does not mend. */
  readonly blocked = computed(
    () => this.sending() || !!this.nameProblem() || !!this.nextFree() || this.chosen()?.state === 'failed',
  );
  /** Why it cannot be saved or sent as it is; empty where it can. */
  readonly why = computed(() => {
    if (this.ready()) return '';
    if (this.sending()) return 'It is being sent.';
    if (!this.chosen()?.blob) return this.chosen()?.problem ?? 'The file is being made.';
    return this.nameProblem() || 'That name has been given already.';
  });
  readonly copyright = computed(() => this.house.style().copyright);
  readonly stale = computed(() => {
    const [g, f] = [this.graphic(), this.frame()];
    return g !== null && f !== null && isStaleDescription(f.export, g.layers);
  });
  readonly proposed = computed(() => proposedDescription(this.graphic()?.layers ?? []));

  /** What the files' bytes depend on besides what they are written as. */
  private readonly picture = computed((): TrialSubject | null => {
    const [graphic, frame] = [this.graphic(), this.frame()];
    if (!graphic || !frame) return null;
    const notes = notesFor(this.house.style(), frame.export);
    const { layers, backdrop, canvas } = graphic;
    const state = JSON.stringify([graphic.id, layers, backdrop, canvas, frame.id, frame.rect, frame.slot]);
    // The description's own bytes are no reason to make all files anew: what leaves is given it as it stands then.
    const said = JSON.stringify({ ...notes, alt: '' });
    return { graphic, frame, notes, state: `${state}|${said}|${this.watermark()}` };
  });

  constructor() {
    const { trials } = this;
    effect(() => trials.subject.set(this.picture()));
    effect(() => trials.chosen.set(this.choice()));
    effect(() => {
      const all = this.wanted() === 'all' ? 'curve' : this.byItself() && this.quicklyFound() ? 'proposal' : 'chosen';
      trials.tried.set(all);
    });
    effect(() => trials.most.set(this.most()));
    effect(() => trials.only.set(this.heldFormat()));
    effect(() => {
      const asked = this.most() !== null && this.trials.found() && whatHelps(this.trials.fit(), this.most()!, null);
      if (!asked) this.lower.set(null);
      else
        untracked(() => {
          this.trials.lighter().then(
            (l) => this.lower.set(l),
            () => undefined,
          );
        });
    });
    // The best within the limit was asked for, and is found.
    effect(() => {
      const best = trials.best() && trials.found() ? bestUnder(trials.fit(), this.most() ?? Infinity) : null;
      if (best) untracked(() => this.takeBest(best));
    });
  }

  /** The file of a format as it stands. */
  private fileOf(format: FileFormat): MadeFile {
    const chosen = this.choice();
    const problem = this.trials.problems().get(format);
    const own = this.trials.trials().filter((t) => t.format === format);
    const trial = format === chosen.format ? this.trials.of(chosen) : (lightestSame(own) ?? finest(own));
    const { quality } = trial ?? chosen;
    const chroma = trial?.chroma ?? chromaOf(format, chosen.chroma);
    if (trial) return { ...trial, state: 'made', difference: trial.difference };
    const early = this.trials.early();
    if (
      early &&
      format === chosen.format &&
      early.format === format &&
      early.quality === chosen.quality &&
      early.chroma === chosen.chroma
    )
      return { ...early, state: 'made' };
    if (problem) return { format, quality, chroma, state: 'failed', problem };
    const slot = this.slot();
    const unfit = format !== chosen.format && slot !== null && !waysFor(slot).some((w) => w.format === format);
    return { format, quality, chroma, state: unfit ? 'unfit' : 'making' };
  }

  /** Begins with a graphic, which is open or being opened. */
  async begin(id: string, wanted: 'all' | 'chosen'): Promise<void> {
    this.id.set(id);
    this.wanted.set(wanted);
    await (this.siteAsked = this.look(id));
  }

  /** Settled once it is known which slots the site has. */
  siteAsked: Promise<void> = Promise.resolve();

  /** Which names are taken, here and on the site. */
  private async look(id: string): Promise<void> {
    const given = await this.repository.exportedNames().catch(() => []);
    const earlier = await this.repository.exportsOf(id).catch(() => []);
    this.given.set(new Map(earlier.flatMap((e) => (e.made ? [[e.made, e.name] as const] : []))));
    this.taken.update((t) => new Set([...t, ...given]));
    const own = this.ownSite();
    if (own) {
      const names = await this.siteSending.names(own);
      this.taken.update((t) => new Set([...t, ...names]));
      this.onTheSite.set(names);
    }
    const site = await this.site.site();
    this.siteAnswer.set(site.ok ? { site: site.value, problem: '' } : { site: null, problem: site.problem.message });
    if (!site.ok) return;
    this.taken.update((t) => new Set([...t, ...site.value.names]));
    this.onTheSite.set(new Set(site.value.names));
  }

  private pathOf(slot: string): string {
    return this.siteAnswer().site?.pages.find((p) => p.slots.some((s) => s.slot.id === slot))?.path ?? '/';
  }

  /** What an edit of the frame's own choices begins with. */
  private get setting(): { readonly type: 'set-export'; readonly frame: string } {
    return { type: 'set-export', frame: this.frame()!.id };
  }

  choose(format: FileFormat): void {
    if (format === this.format() && !this.byItself()) return;
    if (format !== this.format()) this.typedName.set(null);
    const { quality, chroma } = this.files().find((f) => f.format === format) ?? this.choice();
    this.setFile({ format, quality, chroma }, `Format: ${pictureFormats[format].name}`);
  }

  setQuality(): void {
    const quality = this.draftQuality();
    this.draftQuality.set(null);
    if (quality === null || quality === this.choice().quality) return;
    this.setFile({ ...this.choice(), quality }, `Quality ${quality}`, `quality:${this.setting.frame}`);
  }

  /** JPEG's colours at each px, or at each 2 × 2 px. */
  setChroma(chroma: Chroma): void {
    if (chroma !== this.choice().chroma)
      this.setFile(
        { ...this.choice(), chroma },
        chroma === '444' ? 'Colours of each pixel' : 'Colours of 2 × 2 pixels',
      );
  }

  private setFile(file: Next, name: string, merge?: string): void {
    const choices = { ...file, own: true };
    this.workbench.edit({ ...this.setting, choices, name, ...(merge && { merge }) });
  }

  /** From now on it is the lightest that looks the same again. */
  chooseByItself(): void {
    this.workbench.edit({ ...this.setting, choices: { own: false }, name: 'The lightest that looks the same' });
  }

  /** A limit of the person's own, bytes; null for the slot's. */
  setMost(bytes: number | null): void {
    const mostBytes = bytes === null ? undefined : clamp(Math.round(bytes), 1000, 1e9);
    if (mostBytes === this.frame()?.export.mostBytes) return;
    const name = mostBytes === undefined ? 'No limit of one’s own' : `At most ${weightText(mostBytes)}`;
    this.workbench.edit({ ...this.setting, choices: { mostBytes }, name });
  }

  /** The densities it leaves in; the slot's where none are said. */
  setDensities(wanted: Frame['export']['densities']): void {
    const name = wanted ? `Densities ${wanted.map((d) => `${d}×`).join(', ')}` : 'The slot’s densities';
    this.workbench.edit({ ...this.setting, choices: { densities: wanted }, name });
  }

  /** Saves several files of the graphic as it is chosen now; their name is given once they are. */
  async leave(save: () => Promise<boolean>): Promise<void> {
    const [graphic, name] = [this.graphic(), this.name()];
    if (!graphic || !this.ready()) return;
    this.keepChoice();
    const made = this.madeOf();
    if (await save()) await this.give(name, 'file', graphic.id, made);
  }

  /** Px an inch that the file says; null says none. */
  setPpi(typed: number | null): void {
    const ppi = typed === null ? undefined : clamp(Math.round(typed), 36, 1200);
    if (ppi !== this.frame()?.export.ppi)
      this.workbench.edit({ ...this.setting, choices: { ppi }, name: ppi ? `${ppi} px an inch` : 'No px an inch' });
  }

  /** Whether the house's watermark goes over the file. */
  setWatermark(on: boolean): void {
    this.workbench.edit({
      ...this.setting,
      choices: { watermark: on || undefined },
      name: on ? 'With the watermark' : 'Without the watermark',
    });
  }

  private takeBest({ format, quality, chroma, bytes }: Trial): void {
    this.trials.best.set(false);
    this.setFile({ format, quality, chroma }, `The best under ${weightText(this.most()!)}: ${weightText(bytes)}`);
  }

  /** Takes a file that was tried. */
  take({ format, quality, chroma }: Trial): void {
    if (format !== this.format()) this.typedName.set(null);
    this.setFile({ format, quality, chroma }, fileText({ format, quality, chroma }));
  }

  /** What the chosen file has at a lower density, where no file within the limit looks the same. */
  private readonly lower = signal<{ density: number; bytes: number } | null>(null);
  /** What helps where no file within the limit looks the same; null where one does. */
  readonly helps = computed(() => {
    const most = this.most();
    return most !== null && this.trials.found() ? whatHelps(this.trials.fit(), most, this.lower()) : null;
  });

  /** What leaves is what the graphic says from now on, so that it is judged and made again as it is. */
  private keepChoice(): void {
    const frame = this.frame();
    if (!frame) return;
    const { format, quality, chroma } = this.choice();
    const now = frame.export;
    if (format === now.format && quality === now.quality && chroma === chromaOf(now.format, now.chroma)) return;
    this.workbench.edit({
      ...this.setting,
      choices: { format, quality, chroma },
      name: `${pictureFormats[format].name}, the lightest that looks the same`,
    });
  }

  /** `anew`: the same words are of what is there now. */
  setAlt(given: string, anew = false): void {
    const alt = cutText(given.toWellFormed(), limits.description);
    if (anew || alt !== this.frame()?.export.alt)
      this.workbench.edit({
        ...this.setting,
        choices: { alt },
        name: 'Description for readers',
        merge: `alt:${this.setting.frame}`,
      });
  }

  async save(): Promise<void> {
    const file = this.chosen();
    const [graphic, name] = [this.graphic(), this.name()];
    if (!graphic || !file?.blob || !this.ready()) return;
    this.keepChoice();
    const made = this.madeOf();
    saveFile(await this.noted(file.blob, file.format), name);
    this.savedAs.set(name);
    await this.give(name, 'file', graphic.id, made);
  }

  /** What is said after it was copied. */
  readonly copied = signal('');

  /** Puts the picture into the clipboard, as a PNG: the one kind of picture that every browser takes there. */
  async copyPicture(): Promise<void> {
    this.copied.set('');
    const picture = this.trials
      .lossless()
      .then((blob) => blob ?? Promise.reject(new Error('There is no picture yet.')));
    // What goes wrong is told below.
    picture.catch(() => undefined);
    try {
      // The picture may come later; the leave to write has to be asked for at the press.
      await navigator.clipboard.write([new ClipboardItem({ 'image/png': picture })]);
      this.copied.set('It is in the clipboard.');
    } catch {
      this.copied.set('The browser did not let it be copied. Save the file instead.');
    }
  }

  /** A file with what is to be said of it as it stands now; as it was made where that would take it past its limit. */
  private async noted(blob: Blob, format: FileFormat): Promise<Blob> {
    const notes = notesFor(this.house.style(), this.frame()!.export);
    const bytes = withNotes(new Uint8Array(await blob.arrayBuffer()), format, notes);
    const most = this.most();
    return most !== null && bytes.length > most && blob.size <= most ? blob : new Blob([bytes], { type: blob.type });
  }

  /** Notes that a name has been given, so that the next file gets another. */
  private async give(name: string, to: 'file' | 'site', graphicId: string, made: string): Promise<void> {
    this.taken.update((t) => new Set([...t, name]));
    this.given.update((g) => new Map([...g, [made, name]]));
    if (to === 'site') this.onTheSite.update((n) => new Set([...n, name]));
    this.typedName.set(null);
    await this.repository
      .addExport({ name, graphicId, at: Date.now(), to, made })
      .catch((error: unknown) => this.refused.set({ message: storageProblem(error).message }));
  }

  /** The description to send with; asked for where there is none yet. Null calls the sending off. */
  private async description(): Promise<string | null> {
    const { alt } = this.frame()!.export;
    const stale = this.stale();
    if (alt.trim() && !stale) return alt;
    const ref = this.dialogs.open<DescribeDialog, Described, string | null>(DescribeDialog, {
      width: '520px',
      data: { proposed: stale ? alt : this.proposed(), stale },
    });
    const given = (await firstValueFrom(ref.afterClosed())) ?? null;
    if (given) this.setAlt(given, true);
    return given;
  }

  /** What the fit report would have mended first; the description is asked for by itself. */
  readonly open = computed<readonly string[]>(() =>
    (this.report.report()?.findings ?? [])
      .filter((f) => f.group === 'before' && !f.id.startsWith('undescribed'))
      .map((f) => f.title),
  );

  /** Waits until the file that is chosen, or found by itself, is made; false where it cannot be. */
  async made(): Promise<boolean> {
    const waits = () => this.looking() || !this.chosen()?.blob;
    while (this.chosen()?.state !== 'failed' && waits() && this.graphic()) await moment();
    return !!this.chosen()?.blob;
  }

  /** Findings that were sent with once are not asked about again while they stand. */
  private asked = '';

  /** Whether it is to be sent although the fit report found something: asked once, naming what. */
  private async meant(graphic: Graphic): Promise<boolean> {
    // What lies behind the words, and what the file weighs, may still be looked at; that is waited for, but not for ever.
    const judged = () => this.report.settled() && this.report.report()?.waiting === false;
    for (let i = 0; i < MOST_WAITS && !judged(); i++) await moment();
    const titles = this.open();
    const asking = JSON.stringify([graphic.id, titles]);
    if (!titles.length || asking === this.asked) return true;
    const ref = this.dialogs.open<FindingsDialog, readonly string[], boolean>(FindingsDialog, {
      width: '520px',
      data: titles,
    });
    const sure = (await firstValueFrom(ref.afterClosed())) ?? false;
    if (sure) this.asked = asking;
    return sure && this.graphic()?.id === graphic.id;
  }

  async send(): Promise<void> {
    const graphic = this.graphic();
    const frame = this.frame();
    const slot = this.siteSlot();
    const file = this.chosen();
    const made = this.madeOf();
    if (!graphic || !frame || !slot || !file?.blob || !this.ready()) return;
    this.keepChoice();
    const own = this.ownSite();
    // The file’s name as it is now: another may be proposed while questions are answered.
    const name = own && this.heldName() ? this.name() : this.nameThere();
    if (!(await this.meant(graphic))) return;
    const alt = await this.description();
    // Another graphic may have been opened meanwhile: what was asked for was this one.
    if (alt === null || this.graphic()?.id !== graphic.id) return;
    this.sending.set(true);
    this.refused.set(null);
    this.sent.set(null);
    const blob = await this.noted(file.blob, file.format);
    if (own) {
      await this.sendTo(own, { slot, blob, name, alt, graphic, frame, made });
      this.sending.set(false);
      return;
    }
    const answer = await this.site.send({
      blob,
      name,
      slot: slot.id,
      alt,
      graphic: { id: graphic.id, name: graphic.name, state: pictureState(graphic, frame) },
      colours: this.pages.of(frame.slot.id)?.colours ?? null,
    });
    if (answer.ok) {
      const shown = await this.site.show(slot.id, answer.value.id);
      if (shown.ok)
        this.sent.set({
          address: answer.value.address,
          visitor: `${this.site.origin}${this.pathOf(answer.value.slot)}`,
          file: null,
        });
      else this.refused.set(shown.problem);
      await this.give(answer.value.name, 'site', graphic.id, made);
      this.fields.freeze(graphic.id);
    } else this.refused.set(answer.problem);
    this.sending.set(false);
  }

  /** The site keeps one of each name: the same state sent again goes under the next. */
  private nameThere(): string {
    return this.onTheSite().has(this.name()) ? nextFreeName(this.name(), this.taken()) : this.name();
  }

  /** To a site of the person's own; what they put there themselves is saved as a file. */
  private async sendTo(
    site: SiteRecord,
    given: { slot: Slot; blob: Blob; name: string; alt: string; graphic: Graphic; frame: Frame; made: string },
  ): Promise<void> {
    const { slot, blob, name, alt, graphic, frame, made } = given;
    const id = crypto.randomUUID();
    this.file.set(id);
    const answer = await this.siteSending.send(site, {
      id,
      slot,
      blob,
      name,
      alt,
      graphic: { id: graphic.id, name: graphic.name, state: pictureState(graphic, frame).slice(0, 60) },
      colours: this.pages.of(slot.id)?.colours ?? null,
    });
    if (answer.ok) {
      const { address } = answer.value;
      if (site.way.kind === 'by-hand') saveFile(blob, answer.value.name);
      this.sent.set({ address, visitor: address, file: id });
      await this.give(name, site.way.kind === 'by-hand' ? 'file' : 'site', graphic.id, made);
      this.fields.freeze(graphic.id);
    } else if (answer.problem.code !== 'cancelled') this.refused.set(answer.problem);
  }

  /** Calls off what is being sent. */
  callOff(): void {
    this.siteSending.cancel(this.file());
  }

  useNext(next: string): void {
    this.typedName.set(next);
    this.refused.set(null);
  }
}
