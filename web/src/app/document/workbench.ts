import { Injectable, computed, effect, inject, linkedSignal, signal } from '@angular/core';
import { Store, type Action } from '@ngrx/store';
import {
  current,
  headOf,
  isPicture,
  applyEdit,
  changedAlike,
  layerOf,
  wholeGroups,
  frameOf,
  type Change,
  type Edit,
  type Frame,
  type Graphic,
  type History,
  type Layer,
  type Stretch,
  wordsTaken,
} from '@bright-slot/core';
import { GraphicLock } from './graphic-lock';
import { BACKDROP, WorkbenchActions, workbenchFeature } from './workbench.store';

const asList = (select: string | readonly string[] | null): readonly string[] =>
  select === null ? [] : typeof select === 'string' ? [select] : select;

/** The sections of a picture's settings. */
export type PictureSectionId = 'place' | 'crop' | 'look' | 'frame' | 'edge' | 'cutout' | 'photos';

/**
 * The one way round for changes: a gesture sets a draft, which is painted from
 * here and never goes through the store; at its end it is committed as one edit.
 */
@Injectable({ providedIn: 'root' })
export class Workbench {
  private readonly store = inject(Store);
  private readonly lock = inject(GraphicLock);
  private readonly token = this.store.selectSignal(workbenchFeature.selectToken);
  private readonly partly = this.store.selectSignal(workbenchFeature.selectPartly);
  private readonly history = this.store.selectSignal(workbenchFeature.selectHistory);
  readonly graphic = this.store.selectSignal(workbenchFeature.selectGraphic);
  /** What is selected, the one selected last at the end. */
  readonly selection = this.store.selectSignal(workbenchFeature.selectSelection);
  /** The only one selected; null where it is none or several. */
  readonly selectedId = this.store.selectSignal(workbenchFeature.selectSelected);
  readonly draft = signal<Edit | null>(null);

  /** The picture layer that is being cropped. */
  readonly cropping = linkedSignal<string | null, string | null>({
    source: this.selectedId,
    computation: (selected, before) => (before && before.value === selected ? selected : null),
  });

  /** Which of a picture's sections is open; stays as one goes from picture to picture. */
  readonly section = signal<PictureSectionId>('place');

  /** Which of a shape's sections is open. */
  readonly shapeSection = signal<'fill' | 'edge' | 'place'>('fill');

  /** The words layer that is being written where it stands. */
  readonly writingOn = linkedSignal<string | null, string | null>({
    source: this.selectedId,
    computation: (selected, before) => (before && before.value === selected ? selected : null),
  });

  /** The stretch of the selected words that its settings are for; all of them where null. */
  readonly stretch = linkedSignal<string | null, Stretch | null>({
    source: this.selectedId,
    computation: (selected, before) => (before && before.source === selected ? before.value : null),
  });

  /** A fix looked at before it is taken. */
  readonly preview = signal<Edit | null>(null);

  /** The graphic as it is being made: committed, with the draft applied. */
  readonly working = computed<Graphic | null>(() => {
    const graphic = this.graphic();
    const draft = this.draft();
    return graphic && draft ? applyEdit(graphic, this.toAll(draft, graphic)) : graphic;
  });

  /** What is on screen: also with a previewed fix. */
  readonly shown = computed<Graphic | null>(() => {
    const working = this.working();
    const preview = this.preview();
    return working && preview ? applyEdit(working, preview) : working;
  });

  private readonly frameId = signal<string | null>(null);
  /** The frame in hand: what the report judges, and what Export makes a file of. */
  readonly frame = computed<Frame | null>(() => {
    const shown = this.shown();
    return shown && frameOf(shown, this.frameId());
  });

  readonly selected = computed<Layer | null>(
    () => this.shown()?.layers.find((l) => l.id === this.selectedId()) ?? null,
  );

  /** The layers selected, in the order they were, where they are several; none otherwise. */
  readonly several = computed<readonly Layer[]>(() => {
    const ids = this.selection();
    const layers = this.shown()?.layers ?? [];
    const found = ids.length > 1 ? ids.flatMap((id) => layers.find((l) => l.id === id) ?? []) : [];
    return found.length > 1 ? found : [];
  });

  /** Whether what is open may be changed here: this tab holds its lock, and its session its token. */
  readonly writes = computed(() => this.token() !== null && this.lock.writes(this.graphic()?.id));

  /** Acts that wait for steps which are still being read, and what is done after them. */
  private readonly waiting: { readonly of: string; readonly action: Action }[] = [];

  constructor() {
    effect(() => {
      if (this.partly()) return;
      const id = this.graphic()?.id;
      for (const { of, action } of this.waiting.splice(0)) if (of === id && this.writes()) this.store.dispatch(action);
    });
  }

  /**
   * Every change goes through here: drafts are dropped, and nothing is changed without the lock. Where it goes to a
   * step that is not read yet, it is done once it is.
   */
  private act(action: Action, goesTo: (h: History) => string | null = () => null): void {
    this.draft.set(null);
    if (!this.writes()) return;
    const partly = this.partly();
    const history = this.history();
    const step = partly && history && goesTo(history);
    if (history && (this.waiting.length || (step !== null && !history.steps.has(step))))
      this.waiting.push({ of: current(history).id, action });
    else this.store.dispatch(action);
  }

  /** A change of one of several that are selected is a change of all, as far as they have the same settings. */
  private toAll(edit: Edit, graphic: Graphic): Edit {
    const ids = this.selection();
    if (edit.type !== 'replace-layer' || ids.length < 2 || !ids.includes(edit.layer.id)) return edit;
    const from = layerOf(graphic, edit.layer.id);
    if (!from) return edit;
    const others = graphic.layers.filter((l) => l.id !== from.id && ids.includes(l.id));
    // What is locked stays as it is, but for being unlocked.
    const changed = others.flatMap((l) => {
      const next = changedAlike(from, edit.layer, l);
      return next === l || (l.locked && next.locked) ? [] : [next];
    });
    const what = edit.name.startsWith(from.name) ? edit.name.slice(from.name.length) : `: ${edit.name}`;
    return {
      type: 'together',
      name: `${changed.length + 1} layers${what}`,
      ...(edit.merge === undefined ? {} : { merge: `${edit.merge}+${ids.length}` }),
      edits: [edit.layer, ...changed].map((layer) => ({ type: 'replace-layer', layer })),
    };
  }

  /** Commits an edit (and drops any draft). `select` names what to select with it: a layer, several, or nothing (null). */
  edit(edit: Edit, select?: string | readonly string[] | null): void {
    this.preview.set(null);
    const graphic = this.graphic();
    this.act(
      WorkbenchActions.edited({
        edit: graphic ? this.toAll(edit, graphic) : edit,
        step: crypto.randomUUID(),
        at: Date.now(),
        ...(select === undefined ? {} : { select: asList(select) }),
      }),
    );
  }

  /** Changes layers, and these alone, as one step; nothing where none is given. */
  changeAll(layers: readonly Layer[], name: string, merge?: string): void {
    if (layers.length)
      this.edit({
        type: 'together',
        name,
        ...(merge === undefined ? {} : { merge }),
        edits: layers.map((layer) => ({ type: 'replace-layer', layer })),
      });
  }

  /** Commits the draft in hand, if any. */
  commitDraft(): void {
    const draft = this.draft();
    if (draft) this.edit(draft);
  }

  /** Changes one layer; `merge` as in `Edit`. */
  change(layer: Layer, name: string, merge?: string): void {
    this.edit({ type: 'replace-layer', layer, name, ...(merge === undefined ? {} : { merge }) });
  }

  /** Goes into a layer: into its group first; then a picture is cropped, words are written. */
  open(layer: Layer): void {
    const inside = this.selectedId() === layer.id || !layer.group;
    this.select(layer.id);
    if (!inside) return;
    if (isPicture(layer) && !layer.locked) this.cropping.set(layer.id);
    else if (layer.role === 'words' && !layer.locked) this.writingOn.set(layer.id);
  }

  /** Takes a frame in hand. */
  take(frame: string): void {
    this.frameId.set(frame);
  }

  /** Selects one layer, several, or nothing. */
  select(layers: string | readonly string[] | null): void {
    const now = asList(layers);
    const before = this.selection();
    if (now.length !== before.length || now.some((id, i) => id !== before[i]))
      this.store.dispatch(WorkbenchActions.selected({ layers: now }));
  }

  /**
   * Takes hold of a layer on the canvas: with it its group, unless one is inside that already. `more`: beside what is
   * selected, or no longer where it was.
   */
  pick(id: string, more = false): void {
    const layers = this.shown()?.layers ?? [];
    const inside = layers.find((l) => l.id === this.selectedId())?.group?.id;
    const own = layers.find((l) => l.id === id)?.group?.id;
    const unit = inside !== undefined && inside === own ? [id] : wholeGroups(layers, [id]);
    if (!more) return this.select(unit);
    const before = this.selection().filter((s) => s !== BACKDROP);
    const rest = before.filter((s) => !unit.includes(s));
    this.select(unit.every((u) => before.includes(u)) ? rest : [...rest, ...unit]);
  }

  /** Selects layers with their groups, each once. */
  selectUnits(ids: readonly string[]): void {
    this.select(wholeGroups(this.shown()?.layers ?? [], ids));
  }

  /** Selects all that can be seen and changed. */
  selectAll(): void {
    this.select((this.graphic()?.layers ?? []).filter((l) => l.visible && !l.locked).map((l) => l.id));
  }

  /** Brings what follows from a graphic up to date, unless it is another by now. */
  amend(change: Change, from: Graphic): void {
    if (this.writes()) this.store.dispatch(WorkbenchActions.amended({ change, from }));
  }

  /** Says something of the last act, as a message that passes. */
  say(message: string): void {
    this.store.dispatch(WorkbenchActions.said({ message }));
  }

  /** A text longer than a block of words holds is cut by the field; here that is said. */
  pasting(event: ClipboardEvent): void {
    const { left } = wordsTaken(event.clipboardData?.getData('text/plain') ?? '');
    if (left) this.say(left);
  }

  undo(): void {
    this.act(WorkbenchActions.undone(), (h) => headOf(h).parent);
  }

  redo(): void {
    this.act(WorkbenchActions.redone(), (h) => h.next.get(h.head) ?? null);
  }

  /** Names a step as a version to come back to; an empty name makes it none. */
  call(step: string, name: string): void {
    this.act(WorkbenchActions.called({ step, name }), () => step);
  }

  goTo(step: string): void {
    this.act(WorkbenchActions.wentTo({ step }), () => '');
  }
}
