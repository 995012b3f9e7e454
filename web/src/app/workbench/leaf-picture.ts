import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { firstRun, luminance, mainFrame, paint, plan, surfacesOf, type Layer, type Surfaces } from '@bright-slot/core';
import { TypeService } from '../shared/type.service';
import { Workbench } from '../state/draft';
import { SurfaceStore } from './surface-store';

/** A leaf's size, CSS px: the canvas's proportions within 128 × 34 or so. */
export function leafSize(canvas: { width: number; height: number }): { width: number; height: number } {
  const ratio = canvas.width / canvas.height;
  const width = Math.min(128, Math.max(34, 34 * ratio));
  return { width, height: Math.max(12, width / ratio) };
}

/** One layer alone, small, in the slot's proportions. */
@Component({
  selector: 'bs-leaf-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.dark]': 'pale()' },
  template: '<canvas #canvas [style.width.px]="size().width" [style.height.px]="size().height"></canvas>',
  styles: ':host { display: block; } :host(.dark) { background: #5d6468; } canvas { display: block; }',
})
export class LeafPicture {
  readonly layer = input.required<Layer>();
  private readonly workbench = inject(Workbench);
  private readonly store = inject(SurfaceStore);
  private readonly type = inject(TypeService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  /** Pale words need a darker leaf to be seen on. */
  protected readonly pale = computed(() => {
    const layer = this.layer();
    return layer.role === 'words' && luminance(firstRun(layer).colour) > 0.4;
  });
  protected readonly size = computed(() => leafSize(this.workbench.graphic()!.canvas));

  constructor() {
    effect(() => {
      const graphic = this.workbench.graphic();
      const shaper = this.type.shaper();
      const layer = { ...this.layer(), visible: true };
      this.store.arrived();
      if (!graphic || !shaper) return;
      const { width } = this.size();
      const dpr = devicePixelRatio || 1;
      const p = plan(
        { ...graphic, layers: [layer] },
        mainFrame(graphic),
        (width * dpr) / graphic.canvas.width,
        shaper,
        { only: layer.id },
      );
      const element = this.canvas().nativeElement;
      element.width = p.width;
      element.height = p.height;
      const rough: Surfaces<CanvasImageSource> = { exact: () => undefined, rough: (asset) => this.store.rough(asset) };
      paint(p, rough, element.getContext('2d')!);
      void this.store.wantRough(surfacesOf(p));
    });
  }
}
