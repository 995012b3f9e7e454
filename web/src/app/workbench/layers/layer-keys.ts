import { Injectable, inject, signal } from '@angular/core';
import {
  carriedBy,
  isPicture,
  movedLayer,
  pictureGeometry,
  removing,
  withImageAt,
  type Layer,
  cutText,
  limits,
} from '@bright-slot/core';
import { TypeService } from '../../type/type.service';
import { Workbench } from '../../document/workbench';

/** Whether a key goes to a control that takes it itself. */
function typing(target: EventTarget | null): boolean {
  const e = target as HTMLElement | null;
  return !!e?.closest?.(
    'input:not([type=range]):not([type=color]), textarea, select, [contenteditable=true], .mat-mdc-select, .cdk-overlay-container',
  );
}

/** A copy under a new id, set off a little so that it can be told from its original. */
export function copyOf(layer: Layer, canvas: { width: number; height: number }): Layer {
  const copy = {
    ...layer,
    id: crypto.randomUUID().slice(0, 8),
    name: cutText(`${cutText(layer.name, limits.name - 6)}, copy`, limits.name),
  };
  return !isPicture(layer) || layer.place.mode === 'free' ? movedLayer(copy, { x: 12, y: 12 }, canvas) : copy;
}

/** The keyboard's way to what the pointer does on the canvas. */
@Injectable()
export class LayerKeys {
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);
  private readonly held = signal<Layer | null>(null);

  key(event: KeyboardEvent): void {
    if (event.defaultPrevented) return;
    const chord = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    const take = (action: () => void) => {
      event.preventDefault();
      action();
    };
    if (chord && (key === 'z' || key === 'y')) {
      // Words being typed are undone word by word through our own steps, not letter by letter.
      (document.activeElement as HTMLElement | null)?.closest?.('textarea')?.dispatchEvent(new Event('change'));
      // A figure that was taken is the graphic's, and so is undoing it.
      if (typing(event.target) && !(event.target as HTMLElement).matches('textarea, [data-taken]')) return;
      return take(() => (key === 'y' || event.shiftKey ? this.workbench.redo() : this.workbench.undo()));
    }
    if (typing(event.target)) return;
    const cropping = this.workbench.cropping() !== null;
    if (cropping && (key === 'escape' || (key === 'enter' && !(event.target as HTMLElement).closest('button, a'))))
      return take(() => this.workbench.cropping.set(null));
    if (key === 'escape') return this.workbench.select(null);
    const layer = this.workbench.selected();
    const graphic = this.workbench.graphic();
    if (!layer || !graphic) {
      if (chord && key === 'v' && this.held()) this.paste();
      return;
    }
    if (chord && key === 'd') return take(() => this.duplicate(layer));
    if (chord && key === 'c' && !document.getSelection()?.toString()) return take(() => this.held.set(layer));
    if (chord && key === 'v' && this.held()) return this.paste();
    if (chord || layer.locked) return;
    if (key === 'delete' || key === 'backspace') return take(() => this.remove(layer));
    const way: Record<string, [number, number]> = {
      arrowleft: [-1, 0],
      arrowright: [1, 0],
      arrowup: [0, -1],
      arrowdown: [0, 1],
    };
    const step = way[key];
    const at = event.target as HTMLElement | null;
    // Arrow keys belong to whatever control has the focus, unless that is the canvas or nothing.
    if (!step || event.altKey || (at && at !== document.body && !at.closest('.stage, [role=tab]'))) return;
    take(() => {
      const by = event.shiftKey ? 10 : 1;
      if (cropping && isPicture(layer)) {
        const { image } = pictureGeometry(layer, graphic.canvas);
        const to = { ...image, x: image.x + step[0] * by, y: image.y + step[1] * by };
        this.workbench.change(withImageAt(layer, to, graphic.canvas), `${layer.name} cropped`, `crop:${layer.id}`);
        return;
      }
      const carried = carriedBy(layer, graphic);
      const moved = movedLayer(carried, { x: step[0] * by, y: step[1] * by }, graphic.canvas);
      // A veil, or a band along a side, lies as it is set to.
      if (moved !== carried) this.workbench.change(moved, `${layer.name} moved`, `nudge:${layer.id}`);
    });
  }

  remove(layer: Layer): void {
    const graphic = this.workbench.graphic();
    if (graphic)
      this.workbench.edit({ ...removing(layer, graphic, this.type.shaper()), name: `${layer.name} deleted` });
  }

  duplicate(layer: Layer): void {
    const graphic = this.workbench.graphic();
    if (!graphic) return;
    const copy = copyOf(layer, graphic.canvas);
    const at = graphic.layers.findIndex((l) => l.id === layer.id) + 1;
    this.workbench.edit({ type: 'add-layer', layer: copy, at, name: `${layer.name} duplicated` }, copy.id);
  }

  private paste(): void {
    const held = this.held();
    const graphic = this.workbench.graphic();
    if (!held || !graphic) return;
    const copy = copyOf(held, graphic.canvas);
    this.workbench.edit({ type: 'add-layer', layer: copy, name: `${held.name} pasted` }, copy.id);
  }
}
