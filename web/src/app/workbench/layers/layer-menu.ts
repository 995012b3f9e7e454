import { ChangeDetectionStrategy, Component, computed, inject, output, signal, viewChild } from '@angular/core';
import { MatDivider } from '@angular/material/divider';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import type { Layer } from '@bright-slot/core';
import { roleNames } from '../../document/role-names';
import { keysOf, type ShortcutId } from '../../document/shortcuts';
import { Workbench } from '../../document/workbench';
import { BringIn } from './bring-in';
import { LayerActions } from './layer-actions';
import { LayerKeys } from './layer-keys';
import { LayerPicture } from './layer-picture';

/** So many of what lies at a place are listed. */
const MOST = 8;

/** What lies at a place, also beneath, and what can be done to what is selected. */
@Component({
  selector: 'bs-layer-menu',
  imports: [LayerPicture, MatDivider, MatMenu, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      class="at"
      tabindex="-1"
      aria-label="What lies here"
      [style.left.px]="at().x"
      [style.top.px]="at().y"
      [matMenuTriggerFor]="menu"
      (menuClosed)="closed()"
    ></button>
    <mat-menu #menu="matMenu">
      @if (there().length > 1) {
        <p class="head" aria-hidden="true">Lies here, from front to back</p>
        @for (layer of there(); track layer.id) {
          <button
            mat-menu-item
            type="button"
            class="there"
            [attr.aria-label]="roleNames[layer.role] + ': ' + layer.name + (layer.locked ? ', locked' : '')"
            (click)="workbench.select(layer.id)"
          >
            <span class="thing"><bs-layer-picture [layer]="layer" /></span>
            {{ layer.name }}
          </button>
        }
        <mat-divider />
      }
      @for (item of items(); track item.id) {
        @if (item.apart) {
          <mat-divider />
        }
        <button mat-menu-item type="button" [disabled]="item.disabled" (click)="item.act()">
          <span class="line"
            ><span>{{ item.name }}</span
            ><span class="keys">{{ item.keys }}</span></span
          >
        </button>
      }
    </mat-menu>
  `,
  styles: `
    .at {
      position: fixed;
      width: 1px;
      height: 1px;
      padding: 0;
      border: 0;
      opacity: 0;
      pointer-events: none;
    }
    .head {
      margin: 0;
      padding: 8px 12px 2px;
      font-size: 12px;
      color: var(--ink-soft);
    }
    .thing {
      display: inline-block;
      vertical-align: middle;
      margin-right: 8px;
      border: 1px solid var(--hairline);
      overflow: hidden;
      max-width: 96px;
      max-height: 32px;
    }
    .line {
      display: flex;
      justify-content: space-between;
      gap: 28px;
      min-width: 220px;
    }
    .keys {
      color: var(--ink-soft);
      font-size: 12px;
    }
  `,
})
export class LayerMenu {
  protected readonly workbench = inject(Workbench);
  private readonly actions = inject(LayerActions);
  private readonly keys = inject(LayerKeys);
  private readonly bring = inject(BringIn);
  private readonly trigger = viewChild.required(MatMenuTrigger);
  protected readonly roleNames = roleNames;
  protected readonly at = signal({ x: 0, y: 0 });
  protected readonly there = signal<readonly Layer[]>([]);
  readonly shortcuts = output();
  /** What waits for the menu to be gone: the focus is where it was by then. */
  private after: (() => void) | null = null;

  /** Shows it at a place of the window. What lies in front there is selected, unless something there is already. */
  show(place: { readonly x: number; readonly y: number }, there: readonly Layer[]): void {
    this.at.set({ x: place.x, y: place.y });
    this.there.set(there.slice(0, MOST));
    const front = there.find((l) => !l.locked && l.role !== 'veil') ?? there[0];
    const ids = this.workbench.selection();
    if (front && !there.some((l) => ids.includes(l.id))) this.workbench.pick(front.id);
    // Once it stands there.
    setTimeout(() => this.trigger().openMenu());
  }

  protected closed(): void {
    const after = this.after;
    this.after = null;
    if (after) setTimeout(after);
  }

  protected readonly items = computed(() => {
    const chosen = this.actions.chosen();
    const some = chosen.length > 0;
    const group = this.actions.group();
    const locked = chosen.every((l) => l.locked);
    const hidden = chosen.every((l) => !l.visible);
    const item = (id: ShortcutId | null, name: string, act: () => void, disabled = !some, apart = false) => ({
      id: id ?? name,
      name,
      act,
      disabled,
      apart,
      keys: id ? keysOf(id) : '',
    });
    const set = (change: Partial<Layer>, what: string) => () =>
      this.workbench.changeAll(
        chosen.map((l) => ({ ...l, ...change }) as Layer),
        `${chosen.length === 1 ? chosen[0]!.name : `${chosen.length} layers`} ${what}`,
      );
    return [
      // Copying goes the browser's own way, so that other tabs and programs have it too.
      item('copy', 'Copy', () => (this.after = () => this.keys.copyNow(false))),
      item('cut', 'Cut', () => (this.after = () => this.keys.copyNow(true))),
      item('paste', 'Paste', () => void this.paste(), false),
      item('duplicate', 'Duplicate', () => this.actions.duplicate()),
      item('delete', 'Delete', () => this.actions.remove()),
      ...(group
        ? [item('ungroup', 'Undo the group', () => this.actions.ungroup(), false, true)]
        : [item('group', 'Make a group', () => this.actions.makeGroup(), chosen.length < 2, true)]),
      item('centre', 'To the middle, both ways', () => this.actions.centre()),
      item('forward', 'Further forward', () => this.actions.order('forward'), !some, true),
      item('back', 'Further back', () => this.actions.order('back')),
      item('front', 'To the front', () => this.actions.order('front')),
      item('behind', 'To the back', () => this.actions.order('behind')),
      item(
        null,
        locked && some ? 'Unlock' : 'Lock',
        set({ locked: !locked }, locked ? 'unlocked' : 'locked'),
        !some,
        true,
      ),
      item(null, hidden && some ? 'Show' : 'Hide', set({ visible: hidden }, hidden ? 'shown' : 'hidden')),
      item('all', 'Select everything', () => this.workbench.selectAll(), false, true),
      item('sheet', 'Shortcuts', () => (this.after = () => this.shortcuts.emit()), false),
    ];
  });

  private async paste(): Promise<void> {
    const held = this.keys.held;
    if (held) this.bring.tell(await this.actions.paste(held));
    else this.workbench.say(`Press ${keysOf('paste')} to paste what was copied elsewhere.`);
  }
}
