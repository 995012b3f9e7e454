import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatDialog, type MatDialogRef } from '@angular/material/dialog';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { MatTooltip } from '@angular/material/tooltip';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { cutText, limits, nameFrom, ratioOf, sizeText, slotChanges } from '@bright-slot/core';
import { FinishPanel } from '../output/finish-panel';
import { PageViews } from './page/page-views';
import { SaveState } from '../shell/save-state';
import { HouseStyleService } from '../storage/house-style.service';
import { Icon } from '../ui/icon';
import { MakeGraphic } from '../document/make-graphic';
import { shapeNames, type ShapeKind } from '../document/new-layers';
import { FileDrop } from '../ui/file-drop';
import { TypeService } from '../type/type.service';
import { Workbench } from '../document/workbench';
import { ChangeLayout } from './change-layout.service';
import { GraphicLock } from '../document/graphic-lock';
import { OpenGraphic } from '../document/open-graphic';
import { Following } from '../document/following.service';
import { SlotChanges, type ChangedSlot } from '../document/slot-changes.service';
import { WorkbenchActions, workbenchFeature } from '../document/workbench.store';
import { TileSets } from '../storage/tile-sets.service';
import { StorageHealth } from '../storage/storage-health.service';
import { AddLayers } from './layers/add-layers';
import { FieldsService } from '../document/fields.service';
import { FreshWords } from '../document/fresh-words.service';
import { FitReportPanel } from './report/fit-report-panel';
import { LeastVeilService } from '../document/least-veil.service';
import { BringIn } from './layers/bring-in';
import { LayerActions } from './layers/layer-actions';
import { LayerKeys } from './layers/layer-keys';
import { LayerMenu } from './layers/layer-menu';
import { LayerList } from './layers/layer-list';
import { EditPoints } from './stage/edit-points';
import { SubjectHints } from './stage/subject-hints';
import { Settings } from './settings/settings';
import { Stage } from './stage/stage';
import { StepsPanel } from './steps/steps-panel';
import { shortcutOf, withKeys } from '../document/shortcuts';
import { FilesAhead } from '../output/files-ahead';
import { SurfaceStore } from '../pixels/surface-store';
import { valueOf } from '../ui/event-value';

/** One graphic at work: the canvas in its faint page, layers and settings, the fit report. */
@Component({
  selector: 'bs-workbench-page',
  imports: [
    RouterLink,
    SaveState,
    Icon,
    Stage,
    LayerList,
    LayerMenu,
    Settings,
    FinishPanel,
    FitReportPanel,
    StepsPanel,
    MatTooltip,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
  ],
  providers: [
    SurfaceStore,
    FilesAhead,
    FreshWords,
    AddLayers,
    BringIn,
    LayerActions,
    LayerKeys,
    EditPoints,
    SubjectHints,
    Following,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  host: {
    '(document:keydown)': 'key($event)',
    '(document:copy)': 'keys.copied($event)',
    '(document:paste)': 'keys.pasted($event)',
    '[class.beside]': 'beside()',
    '[class.only]': "onlyPicture() === 'away'",
    '[class.dim]': "onlyPicture() === 'dim'",
    '[class.dropping]': 'drops.held()',
  },
  templateUrl: './workbench-page.html',
  styleUrl: './workbench-page.scss',
})
export class WorkbenchPage {
  protected readonly valueOf = valueOf;
  readonly id = input.required<string>();
  /** From the address: it is looked at on its page. */
  readonly page = input<string>();
  protected readonly workbench = inject(Workbench);
  protected readonly surfaces = inject(SurfaceStore);
  protected readonly bring = inject(BringIn);
  protected readonly add = inject(AddLayers);
  protected readonly keys = inject(LayerKeys);
  private readonly store = inject(Store);
  private readonly opener = inject(OpenGraphic);
  protected readonly lock = inject(GraphicLock);
  protected readonly health = inject(StorageHealth);
  private readonly type = inject(TypeService);
  private readonly snack = inject(MatSnackBar);
  private readonly house = inject(HouseStyleService);
  private readonly maker = inject(MakeGraphic);
  private readonly fresh = inject(FreshWords);
  private readonly router = inject(Router);
  private readonly pageViews = inject(PageViews);
  private readonly tileSets = inject(TileSets);

  protected readonly graphic = computed(() => {
    const g = this.workbench.working();
    return g?.id === this.id() ? g : null;
  });
  private readonly saveProblem = this.store.selectSignal(workbenchFeature.selectProblem);
  protected readonly notSaved = computed(() => this.saveProblem()?.message ?? '');
  protected readonly slot = computed(() => (this.graphic() ? (this.workbench.frame()?.slot ?? null) : null));
  protected readonly size = computed(() => (this.slot() ? sizeText(this.slot()!) : ''));
  /** The set it is a tile of. */
  protected readonly tileOf = computed(() => this.tileSets.ofGraphic().get(this.id()) ?? null);
  /** The slot's name and its size, which the name may hold already. */
  protected readonly slotLine = computed(() => {
    const name = this.slot()?.name ?? '';
    return name.includes(this.size()) ? name : `${name} ${this.size()}`;
  });
  /** Tall and square slots leave room at the side rather than below. */
  protected readonly beside = computed(() => {
    const graphic = this.workbench.graphic();
    // Several places on one canvas are worked on together: its shape counts, not that of one of them.
    const size = (graphic?.frames.length ?? 0) > 1 ? graphic!.canvas : this.slot();
    return size !== null && ratioOf(size) < 1.6;
  });
  protected readonly canUndo = this.store.selectSignal(workbenchFeature.selectCanUndo);
  protected readonly canRedo = this.store.selectSignal(workbenchFeature.selectCanRedo);
  protected readonly showSteps = signal(false);
  /** Whether everything but the picture is away, or dimmed. */
  protected readonly onlyPicture = signal<'away' | 'dim' | null>(null);
  protected readonly drops = inject(FileDrop);
  /** Whether it is being saved or sent from here. */
  protected readonly finishing = signal(false);
  protected readonly problem = signal('');

  protected readonly following = inject(Following);
  private readonly followed = inject(SlotChanges);
  /** The slot as the book has it now, where that is another than this graphic was made for. */
  protected readonly changedSlot = computed(() => {
    const graphic = this.workbench.graphic();
    return graphic?.id === this.id() && !this.lock.reading() ? this.followed.changed(graphic) : null;
  });
  protected readonly slotNews = computed(() => {
    const changed = this.changedSlot();
    return changed ? slotChanges(changed.frame.slot, changed.now).join(', ') : '';
  });

  protected adaptToSlot({ frame, now }: ChangedSlot): void {
    this.workbench.edit({ type: 'adapt-to-slot', frame: frame.id, slot: now, name: `Slot: ${sizeText(now)}` });
  }

  protected keepSlot(changed: ChangedSlot): void {
    void this.followed.keep(this.id(), changed);
  }

  constructor() {
    // Veils are kept just strong enough for as long as the graphic is at work.
    inject(LeastVeilService);
    inject(FilesAhead);
    inject(FieldsService);
    this.drops.files.subscribe(
      ({ files, event }) =>
        void this.bring.dropped(files, event.target as Element | null, this.stage()?.pointAt(event) ?? null),
    );
    effect(() => {
      const id = this.id();
      void untracked(() => this.open(id));
    });
    effect(() => {
      const graphic = this.workbench.shown();
      if (graphic)
        this.type.ensure(graphic).catch((e: unknown) => this.problem.set(e instanceof Error ? e.message : String(e)));
    });
    const told = this.store.selectSignal(workbenchFeature.selectTold);
    const before = told();
    effect(() => {
      const word = told();
      if (word && word !== before)
        untracked(() => this.snack.open(word.message, 'Close', { duration: 15_000, politeness: 'assertive' }));
    });
    inject(DestroyRef).onDestroy(() => {
      this.workbench.commitDraft();
      this.opener.close(this.id());
    });
  }

  private async open(id: string): Promise<void> {
    this.problem.set('');
    const opened = await this.opener.open(id);
    if (opened.ok) {
      void this.health.look();
      if (this.page()) this.pageViews.open.set(true);
      const files = this.maker.beginningOf(id);
      if (files.length) await this.bring.files(files);
      return;
    }
    if (opened.problem.code !== 'superseded') this.problem.set(opened.problem.message);
  }

  /** Whether the graphic was changed or deleted elsewhere: what is here can only be kept beside it. */
  protected readonly overtaken = computed(() => ['elsewhere', 'gone'].includes(this.saveProblem()?.code ?? ''));

  /** What is here, as a graphic of its own. */
  protected async keepAsOwn(): Promise<void> {
    const graphic = this.workbench.graphic();
    if (!graphic) return;
    const name = `${cutText(graphic.name, limits.name - 10)}, my state`;
    const own = { ...graphic, id: crypto.randomUUID(), name, created: new Date().toISOString(), madeFrom: graphic.id };
    const kept = await this.maker.keep(own, `Kept from ${graphic.name}`);
    if (!kept.ok) return this.bring.tell([kept.problem]);
    this.store.dispatch(WorkbenchActions.closed());
    await this.router.navigate(['/graphics', own.id]);
  }

  protected async finish(): Promise<void> {
    this.workbench.commitDraft();
    this.workbench.writingOn.set(null);
    await this.fresh.settle();
    this.finishing.update((f) => !f);
  }

  protected reload(): void {
    this.store.dispatch(WorkbenchActions.closed());
    void this.open(this.id());
  }

  /** Writes what could not be written, as an edit that changes nothing else. */
  protected retry(): void {
    this.store.dispatch(WorkbenchActions.retried());
  }

  protected rename(to: string): void {
    const name = nameFrom(to, limits.name, '');
    if (name && name !== this.graphic()?.name)
      this.workbench.edit({ type: 'rename', to: name, name: `Renamed to ${name}` });
  }

  protected readonly shapes = (Object.keys(shapeNames) as ShapeKind[]).map((kind) => ({
    kind,
    name: shapeNames[kind],
  }));

  protected readonly logos = computed(() => this.house.style().logos);

  private readonly stage = viewChild(Stage);
  protected readonly menu = viewChild.required(LayerMenu);
  protected readonly withKeys = withKeys;

  protected key(event: KeyboardEvent): void {
    const shortcut = event.defaultPrevented ? null : shortcutOf(event);
    if (shortcut === 'sheet') void this.shortcuts();
    else if (!this.stage()?.see(shortcut)) return this.keys.key(event);
    event.preventDefault();
  }

  private sheet: MatDialogRef<unknown> | undefined;
  protected async shortcuts(): Promise<void> {
    if (this.sheet) return;
    const { ShortcutsSheet } = await import('./shortcuts-sheet');
    this.sheet = this.dialogs.open(ShortcutsSheet, { width: '860px', maxWidth: '94vw' });
    this.sheet.afterClosed().subscribe(() => (this.sheet = undefined));
  }
  private readonly dialogs = inject(MatDialog);
  private readonly layoutChange = inject(ChangeLayout);

  protected async changeLayout(): Promise<void> {
    this.workbench.commitDraft();
    await this.layoutChange.ask();
  }
}
