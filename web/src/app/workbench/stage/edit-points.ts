import { Injectable, computed, inject } from '@angular/core';
import {
  clamp,
  isPicture,
  canvasPoint,
  movedSeam,
  ownPoint,
  pictureGeometry,
  seamsOf,
  turnedPoint,
  withFocus,
  type Edit,
  type Fade,
  type PictureLayer,
  type Point,
} from '@bright-slot/core';
import { TypeService } from '../../type/type.service';
import { Workbench } from '../../document/workbench';
import { BACKDROP } from '../../document/workbench.store';
import type { EditPointOn } from './edit-point';
import { backdropPoints, shapePoints, veilPoints } from './sheet-edit-points';

/** What of the selected layer can be taken hold of on the canvas beside its box, as its open section has it. */
@Injectable()
export class EditPoints {
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);

  readonly list = computed<readonly EditPointOn[]>(() => {
    const graphic = this.workbench.working();
    const layer = this.workbench.selected();
    const shaper = this.type.shaper();
    if (graphic && this.workbench.selectedId() === BACKDROP) return backdropPoints(graphic);
    if (!graphic || !shaper || !layer || layer.locked) return [];
    if (layer.role === 'shape') return shapePoints(layer, graphic, shaper, this.workbench.shapeSection());
    if (layer.role === 'veil') return veilPoints(layer, graphic.canvas);
    if (!isPicture(layer)) return [];
    if (this.workbench.cropping() === layer.id) return [this.focus(layer)];
    if (this.workbench.section() === 'edge') return this.fadeEnds(layer);
    if (this.workbench.section() !== 'place') return [];
    return this.seams(
      graphic.layers.filter((l): l is PictureLayer => isPicture(l)),
      layer,
    );
  });

  /** What was moved is let go: one edit; a covering photo follows its focus once that has come to rest. */
  letGo(grip: EditPointOn): void {
    this.workbench.commitDraft();
    const layer = this.workbench.selected();
    if (grip.id !== 'focus' || !layer || !isPicture(layer) || layer.place.mode !== 'cover') return;
    this.workbench.change(withFocus(layer, layer.focus), `Focus of ${layer.name} moved`, `focus:${layer.id}`);
  }

  private canvas() {
    return this.workbench.graphic()!.canvas;
  }

  private focus(layer: PictureLayer): EditPointOn {
    const { width, height } = layer.natural;
    return {
      id: 'focus',
      label: 'Focus of the photo',
      shape: 'ring',
      at: canvasPoint(layer, this.canvas(), { x: layer.focus.x * width, y: layer.focus.y * height }),
      to: (p) => {
        const own = ownPoint(layer, this.canvas(), p);
        // Only the point moves here, not the photo under it: that would run from the pointer.
        const moved = { ...layer, focus: { x: clamp(own.x / width, 0, 1), y: clamp(own.y / height, 0, 1) } };
        return {
          type: 'replace-layer',
          layer: moved,
          name: `Focus of ${layer.name} moved`,
          merge: `focus:${layer.id}`,
        };
      },
    };
  }

  private fadeEnds(layer: PictureLayer): EditPointOn[] {
    const { shown, pivot } = pictureGeometry(layer, this.canvas());
    const place = (p: Point) =>
      turnedPoint({ x: shown.x + p.x * shown.width, y: shown.y + p.y * shown.height }, layer.turn, pivot);
    const share = (p: Point): Point => {
      const flat = turnedPoint(p, -layer.turn, pivot);
      return { x: (flat.x - shown.x) / shown.width, y: (flat.y - shown.y) / shown.height };
    };
    return layer.fades.flatMap((fade, i): EditPointOn[] => {
      const set = (change: Fade): Edit => ({
        type: 'replace-layer',
        layer: { ...layer, fades: layer.fades.map((f, k) => (k === i ? change : f)) },
        name: `${layer.name}: fade moved`,
        merge: `fade:${layer.id}:${i}`,
      });
      if (fade.kind === 'line')
        return (['from', 'to'] as const).map((end) => ({
          id: `fade-${i}-${end}`,
          label: end === 'from' ? 'Where the fade begins' : 'Where the fade ends',
          shape: end === 'from' ? 'dot' : 'ring',
          at: place(fade[end]),
          to: (p: Point) => set({ ...fade, [end]: share(p) }),
        }));
      const { side, length } = fade;
      const across = side === 'left' || side === 'right';
      const near = side === 'left' || side === 'top' ? length : 1 - length;
      return [
        {
          id: `fade-${i}`,
          label: `How far the ${side} fades`,
          shape: across ? 'bar-x' : 'bar-y',
          at: place(across ? { x: near, y: 0.5 } : { x: 0.5, y: near }),
          to: (p: Point) => {
            const s = share(p);
            const at = across ? s.x : s.y;
            const far = side === 'left' || side === 'top' ? at : 1 - at;
            return set({ ...fade, length: clamp(far, 0.001, 1) });
          },
        },
      ];
    });
  }

  private seams(pictures: readonly PictureLayer[], layer: PictureLayer): EditPointOn[] {
    const of = (id: string) => pictures.find((l) => l.id === id)!;
    // Moved from where both were when the gesture began, so that coming back brings them back.
    const before = (id: string) => this.workbench.graphic()!.layers.find((l) => l.id === id) as PictureLayer;
    return seamsOf(pictures, this.canvas())
      .filter((s) => s.before === layer.id || s.after === layer.id)
      .map((s) => {
        const { shown } = pictureGeometry(of(s.after), this.canvas());
        const { width, height } = this.canvas();
        const mid = (from: number, length: number, room: number) =>
          (Math.max(0, from) + Math.min(room, from + length)) / 2;
        return {
          id: `seam-${s.before}-${s.after}`,
          label: 'Line along which the two pictures meet',
          shape: s.axis === 'y' ? 'bar-y' : 'bar-x',
          at:
            s.axis === 'y'
              ? { x: mid(shown.x, shown.width, width), y: s.at }
              : { x: s.at, y: mid(shown.y, shown.height, height) },
          to: (p: Point): Edit => {
            const at = Math.round(s.axis === 'y' ? p.y : p.x);
            const pair = movedSeam({ before: before(s.before), after: before(s.after) }, s.axis, at, this.canvas());
            return {
              type: 'together',
              name: 'Meeting line moved',
              merge: `seam:${s.before}:${s.after}`,
              edits: [
                { type: 'replace-layer', layer: pair.before },
                { type: 'replace-layer', layer: pair.after },
              ],
            };
          },
        };
      });
  }
}
