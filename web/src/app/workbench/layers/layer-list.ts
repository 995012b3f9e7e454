import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterRenderEffect,
  computed,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { type Group, type Layer, limits, nameFrom, textOf } from '@bright-slot/core';
import { Icon } from '../../ui/icon';
import { fillCss } from '../../ui/fill-css';
import { roleNames } from '../../document/role-names';
import { Workbench } from '../../document/workbench';
import { BACKDROP } from '../../document/workbench.store';
import { valueOf } from '../../ui/event-value';
import { AddLayers } from './add-layers';
import { withKeys } from '../../document/shortcuts';
import { LayerActions } from './layer-actions';
import { LayerPicture, layerPictureSize } from './layer-picture';

/** More layers than this are searched. */
const FEW = 8;

/** One thing in the row: a layer, or the head of a group. */
type Entry =
  | { readonly id: string; readonly kind: 'layer'; readonly at: number; readonly layer: Layer }
  | {
      readonly id: string;
      readonly kind: 'group';
      readonly at: number;
      readonly group: Group;
      readonly members: readonly Layer[];
      readonly folded: boolean;
    };

/** How layers are shown: in the slot's own proportions, in a row from back to front. */
@Component({
  selector: 'bs-layer-list',
  imports: [CdkDropList, CdkDrag, Icon, LayerPicture, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './layer-list.html',
  styles: `
    :host {
      display: flex;
      align-items: stretch;
      gap: 10px;
      min-width: 0;
    }
    :host-context(.beside) {
      flex-direction: column;
      align-items: stretch;
    }
    .back {
      flex: none;
      padding: 4px 5px 5px;
      border-top: 3px solid transparent;
      border-radius: var(--corner) var(--corner) 0 0;
    }
    .layer-item.clear {
      background: repeating-conic-gradient(#fff 0 25%, #e6dfd0 0 50%) 0 0 / 12px 12px;
    }
    .back .layer-item {
      cursor: pointer;
    }
    .insert {
      position: absolute;
      left: -15px;
      top: 8px;
      width: 24px;
      height: 24px;
      padding: 0;
      display: inline-flex;
      align-items: center;
      justify-content: center;
      border: 1px solid transparent;
      border-radius: 50%;
      background: none;
      color: var(--ink-soft);
      cursor: pointer;
      z-index: 1;
    }
    .insert bs-icon {
      transform: scale(0.75);
    }
    .insert:hover,
    .insert:focus-visible {
      border-color: var(--border);
      background: var(--surface);
      color: var(--ink);
    }
    ul {
      flex: 1;
      min-width: 0;
      list-style: none;
      margin: 0;
      padding: 0;
      display: flex;
      gap: 10px;
      overflow-x: auto;
      scrollbar-width: thin;
      min-height: 62px;
      align-items: stretch;
    }
    :host-context(.beside) ul {
      flex-wrap: wrap;
    }
    li {
      position: relative;
      margin-left: 8px;
      flex: none;
      border-radius: var(--corner) var(--corner) 0 0;
      padding: 4px 5px 5px;
      border-top: 3px solid transparent;
    }
    li.selected,
    .back.selected {
      background: var(--ground);
      border-top-color: var(--light);
    }
    li.none {
      align-self: center;
    }
    :host-context(.beside) li.none {
      white-space: normal;
      min-width: 0;
      flex: 1;
    }
    li.hidden .layer-item {
      opacity: 0.35;
    }
    .layer-item {
      display: block;
      padding: 0;
      border: 1px solid var(--border);
      background: var(--ground-deep);
      border-radius: 3px;
      cursor: grab;
      overflow: hidden;
    }
    li.in-group {
      margin-left: 0;
      background: linear-gradient(var(--border), var(--border)) left bottom / calc(100% + 10px) 2px no-repeat;
    }
    li.in-group.selected {
      background-color: var(--ground);
    }
    li.group {
      display: flex;
      flex-direction: column;
      justify-content: flex-end;
      background: linear-gradient(var(--border), var(--border)) left bottom / calc(100% + 10px) 2px no-repeat;
    }
    li.group.folded {
      background: none;
    }
    .fold {
      flex: 1;
      display: flex;
      align-items: center;
      gap: 4px;
      padding: 0 8px 0 2px;
      border: 1px solid var(--border);
      border-radius: 3px;
      background: var(--surface);
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink);
      cursor: grab;
      min-width: 62px;
    }
    .fold .many {
      font-weight: 400;
      color: var(--ink-soft);
    }
    .stack {
      display: flex;
    }
    .stack bs-layer-picture:not(:first-child) {
      margin-left: -70%;
    }
    .search {
      flex: none;
      align-self: center;
      width: 120px;
    }
    :host-context(.beside) .search {
      align-self: stretch;
      width: auto;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 1px;
      height: 22px;
      max-width: 140px;
    }
    .name {
      flex: 1;
      font-size: 12px;
      font-weight: 500;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .rename {
      flex: 1;
      min-width: 60px;
      width: 90px;
      font:
        500 12px/1 'Public Sans Variable',
        sans-serif;
      height: 20px;
      border: 1px solid var(--border);
      border-radius: 3px;
    }
    .tiny {
      width: 24px;
      height: 24px;
      margin: -1px 0;
      padding: 0;
      border: 0;
      background: none;
      color: var(--ink-soft);
      cursor: pointer;
      border-radius: 4px;
      display: inline-flex;
      align-items: center;
      justify-content: center;
    }
    .tiny:hover {
      background: var(--ground-deep);
      color: var(--ink);
    }
    .cdk-drag-preview {
      background: var(--surface);
      box-shadow: 0 4px 16px rgb(31 42 48 / 22%);
      list-style: none;
      padding: 4px 5px;
      border-radius: var(--corner);
    }
    .cdk-drag-placeholder {
      opacity: 0.35;
    }
    .cdk-drop-list-dragging li:not(.cdk-drag-placeholder) {
      transition: transform var(--quick);
    }
  `,
})
export class LayerList {
  /** The menu of what can be added; the insertion points open it. */
  readonly addMenu = input.required<MatMenu>();
  private readonly workbench = inject(Workbench);
  protected readonly add = inject(AddLayers);
  protected readonly backdropId = BACKDROP;
  protected readonly backdrop = computed(() => {
    const b = this.workbench.shown()?.backdrop;
    if (!b || b.kind === 'none') return { text: 'none', colour: '' };
    return { text: b.kind === 'colour' ? b.colour : 'a gradient', colour: fillCss(b, this.backSize()) };
  });
  protected readonly backSize = computed(() => layerPictureSize(this.workbench.graphic()!.canvas));
  protected readonly actions = inject(LayerActions);
  protected readonly withKeys = withKeys;
  protected readonly valueOf = valueOf;
  protected readonly layers = computed(() => this.workbench.working()?.layers ?? []);
  protected readonly selectedId = this.workbench.selectedId;
  protected readonly selection = this.workbench.selection;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly tall = computed(() => {
    const g = this.workbench.graphic();
    return g !== null && g.canvas.width / g.canvas.height < 1.6;
  });
  protected readonly renaming = signal<string | null>(null);
  protected readonly said = signal('');
  /** The groups that are folded. */
  private readonly folded = signal<ReadonlySet<string>>(new Set());
  protected readonly asked = signal('');
  /** So many layers are looked through by eye. */
  protected readonly searched = computed(() => this.layers().length > FEW || this.asked() !== '');

  /** What stands in the row, from back to front: layers, and before those of a group its head, or that alone. */
  protected readonly entries = computed((): readonly Entry[] => {
    const layers = this.layers();
    const asked = this.asked().trim().toLowerCase();
    const fits = (l: Layer) =>
      !asked ||
      `${l.name} ${roleNames[l.role]} ${l.group?.name ?? ''} ${l.role === 'words' ? textOf(l) : ''}`
        .toLowerCase()
        .includes(asked);
    return layers.flatMap((layer, at): Entry[] => {
      const { group } = layer;
      const own: Entry[] = fits(layer) ? [{ id: layer.id, kind: 'layer', at, layer }] : [];
      if (!group) return own;
      const folded = this.folded().has(group.id) && !asked;
      if (layers[at - 1]?.group?.id === group.id) return folded ? [] : own;
      const members = layers.filter((l) => l.group?.id === group.id);
      const head: Entry = { id: `group ${group.id}`, kind: 'group', at, group, members, folded };
      return members.some(fits) ? [head, ...(folded ? [] : own)] : [];
    });
  });

  constructor() {
    // What is selected, on the canvas too, is seen in the list; only their own row is scrolled for it.
    afterRenderEffect({
      read: () => {
        if (!this.selection().length) return;
        const item = this.host.nativeElement.querySelector<HTMLElement>('li.selected');
        const row = item?.parentElement;
        if (!item || !row) return;
        const [a, b] = [item.getBoundingClientRect(), row.getBoundingClientRect()];
        if (a.left < b.left) row.scrollLeft += a.left - b.left;
        else if (a.right > b.right) row.scrollLeft += a.right - b.right;
      },
    });
  }

  protected describe(layer: Layer, i: number): string {
    const group = layer.group ? `, in ${layer.group.name}` : '';
    return `${roleNames[layer.role]}: ${layer.name}, ${i + 1} of ${this.layers().length} from the back${group}${layer.visible ? '' : ', hidden'}${layer.locked ? ', locked' : ''}`;
  }

  protected selectBackdrop(): void {
    this.workbench.select(BACKDROP);
  }

  protected first(event: Event): void {
    event.preventDefault();
    this.host.nativeElement.querySelector<HTMLElement>('li .layer-item, li .fold')?.focus();
  }

  /** One; with Ctrl or ⌘ beside the others; with Shift all from the one selected last. */
  protected select(layer: Layer, event: MouseEvent): void {
    const before = this.selection().filter((id) => id !== BACKDROP);
    const last = this.layers().findIndex((l) => l.id === before.at(-1));
    if (event.shiftKey && last >= 0) {
      const at = this.layers().indexOf(layer);
      const range = this.layers()
        .slice(Math.min(at, last), Math.max(at, last) + 1)
        .map((l) => l.id);
      this.workbench.select([...new Set([...before, ...range.filter((id) => id !== layer.id), layer.id])]);
    } else if (event.ctrlKey || event.metaKey)
      this.workbench.select(before.includes(layer.id) ? before.filter((id) => id !== layer.id) : [...before, layer.id]);
    else this.workbench.select(layer.id);
  }

  protected isWhole(members: readonly Layer[]): boolean {
    return members.every((l) => this.selection().includes(l.id));
  }

  protected selectGroup(members: readonly Layer[], event: MouseEvent): void {
    const before = event.shiftKey || event.ctrlKey || event.metaKey ? this.selection() : [];
    const ids = members.map((l) => l.id);
    this.workbench.select([...before.filter((id) => id !== BACKDROP && !ids.includes(id)), ...ids]);
  }

  protected fold(group: Group): void {
    const next = new Set(this.folded());
    if (!next.delete(group.id)) next.add(group.id);
    this.folded.set(next);
  }

  protected key(event: KeyboardEvent, entry: Entry): void {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (event.key === 'F2') {
      event.preventDefault();
      this.startRename(entry.id);
    }
    if (!by || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    if (event.altKey) {
      if (entry.kind === 'layer') this.move(entry.layer, entry.at + by);
      else this.actions.order(by > 0 ? 'forward' : 'back', entry.members);
      return;
    }
    const all = [...this.host.nativeElement.querySelectorAll<HTMLElement>('.layer-item, .fold')];
    all[all.indexOf(event.currentTarget as HTMLElement) + by]?.focus();
  }

  protected move(layer: Layer, to: number): void {
    if (to < 0 || to >= this.layers().length) return;
    this.workbench.edit({ type: 'move-layer', id: layer.id, to, name: `${layer.name} moved to place ${to + 1}` });
    this.said.set(`${layer.name} is now ${to + 1} of ${this.layers().length} from the back.`);
  }

  protected dropped(event: CdkDragDrop<unknown, unknown, Entry>): void {
    const { previousIndex: from, currentIndex: to } = event;
    if (from === to) return;
    const entry = event.item.data;
    const ids = entry.kind === 'layer' ? [entry.layer.id] : entry.members.map((l) => l.id);
    const rest = this.entries().filter((_, i) => i !== from);
    // What is seen to stand before it now, all of it where that is a folded group.
    const before = new Set(
      rest
        .slice(0, to)
        .flatMap((e) => (e.kind === 'layer' ? [e.layer.id] : e.folded ? e.members.map((l) => l.id) : [])),
    );
    const place = this.layers().filter((l) => !ids.includes(l.id) && before.has(l.id)).length;
    const name = entry.kind === 'layer' ? entry.layer.name : entry.group.name;
    this.workbench.edit({ type: 'move-layers', ids, to: place, name: `${name} moved to place ${place + 1}` });
    this.said.set(`${name} is now ${place + 1} of ${this.layers().length} from the back.`);
  }

  private changeOnly(layer: Layer, name: string): void {
    this.workbench.changeAll([layer], name);
  }

  protected toggle(layer: Layer): void {
    this.changeOnly({ ...layer, visible: !layer.visible }, `${layer.name} ${layer.visible ? 'hidden' : 'shown'}`);
  }

  protected lock(layer: Layer): void {
    this.changeOnly({ ...layer, locked: !layer.locked }, `${layer.name} ${layer.locked ? 'unlocked' : 'locked'}`);
  }

  protected seen(members: readonly Layer[]): boolean {
    return members.some((l) => l.visible);
  }

  protected toggleGroup(group: Group, members: readonly Layer[]): void {
    const visible = !this.seen(members);
    this.workbench.changeAll(
      members.map((l) => ({ ...l, visible })),
      `${group.name} ${visible ? 'shown' : 'hidden'}`,
    );
  }

  protected renameGroup(group: Group, members: readonly Layer[], to: string): void {
    if (this.renaming() !== `group ${group.id}`) return;
    this.renaming.set(null);
    const name = nameFrom(to, limits.name, '');
    if (name && name !== group.name)
      this.workbench.changeAll(
        members.map((l) => ({ ...l, group: { id: group.id, name } })),
        `${group.name} renamed to ${name}`,
      );
  }

  protected startRename(id: string): void {
    this.renaming.set(id);
    setTimeout(() => document.querySelector<HTMLInputElement>('.rename')?.select());
  }

  protected rename(layer: Layer, to: string): void {
    if (this.renaming() !== layer.id) return;
    this.renaming.set(null);
    const name = nameFrom(to, limits.name, '');
    if (name && name !== layer.name) this.changeOnly({ ...layer, name }, `${layer.name} renamed to ${name}`);
  }
}
