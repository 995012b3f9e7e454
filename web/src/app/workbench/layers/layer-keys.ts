import { Injectable, inject } from '@angular/core';
import { CLIP_TYPE, clipText } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { shortcutOf, type ShortcutId } from '../../document/shortcuts';
import { AddLayers } from './add-layers';
import { BringIn } from './bring-in';
import { LayerActions } from './layer-actions';

/** Whether a key goes to a control that takes it itself, or to what lies over the page; a tooltip takes none. */
function typing(target: EventTarget | null): boolean {
  const e = target as HTMLElement | null;
  return !!e?.closest?.(
    'input:not([type=range]):not([type=color]), textarea, select, [contenteditable=true], .mat-mdc-select, .cdk-overlay-pane:not(.mat-mdc-tooltip-panel)',
  );
}

const ways: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The keyboard's way to what the pointer does on the canvas, and the clipboard's. */
@Injectable()
export class LayerKeys {
  private readonly workbench = inject(Workbench);
  private readonly actions = inject(LayerActions);
  private readonly bring = inject(BringIn);
  private readonly add = inject(AddLayers);

  /** What was copied here last, as it lies on the clipboard. */
  held: string | null = null;

  /** What a key does, where it does anything of the layers. */
  private readonly does: Partial<Record<ShortcutId, () => void>> = {
    all: () => this.workbench.selectAll(),
    duplicate: () => this.actions.duplicate(),
    // Nothing else is told of Ctrl X where no text is.
    cut: () => this.copyNow(true),
    delete: () => this.actions.remove(),
    group: () => this.actions.makeGroup(),
    ungroup: () => this.actions.ungroup(),
    forward: () => this.actions.order('forward'),
    back: () => this.actions.order('back'),
    front: () => this.actions.order('front'),
    behind: () => this.actions.order('behind'),
    centre: () => this.actions.centre(),
  };

  key(event: KeyboardEvent): void {
    if (event.defaultPrevented) return;
    const take = (action: () => void) => {
      event.preventDefault();
      action();
    };
    const shortcut = shortcutOf(event);
    if (shortcut === 'undo' || shortcut === 'redo') {
      // Words being typed are undone word by word through our own steps, not letter by letter.
      (document.activeElement as HTMLElement | null)?.closest?.('textarea')?.dispatchEvent(new Event('change'));
      // A figure that was taken is the graphic's, and so is undoing it.
      if (typing(event.target) && !(event.target as HTMLElement).matches('textarea, [data-taken]')) return;
      return take(() => (shortcut === 'redo' ? this.workbench.redo() : this.workbench.undo()));
    }
    if (typing(event.target)) return;
    const cropping = this.workbench.cropping() !== null;
    const at = event.target as HTMLElement | null;
    if (cropping && (event.key === 'Escape' || (event.key === 'Enter' && !at?.closest('button, a'))))
      return take(() => this.workbench.cropping.set(null));
    if (event.key === 'Escape') return this.leave();
    if (!this.workbench.writes()) return;
    const does = event.key === 'Backspace' ? this.does.delete : shortcut && this.does[shortcut];
    if (does) return take(does);
    const way = ways[event.key];
    if (!way || event.ctrlKey || event.metaKey || event.altKey || !this.actions.chosen().some((l) => !l.locked)) return;
    // Arrow keys belong to whatever control has the focus, unless that is the canvas or nothing.
    if (at && at !== document.body && !at.closest('.stage, [role=tab]')) return;
    take(() => this.actions.nudge({ x: way[0], y: way[1] }, event.shiftKey));
  }

  /** Out of what is selected: from a layer to its group, then to nothing. */
  private leave(): void {
    const group = this.workbench.selected()?.group?.id;
    const members = (this.workbench.graphic()?.layers ?? []).filter((l) => group && l.group?.id === group);
    this.workbench.select(members.length ? members.map((l) => l.id) : null);
  }

  /** Copies what is selected, unless text is. */
  copied(event: ClipboardEvent): void {
    if (typing(event.target) || document.getSelection()?.toString() || !event.clipboardData) return;
    const clip = this.actions.clip();
    if (!clip) return;
    this.held = clip;
    event.clipboardData.setData(CLIP_TYPE, clip);
    event.clipboardData.setData('text/plain', clipText(this.actions.chosen()));
    event.preventDefault();
  }

  /** Copies where a menu asks for it, or cuts: no other way reaches the clipboard in every browser. */
  copyNow(cut: boolean): void {
    (document.activeElement as HTMLElement | null)?.blur();
    document.getSelection()?.removeAllRanges();
    // `copied` hears of it and fills the clipboard; writing to it otherwise needs a permission, and not all browsers can.
    if (document.execCommand('copy') && cut) this.actions.remove();
  }

  /** Layers of ours, files, or text as words. */
  async pasted(event: ClipboardEvent): Promise<void> {
    const data = event.clipboardData;
    if (!data || !this.workbench.writes()) return;
    const files = [...data.files];
    if (typing(event.target) && !files.length) return;
    const layers = data.getData(CLIP_TYPE);
    const text = data.getData('text/plain');
    if (!layers && !files.length && !text.trim()) return;
    event.preventDefault();
    if (layers) this.bring.tell(await this.actions.paste(layers));
    else if (files.length) await this.bring.files(files);
    else await this.add.written(text);
  }
}
