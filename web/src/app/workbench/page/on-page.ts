import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import { figure, weightText, type Device } from '@bright-slot/core';
import { PageWindow, type Hole } from '../../page/page-window';
import { PageColoursPanel } from './page-colours';
import { PageViews } from './page-views';

/** Room between the pages, around them, and for what is said above each, CSS px. */
const GAP = 22;
const SAID = 32;
/** How the room is shared between the three: a phone would be too small to see in its true proportion. */
const SHARES: Record<Device, number> = { desktop: 0.66, tablet: 0.21, phone: 0.13 };

interface View {
  readonly device: Device;
  readonly pageWidth: number;
  readonly screenHeight: number;
  readonly width: number;
}

/** The stage as the page itself: at three widths beside each other, or one large; its first screen, or all of it. */
@Component({
  selector: 'bs-on-page',
  imports: [MatTooltip, PageWindow, PageColoursPanel, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './on-page.html',
  styleUrl: './on-page.scss',
})
export class OnPage {
  protected readonly views = inject(PageViews);
  protected readonly whole = signal(false);
  /** A px of the page is a CSS px of this screen. */
  protected readonly trueSize = signal(false);
  private readonly dpr = signal(devicePixelRatio || 1);
  /** What true size is here: the browser's zoom and the screen's own pixels come together in one figure. */
  protected readonly screenText = computed(
    () =>
      `A px of the page is ${figure(this.dpr())} px of this screen: its own pixels and the browser’s zoom (Ctrl 0 sets that to 100 %) together`,
  );
  protected readonly fileText = computed(() => {
    const bytes = this.views.picture.bytes();
    return this.views.picture.asFile() && bytes !== null ? `, ${weightText(bytes)}` : '';
  });
  private readonly room = viewChild.required<ElementRef<HTMLElement>>('room');
  private readonly size = signal({ width: 960, height: 420 });
  protected readonly height = computed(() => Math.max(60, this.size().height - SAID - GAP));
  private readonly holes = signal<ReadonlyMap<Device, Hole>>(new Map());

  protected readonly shown = computed(() => {
    const alone = this.views.alone();
    const list = this.views.views().filter((v) => !alone || v.device === alone);
    const room = this.size().width - 2 * GAP - GAP * (list.length - 1);
    return list.map((v) => {
      const share = alone ? 1 : SHARES[v.device];
      // No larger than it is, and its first screen no higher than there is room.
      const high = (this.height() / v.screenHeight) * v.pageWidth;
      if (alone && this.trueSize()) return { ...v, width: v.pageWidth };
      return { ...v, width: Math.floor(Math.min(v.pageWidth, room * share, alone ? Infinity : high)) };
    });
  });

  constructor() {
    const destroyed = inject(DestroyRef);
    this.views.picture.watch(destroyed);
    this.views.random.wanted.set(true);
    destroyed.onDestroy(() => {
      this.views.colours.close();
      this.views.random.wanted.set(false);
      this.views.picture.asFile.set(false);
    });
    afterNextRender(() => {
      const element = this.room().nativeElement;
      const look = () => {
        this.size.set({ width: element.clientWidth, height: element.clientHeight });
        this.dpr.set(devicePixelRatio || 1);
      };
      const observer = new ResizeObserver(look);
      observer.observe(element);
      look();
      destroyed.onDestroy(() => observer.disconnect());
    });
  }

  /** At true size the slot stands in the middle of what is seen. */
  protected atTrueSize(on: boolean): void {
    this.trueSize.set(on);
    const hole = this.holes().get(this.views.alone() ?? 'desktop');
    if (!on || !hole) return;
    setTimeout(() => {
      const room = this.room().nativeElement;
      room.scrollLeft = hole.left + hole.width / 2 + GAP - room.clientWidth / 2;
    });
  }

  protected note(device: Device, hole: Hole): void {
    this.holes.update((all) => new Map(all).set(device, hole));
  }

  /** "1280, shown at 52 %. It takes 25 % of the first screen." */
  protected said({ device, pageWidth, screenHeight, width }: View): string {
    // Beside the desk there is no room for more.
    if (device !== 'desktop' && !this.views.alone()) return `${pageWidth}`;
    const scale = Math.round((width / pageWidth) * 100);
    const here = this.trueSize() ? `, a px on ${figure(this.dpr())} of this screen` : '';
    const at = `${pageWidth}, at ${scale} %${here}`;
    const hole = this.holes().get(device);
    if (!hole) return at;
    if (hole.width < 1) return `${at}. Not shown there.`;
    const share = Math.max(0, Math.min(hole.top + hole.height, screenHeight) - Math.max(0, hole.top)) / screenHeight;
    return `${at}. Shown ${Math.round(hole.width)} × ${Math.round(hole.height)}, ${Math.round(share * 100)} % of the first screen.`;
  }
}
