import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  untracked,
  viewChild,
} from '@angular/core';
import { TypeService } from '../../type/type.service';
import { sameParts } from '../../ui/same-parts';
import { Workbench } from '../../document/workbench';
import { paintSmall } from '../layers/layer-picture';
import { SurfaceStore } from '../../pixels/surface-store';
import { afterFrame } from '../../ui/after-frame';

/** Of so many CSS px the report's likeness is painted, whatever room it has. */
const WIDTH = 246;

/** The graphic, small and pale, for the fit report to point at. */
@Component({
  selector: 'bs-report-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<canvas #canvas></canvas>',
  styles:
    ':host { display: block; border-radius: inherit; } canvas { display: block; width: 100%; height: 100%; border-radius: inherit; opacity: 0.75; }',
})
export class ReportPicture {
  private readonly workbench = inject(Workbench);
  private readonly store = inject(SurfaceStore);
  private readonly type = inject(TypeService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  /** What it shows: nothing is painted anew for a name or a description. */
  private readonly seen = computed(
    () => {
      const g = this.workbench.graphic();
      return g && ([g.id, g.layers, g.backdrop, this.workbench.frame()?.rect] as const);
    },
    { equal: sameParts },
  );

  constructor() {
    effect((cleanUp) => {
      const graphic = this.seen() && untracked(() => this.workbench.graphic());
      const shaper = this.type.shaper();
      this.store.arrived();
      const frame = untracked(() => this.workbench.frame());
      if (!graphic || !frame || !shaper) return;
      const canvas = this.canvas().nativeElement;
      cleanUp(afterFrame(() => paintSmall(canvas, graphic, frame, WIDTH, shaper, this.store)));
    });
  }
}
