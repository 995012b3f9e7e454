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
import { type Layer, limits, nameFrom } from '@bright-slot/core';
import { Icon } from '../../ui/icon';
import { fillCss } from '../../ui/fill-css';
import { roleNames } from '../../document/role-names';
import { Workbench } from '../../document/workbench';
import { BACKDROP } from '../../document/workbench.store';
import { AddLayers } from './add-layers';
import { LayerKeys } from './layer-keys';
import { LayerPicture, layerPictureSize } from './layer-picture';

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
  protected readonly keys = inject(LayerKeys);
  protected readonly layers = computed(() => this.workbench.working()?.layers ?? []);
  protected readonly selectedId = this.workbench.selectedId;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly tall = computed(() => {
    const g = this.workbench.graphic();
    return g !== null && g.canvas.width / g.canvas.height < 1.6;
  });
  protected readonly renaming = signal<string | null>(null);
  protected readonly said = signal('');

  constructor() {
    // What is selected, on the canvas too, is seen in the list; only their own row is scrolled for it.
    afterRenderEffect({
      read: () => {
        if (!this.selectedId()) return;
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
    return `${roleNames[layer.role]}: ${layer.name}, ${i + 1} of ${this.layers().length} from the back${layer.visible ? '' : ', hidden'}${layer.locked ? ', locked' : ''}`;
  }

  protected selectBackdrop(): void {
    this.workbench.select(BACKDROP);
  }

  protected first(event: Event): void {
    event.preventDefault();
    (event.currentTarget as HTMLElement)
      .closest('bs-layer-list')
      ?.querySelector<HTMLElement>('li .layer-item')
      ?.focus();
  }

  protected select(layer: Layer): void {
    this.workbench.select(layer.id);
  }

  protected key(event: KeyboardEvent, layer: Layer, i: number): void {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (event.key === 'F2') {
      event.preventDefault();
      this.startRename(layer);
    }
    if (!by) return;
    event.preventDefault();
    const list = (event.currentTarget as HTMLElement).closest('ul');
    if (event.altKey) {
      this.move(layer, i + by);
      return;
    }
    const all = list?.parentElement?.querySelectorAll<HTMLElement>('.layer-item');
    all?.[i + 1 + by]?.focus();
  }

  protected move(layer: Layer, to: number): void {
    if (to < 0 || to >= this.layers().length) return;
    this.workbench.edit({ type: 'move-layer', id: layer.id, to, name: `${layer.name} moved to place ${to + 1}` });
    this.said.set(`${layer.name} is now ${to + 1} of ${this.layers().length} from the back.`);
  }

  protected dropped(event: CdkDragDrop<unknown, unknown, Layer>): void {
    if (event.previousIndex !== event.currentIndex) this.move(event.item.data, event.currentIndex);
  }

  protected toggle(layer: Layer): void {
    this.workbench.change({ ...layer, visible: !layer.visible }, `${layer.name} ${layer.visible ? 'hidden' : 'shown'}`);
  }

  protected lock(layer: Layer): void {
    this.workbench.change({ ...layer, locked: !layer.locked }, `${layer.name} ${layer.locked ? 'unlocked' : 'locked'}`);
  }

  protected startRename(layer: Layer): void {
    this.renaming.set(layer.id);
    setTimeout(() => document.querySelector<HTMLInputElement>('.rename')?.select());
  }

  protected rename(layer: Layer, to: string): void {
    if (this.renaming() !== layer.id) return;
    this.renaming.set(null);
    const name = nameFrom(to, limits.name, '');
    if (name && name !== layer.name) this.workbench.change({ ...layer, name }, `${layer.name} renamed to ${name}`);
  }
}
