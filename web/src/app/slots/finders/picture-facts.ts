import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { diagnose, figure, weightText, type CurrentPicture, type Slot } from '@bright-slot/core';

/** What a picture is, and what it does in a slot. */
@Component({
  selector: 'bs-picture-facts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl class="facts">
      <dt>Pixels</dt>
      <dd>{{ picture().width }} × {{ picture().height }}</dd>
      <dt>File</dt>
      <dd>{{ picture().type.toUpperCase() }}, {{ weight(picture().bytes) }}</dd>
      <dt>Pixels an inch</dt>
      <dd>{{ picture().ppi === null ? 'none written' : f(picture().ppi!) + ', which changes nothing on a screen' }}</dd>
      <dt>Colours</dt>
      <dd>{{ picture().profile ?? 'no profile: taken for sRGB' }}</dd>
      <dt>Transparency</dt>
      <dd>{{ picture().opaque ? 'none' : 'yes' }}</dd>
      <dt>Empty margins</dt>
      <dd>{{ margins() }}</dd>
    </dl>
    @if (diagnosis(); as d) {
      <h3>In {{ slot()!.name }}</h3>
      <div class="seen">
        @if (url()) {
          <div class="whole" [style.aspect-ratio]="picture().width / picture().height">
            <img [src]="url()" alt="The picture; what a visitor sees of it is outlined" />
            <span
              class="part"
              [style.left.%]="(d.placed.seen.x / picture().width) * 100"
              [style.top.%]="(d.placed.seen.y / picture().height) * 100"
              [style.width.%]="(d.placed.seen.width / picture().width) * 100"
              [style.height.%]="(d.placed.seen.height / picture().height) * 100"
            ></span>
          </div>
        }
      </div>
      @for (r of d.remarks; track r.id) {
        <p class="remark">
          <strong>{{ r.title }}.</strong> {{ r.detail }}
        </p>
      } @empty {
        <p class="remark"><strong>It suits the slot.</strong> Size, format and weight are as the page wants them.</p>
      }
    }
  `,
  styles: `
    h3 {
      margin: 12px 0 6px;
    }
    .seen {
      display: flex;
      justify-content: center;
      background: var(--ground-deep);
      border-radius: var(--corner);
      padding: 8px;
    }
    .whole {
      position: relative;
      max-width: 100%;
      max-height: 190px;
    }
    img {
      display: block;
      width: 100%;
      height: 100%;
      max-height: 190px;
      opacity: 0.55;
    }
    .part {
      position: absolute;
      outline: 2px solid var(--light);
      box-shadow: inset 0 0 0 1px var(--ink);
    }
    .remark {
      font-size: 13px;
      margin-top: 8px;
    }
  `,
})
export class PictureFacts {
  readonly picture = input.required<CurrentPicture>();
  readonly slot = input<Slot | null>(null);
  /** Where it can be seen; empty where it cannot. */
  readonly url = input('');
  protected readonly weight = weightText;
  protected readonly f = (n: number) => figure(n, 1);
  protected readonly diagnosis = computed(() => {
    const slot = this.slot();
    return slot && diagnose(this.picture(), slot);
  });
  protected readonly margins = computed(() => {
    const { margins, height } = this.picture();
    if (!margins) return 'not looked for';
    if (margins.top === height) return 'all of it is empty';
    const said = (['top', 'right', 'bottom', 'left'] as const)
      .filter((s) => margins[s] > 1)
      .map((s) => `${margins[s]} px ${s === 'bottom' ? 'at the foot' : `at the ${s}`}`);
    return said.length ? said.join(', ') : 'none';
  });
}
