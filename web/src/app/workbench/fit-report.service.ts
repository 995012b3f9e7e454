import { Injectable, computed, inject } from '@angular/core';
import { createReporter, mainFrame, type FitReport } from '@bright-slot/core';
import { TypeService } from '../shared/type.service';
import { Workbench } from '../state/draft';

/** The fit report of the graphic at work, kept live. */
@Injectable({ providedIn: 'root' })
export class FitReportService {
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);
  private readonly judge = createReporter();

  readonly report = computed<FitReport | null>(() => {
    const graphic = this.workbench.working();
    const shaper = this.type.shaper();
    return graphic && shaper ? this.judge({ graphic, frame: mainFrame(graphic), shaper, legibility: undefined }) : null;
  });
}
