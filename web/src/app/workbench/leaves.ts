import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { mainFrame, type Layer } from '@bright-slot/core';
import { Icon } from '../shared/icon';
import { Workbench } from '../state/draft';
import { LayerKeys } from './layer-keys';
import { LeafPicture } from './leaf-picture';

/** How layers are shown: in the slot's own proportions, in a row from back to front. */
@Component({
  selector: 'bs-leaves',
  imports: [CdkDropList, CdkDrag, Icon, LeafPicture, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul
      cdkDropList
      [cdkDropListOrientation]="tall() ? 'mixed' : 'horizontal'"
      aria-label="Layers, back to front"
      (cdkDropListDropped)="dropped($event)"
    >
      @for (layer of layers(); track layer.id; let i = $index) {
        <li cdkDrag [cdkDragData]="layer" [class.selected]="layer.id === selectedId()" [class.hidden]="!layer.visible">
          <button
            type="button"
            class="leaf"
            [attr.aria-pressed]="layer.id === selectedId()"
            [attr.aria-label]="describe(layer, i)"
            (click)="select(layer)"
            (keydown)="key($event, layer, i)"
            (dblclick)="renaming.set(layer.id)"
          >
            <bs-leaf-picture [layer]="layer" />
          </button>
          <div class="row">
            @if (renaming() === layer.id) {
              <input
                class="rename"
                [value]="layer.name"
                maxlength="120"
                [attr.aria-label]="'New name for ' + layer.name"
                #box
                (blur)="rename(layer, box.value)"
                (keydown.enter)="box.blur()"
                (keydown.escape)="renaming.set(null)"
              />
            } @else {
              <span class="name">{{ layer.name }}</span>
            }
            @if (layer.locked) {
              <bs-icon name="lock" />
            }
            <button
              type="button"
              class="tiny"
              [attr.aria-label]="(layer.visible ? 'Hide ' : 'Show ') + layer.name"
              [attr.aria-pressed]="!layer.visible"
              (click)="toggle(layer)"
            >
              <bs-icon [name]="layer.visible ? 'eye' : 'eye-off'" />
            </button>
            <button type="button" class="tiny" [matMenuTriggerFor]="menu" [attr.aria-label]="'More for ' + layer.name">
              <bs-icon name="dots" />
            </button>
          </div>
          <mat-menu #menu="matMenu" yPosition="above">
            <button mat-menu-item type="button" [disabled]="i === 0" (click)="move(layer, i - 1)">Further back</button>
            <button mat-menu-item type="button" [disabled]="i === layers().length - 1" (click)="move(layer, i + 1)">
              Further forward
            </button>
            <button mat-menu-item type="button" (click)="startRename(layer)">Rename</button>
            <button mat-menu-item type="button" (click)="keys.duplicate(layer)">Duplicate (Ctrl D)</button>
            <button mat-menu-item type="button" (click)="lock(layer)">{{ layer.locked ? 'Unlock' : 'Lock' }}</button>
            <button mat-menu-item type="button" (click)="remove(layer)">Delete</button>
          </mat-menu>
        </li>
      } @empty {
        <li class="none quiet small-text">Nothing on the canvas yet. Add a photo, or drop one here.</li>
      }
    </ul>
    <span class="visually-hidden" aria-live="polite">{{ said() }}</span>
  `,
  styles: `
    :host {
      display: block;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      display: flex;
      gap: 10px;
      overflow-x: auto;
      scrollbar-width: thin;
      min-height: 62px;
      align-items: flex-end;
    }
    :host-context(.beside) ul {
      flex-wrap: wrap;
    }
    li {
      flex: none;
      border-radius: var(--corner) var(--corner) 0 0;
      padding: 4px 5px 5px;
      border-top: 3px solid transparent;
    }
    li.selected {
      background: var(--ground);
      border-top-color: var(--light);
    }
    li.none {
      align-self: center;
    }
    li.hidden .leaf {
      opacity: 0.35;
    }
    .leaf {
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
export class Leaves {
  private readonly workbench = inject(Workbench);
  protected readonly keys = inject(LayerKeys);
  protected readonly layers = computed(() => this.workbench.working()?.layers ?? []);
  protected readonly selectedId = this.workbench.selectedId;
  protected readonly tall = computed(() => {
    const g = this.workbench.graphic();
    return g !== null && mainFrame(g).slot.width / mainFrame(g).slot.height < 1.6;
  });
  protected readonly renaming = signal<string | null>(null);
  protected readonly said = signal('');

  protected describe(layer: Layer, i: number): string {
    const role = { photo: 'Photo', logo: 'Logo', words: 'Words' }[layer.role];
    return `${role}: ${layer.name}, ${i + 1} of ${this.layers().length} from the back${layer.visible ? '' : ', hidden'}${layer.locked ? ', locked' : ''}`;
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
    list?.querySelectorAll<HTMLElement>('.leaf')[i + by]?.focus();
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
    const name = to.trim().slice(0, 120);
    if (name && name !== layer.name) this.workbench.change({ ...layer, name }, `${layer.name} renamed to ${name}`);
  }

  protected remove(layer: Layer): void {
    this.workbench.edit({ type: 'remove-layer', id: layer.id, name: `${layer.name} deleted` });
  }
}
