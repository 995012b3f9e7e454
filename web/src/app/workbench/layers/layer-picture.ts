import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  untracked,
  viewChild,
} from '@angular/core';
import {
  clamp,
  firstRun,
  luminance,
  wholeCanvas,
  paint,
  plan,
  surfacesOf,
  type CanvasWindow,
  type Graphic,
  type Layer,
  type PlanOptions,
  type Shaper,
  type Surfaces,
} from '@bright-slot/core';
import { TypeService } from '../../type/type.service';
import { Workbench } from '../../document/workbench';
import { SurfaceStore } from '../../pixels/surface-store';
import { afterFrame } from '../../ui/after-frame';

/** A layer's size in the list, CSS px: the canvas's proportions within 128 × 34 or so. */
export function layerPictureSize(canvas: { width: number; height: number }): { width: number; height: number } {
  const ratio = canvas.width / canvas.height;
  const width = clamp(34 * ratio, 34, 128);
  return { width, height: Math.max(12, width / ratio) };
}

/** Paints a window of a graphic's canvas so small (CSS px wide) that rough pictures do. */
export function paintSmall(
  element: HTMLCanvasElement,
  graphic: Graphic,
  window: CanvasWindow,
  width: number,
  shaper: Shaper,
  store: SurfaceStore,
  options: PlanOptions = {},
): void {
  const scale = (width * (devicePixelRatio || 1)) / window.rect.width;
  const p = plan(graphic, window, scale, shaper, options);
  element.width = p.width;
  element.height = p.height;
  const rough: Surfaces<CanvasImageSource> = {
    exact: () => undefined,
    rough: (need) => store.rough(need),
    scratch: (w, h) => store.scratch(w, h),
  };
  paint(p, rough, element.getContext('2d')!);
  void store.wantRough(surfacesOf(p));
}

/** One layer alone, small, in the slot's proportions. */
@Component({
  selector: 'bs-layer-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.dark]': 'pale()' },
  template: '<canvas #canvas [style.width.px]="size().width" [style.height.px]="size().height"></canvas>',
  styles: ':host { display: block; } :host(.dark) { background: #5d6468; } canvas { display: block; }',
})
export class LayerPicture {
  readonly layer = input.required<Layer>();
  private readonly workbench = inject(Workbench);
  private readonly store = inject(SurfaceStore);
  private readonly type = inject(TypeService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  /** Pale words need a darker ground to be seen on. */
  protected readonly pale = computed(() => {
    const layer = this.layer();
    return layer.role === 'words' && luminance(firstRun(layer).colour) > 0.4;
  });
  protected readonly size = computed(() => layerPictureSize(this.workbench.graphic()!.canvas));

  /** What it is painted from; other layers only where it lies about words. */
  private readonly scene = computed(
    () => {
      const graphic = this.workbench.graphic();
      const layer = this.layer();
      const about =
        (layer.role === 'shape' && layer.place.mode === 'around') ||
        (layer.role === 'veil' && layer.form.kind === 'behind');
      return graphic && { id: graphic.id, canvas: graphic.canvas, layers: about ? graphic.layers : null };
    },
    { equal: (a, b) => a === b || (!!a && !!b && a.id === b.id && a.canvas === b.canvas && a.layers === b.layers) },
  );

  constructor() {
    effect((cleanUp) => {
      const graphic = this.scene() && untracked(() => this.workbench.graphic());
      const shaper = this.type.shaper();
      // The same object where it can be: what was laid out for it is kept by it.
      const own = this.layer().visible ? this.layer() : { ...this.layer(), visible: true };
      const layer = own.role === 'veil' ? { ...own, strength: Math.max(own.strength, 90) } : own;
      this.store.arrived();
      if (!graphic || !shaper) return;
      // The others stay: a note lies about its words, a veil behind them.
      const shown = { ...graphic, layers: graphic.layers.map((l) => (l.id === layer.id ? layer : l)) };
      const size = this.size().width;
      const canvas = this.canvas().nativeElement;
      cleanUp(
        afterFrame(() => paintSmall(canvas, shown, wholeCanvas(shown), size, shaper, this.store, { only: layer.id })),
      );
    });
  }
}
