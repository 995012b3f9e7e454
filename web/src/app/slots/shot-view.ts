import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { clamp, figure, sides, type Box, type Side } from '@bright-slot/core';
import { FileDrop } from '../ui/file-drop';
import { canTakeTab, pictureOfTab } from '../media/open-tab';
import { DemoSource } from '../connector/demo-source';
import { middleOfSide, sideLabel } from './shot-sides';
import { ShotLoupe } from './shot-loupe';
import { ShotService, type Found } from './shot.service';

/** Shorter drags are clicks, CSS px. */
const CLICK = 6;

/** The screenshot with the slots found on it: dragged around roughly, snapped, put right with arrow keys under a loupe. */
@Component({
  selector: 'bs-shot-view',
  imports: [ShotLoupe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  host: {
    '(document:paste)': 'pasted($event)',
  },
  templateUrl: './shot-view.html',
  styleUrl: './shot-view.scss',
})
export class ShotView {
  protected readonly shots = inject(ShotService);
  protected readonly demo = inject(DemoSource);
  /** The slot whose own page it is to be; null where slots are looked for. */
  readonly pageOf = input<string | null>(null);
  private readonly room = viewChild<ElementRef<HTMLElement>>('room');
  protected readonly roomWidth = signal(0);
  protected readonly chosenZoom = signal<number | null>(null);
  protected readonly drops = inject(FileDrop);
  /** The rough box in hand, device px. */
  protected readonly rough = signal<Box | null>(null);
  /** Whether the rough box is placed by keyboard. */
  protected readonly placing = signal(false);
  protected readonly sides = sides;
  protected readonly sideLabel = sideLabel;
  protected readonly f = (n: number) => figure(n);

  protected readonly zoom = computed(() => {
    const width = this.shots.shot()?.bitmap.width ?? 1;
    return this.chosenZoom() ?? Math.min(1, Math.max(0.1, (this.roomWidth() - 4) / width));
  });
  /** The edge that is being dragged. */
  private side: Side | null = null;
  private start: { x: number; y: number; shown: { x: number; y: number } } | null = null;

  constructor() {
    this.drops.files.subscribe(({ files }) => this.choose(files));
    const destroyed = inject(DestroyRef);
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      const look = () => this.roomWidth.set(host.clientWidth - 40);
      const observer = new ResizeObserver(look);
      observer.observe(host);
      look();
      destroyed.onDestroy(() => observer.disconnect());
    });
  }

  protected step(by: number): void {
    this.chosenZoom.set(clamp(this.zoom() * by, 0.1, 8));
  }

  /** Where a pointer is on the screenshot, device px. */
  private at(event: PointerEvent): { x: number; y: number } {
    const sheet = (this.room()!.nativeElement.querySelector('.sheet') as HTMLElement).getBoundingClientRect();
    return { x: (event.clientX - sheet.left) / this.zoom(), y: (event.clientY - sheet.top) / this.zoom() };
  }

  protected down(event: PointerEvent): void {
    if (event.button !== 0) return;
    const handle = (event.target as Element).closest<HTMLElement>('.handle');
    this.side = sides.find((s) => handle?.classList.contains(s)) ?? null;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    event.preventDefault();
    if (handle) return handle.focus();
    this.placing.set(false);
    this.start = { ...this.at(event), shown: { x: event.clientX, y: event.clientY } };
  }

  protected move(event: PointerEvent): void {
    const held = this.shots.selected();
    if (this.side && held) return this.pull(held, this.side, this.at(event));
    if (!this.start) return;
    const to = this.at(event);
    this.shots.looking.set(to);
    const far = Math.hypot(event.clientX - this.start.shown.x, event.clientY - this.start.shown.y);
    if (far < CLICK && !this.rough()) return;
    const { x, y } = this.start;
    this.rough.set({
      x: Math.min(x, to.x),
      y: Math.min(y, to.y),
      width: Math.abs(to.x - x),
      height: Math.abs(to.y - y),
    });
  }

  protected async up(event: PointerEvent): Promise<void> {
    const from = this.start;
    const rough = this.rough();
    this.start = null;
    this.side = null;
    this.shots.looking.set(null);
    if (!from) return;
    this.rough.set(null);
    if (rough && rough.width > 4 && rough.height > 4) await this.snap(rough);
    else {
      const p = this.at(event);
      const under = [...this.shots.found()]
        .reverse()
        .find(
          ({ measured: { box } }) =>
            p.x >= box.x && p.y >= box.y && p.x <= box.x + box.width && p.y <= box.y + box.height,
        );
      if (under) this.shots.selectedId.set(under.id);
    }
  }

  /** An edge follows the pointer, by whole pixels. */
  private pull(found: Found, side: Side, to: { x: number; y: number }): void {
    const now = middleOfSide(found, side);
    const by = Math.round(side === 'left' || side === 'right' ? to.x - now.x : to.y - now.y);
    if (!by) return;
    this.shots.nudge(found.id, side, by);
    this.look(this.shots.selected()!, side);
  }

  protected called(): void {
    this.start = null;
    this.side = null;
    this.rough.set(null);
    this.shots.looking.set(null);
  }

  private async snap(rough: Box): Promise<void> {
    const one = await this.shots.measure(rough);
    if (one) queueMicrotask(() => setTimeout(() => this.handle('left')?.focus({ preventScroll: true })));
  }

  private handle(side: Side): HTMLElement | null {
    return this.room()?.nativeElement.querySelector(`.handle.${side}`) ?? null;
  }

  /** For those who use no pointer: a box in the middle of what is seen, moved and sized with the arrow keys. */
  protected place(): void {
    const room = this.room()!.nativeElement;
    const z = this.zoom();
    const [width, height] = [Math.min(300, room.clientWidth / 3) / z, Math.min(120, room.clientHeight / 3) / z];
    this.rough.set({
      x: (room.scrollLeft + room.clientWidth / 2) / z - width / 2,
      y: (room.scrollTop + room.clientHeight / 2) / z - height / 2,
      width,
      height,
    });
    this.placing.set(true);
    setTimeout(() => room.querySelector<HTMLElement>('.rough')?.focus());
  }

  protected placeKey(event: KeyboardEvent): void {
    const rough = this.rough();
    if (!rough) return;
    const step = (event.altKey ? 1 : 10) / Math.min(1, this.zoom());
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (way) {
      event.preventDefault();
      const [dx, dy] = [way[0]! * step, way[1]! * step];
      const next = event.shiftKey
        ? { ...rough, width: Math.max(6, rough.width + dx), height: Math.max(6, rough.height + dy) }
        : { ...rough, x: rough.x + dx, y: rough.y + dy };
      this.rough.set(next);
      setTimeout(() => this.room()?.nativeElement.querySelector('.rough')?.scrollIntoView({ block: 'nearest' }));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      this.rough.set(null);
      this.placing.set(false);
      void this.snap(rough);
    } else if (event.key === 'Escape') {
      this.rough.set(null);
      this.placing.set(false);
    }
  }

  protected look(found: Found, side: Side): void {
    this.shots.looking.set(middleOfSide(found, side));
  }

  protected sideKey(event: KeyboardEvent, found: Found, side: Side): void {
    if (event.key === 'Delete') {
      event.preventDefault();
      this.shots.looking.set(null);
      return this.shots.remove(found.id);
    }
    const upright = side === 'left' || side === 'right';
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!by) return;
    // The other two arrows would scroll the view away.
    if (upright !== /Left|Right/.test(event.key)) return event.preventDefault();
    event.preventDefault();
    this.shots.nudge(found.id, side, by * (event.shiftKey ? 10 : 1));
    const now = this.shots.found().find((x) => x.id === found.id);
    if (now) this.look(now, side);
  }

  protected choose(files: FileList | readonly File[] | null): void {
    const file = files?.[0];
    if (file) void this.shots.open(file);
  }

  protected pasted(event: ClipboardEvent): void {
    const files = [...(event.clipboardData?.files ?? [])];
    if (!files.length) return;
    event.preventDefault();
    this.choose(files);
  }

  protected readonly canTakeTab = canTakeTab();

  protected async takeTab(): Promise<void> {
    const got = await pictureOfTab();
    if (got?.ok) await this.shots.open(got.value);
    else if (got) this.shots.problem.set(got.problem.message);
  }

  protected async tryDemo(): Promise<void> {
    const got = await this.demo.shot();
    if (got.ok) await this.shots.open(got.value);
    else this.shots.problem.set(got.problem.message);
  }
}
