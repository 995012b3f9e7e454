import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  DestroyRef,
  computed,
  inject,
  input,
  signal,
} from '@angular/core';
import { type Device, type Slot } from '@bright-slot/core';
import { PageLikeness, Pages } from './page-likeness';

/** A slot standing in a likeness of its page, at a device's width. */
@Component({
  selector: 'bs-slot-on-page',
  imports: [PageLikeness],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="window" [style.height.px]="height()">
      <bs-page-likeness
        [page]="page()"
        [showEmpty]="true"
        [marked]="true"
        [style.width.px]="width()"
        [style.height.px]="height() / scale()"
        [style.transform]="transform()"
        (laid)="hole.set($event)"
      />
    </div>
    <div class="devices" role="group" aria-label="Width of the page">
      @for (d of devices; track d.id) {
        <button type="button" class="button small" [attr.aria-pressed]="device() === d.id" (click)="device.set(d.id)">
          {{ d.name }}
        </button>
      }
      <span class="quiet small-text">{{ shown() }}</span>
    </div>
  `,
  styles: `
    .window {
      position: relative;
      overflow: hidden;
      background: var(--ground-deep);
      border: 1px solid var(--hairline);
      border-radius: var(--corner);
    }
    bs-page-likeness {
      position: absolute;
      left: 0;
      top: 0;
    }
    .devices {
      display: flex;
      align-items: center;
      gap: 6px;
      margin-top: 6px;
    }
  `,
})
export class SlotOnPage {
  readonly slot = input.required<Slot>();
  readonly height = input(190);
  protected readonly device = signal<Device>('desktop');
  protected readonly devices = [
    { id: 'desktop', name: 'Desktop' },
    { id: 'tablet', name: 'Tablet' },
    { id: 'phone', name: 'Phone' },
  ] as const;
  private readonly room = signal(340);
  protected readonly hole = signal<{ left: number; top: number; width: number; height: number } | null>(null);
  private readonly pages = inject(Pages);
  protected readonly page = computed(() => this.pages.of(this.slot(), null, this.device()));
  protected readonly width = computed(() => this.pages.width(this.slot(), this.device()));
  /** A phone is drawn as a phone: no wider than its share. */
  protected readonly scale = computed(() => Math.min(1, this.room() / this.width()));
  protected readonly transform = computed(() => {
    const hole = this.hole();
    const scale = this.scale();
    const left = (this.room() - this.width() * scale) / 2;
    // What is far down the page is scrolled to.
    const far = hole ? (hole.top + hole.height) * scale - this.height() + 20 : 0;
    const top = hole && far > 0 ? Math.max(0, Math.min(far, hole.top * scale - 16)) : 0;
    return `translate(${left}px, ${-top}px) scale(${scale})`;
  });
  protected readonly shown = computed(() => {
    const hole = this.hole();
    if (!hole) return '';
    return hole.width < 1 ? 'not shown' : `shown ${Math.round(hole.width)} × ${Math.round(hole.height)}`;
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const look = () => this.room.set(host.clientWidth - 2);
      const observer = new ResizeObserver(look);
      observer.observe(host);
      look();
      destroyed.onDestroy(() => observer.disconnect());
    });
  }
}
