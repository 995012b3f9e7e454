import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import {
  enclosing,
  heldBox,
  isPicture,
  layerBounds,
  mainFrame,
  paint,
  plan,
  sizeText,
  surfacesOf,
  wholeBounds,
  type Box,
  type Layer,
  type PictureLayer,
  type Point,
  type SurfaceNeed,
  type WordsLayer,
} from '@bright-slot/core';
import { Icon } from '../../ui/icon';
import { roleNames } from '../../document/role-names';
import { PageLikeness, pageOf } from '../../page/page-likeness';
import { SamplingService } from '../../ui/sampling.service';
import { TypeService } from '../../type/type.service';
import { Workbench } from '../../document/workbench';
import { GraphicLock } from '../../document/graphic-lock';
import { FitReportService } from '../../document/fit-report.service';
import { CanvasHandles, type View } from './canvas-handles';
import { CropView } from './crop-view';
import { EditPoints } from './edit-points';
import { EditPoint } from './edit-point';
import { SubjectHints } from './subject-hints';
import { SubjectView } from './subject-view';
import { SampleView } from './sample-view';
import { SurfaceStore } from '../../pixels/surface-store';
import { WordsEditor } from './words-editor';

/** How long nothing may change before exact surfaces are made, in ms. */
const REST = 70;
/** A press that is let go before this is no holding, ms. */
const SHORT = 300;
/** How wide a page is at a desk, CSS px. */
const DESK = 1120;
const ZOOMS = [0.25, 0.5, 0.75, 1, 1.5, 2, 3, 4];

/** The canvas, lit, in its page. */
@Component({
  selector: 'bs-stage',
  imports: [PageLikeness, Icon, MatTooltip, CropView, SampleView, SubjectView, WordsEditor, EditPoint],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'stage', '[class.only]': 'only()', '[class.on-page]': 'onPage()' },
  templateUrl: './stage.html',
  styleUrl: './stage.scss',
})
export class Stage {
  /** Everything but the picture is away. */
  readonly only = input(false);
  readonly onlyHeld = output<boolean>();
  protected readonly workbench = inject(Workbench);
  private readonly lock = inject(GraphicLock);
  private readonly store = inject(SurfaceStore);
  private readonly type = inject(TypeService);
  private readonly report = inject(FitReportService).report;
  private readonly room = viewChild.required<ElementRef<HTMLElement>>('room');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly hits = viewChild.required<ElementRef<HTMLDivElement>>('hits');

  protected readonly roomSize = signal({ width: 0, height: 0 });
  protected readonly hole = signal<{ left: number; top: number } | null>(null);
  protected readonly chosenZoom = signal<number | null>(null);
  protected readonly pan = signal({ x: 0, y: 0 });
  protected readonly onPage = signal(false);
  /** All on screen is from the originals, at the pixels of the screen. */
  protected readonly exact = signal(false);
  /** That it is not takes long enough to be told. */
  protected readonly preparing = signal(false);
  private readonly dpr = signal(devicePixelRatio || 1);

  protected readonly frame = computed(() => mainFrame(this.workbench.shown()!));
  protected readonly slot = computed(() => this.frame().slot);
  protected readonly sizeText = computed(() => `${sizeText(this.slot())} px`);
  protected readonly page = computed(() => pageOf(this.slot()));

  private readonly fitZoom = computed(() => {
    const { width, height } = this.roomSize();
    const { rect } = this.frame();
    const fit = Math.min((width - 36) / rect.width, (height - 56) / rect.height);
    // True size where it fits; a small tile is enlarged by whole steps so that it can be worked on.
    return fit >= 1 ? Math.max(1, Math.min(6, Math.floor(fit))) : Math.max(0.05, fit);
  });
  private readonly restZoom = computed(
    () => this.chosenZoom() ?? (this.frame().rect.width >= 400 ? Math.min(1, this.fitZoom()) : this.fitZoom()),
  );
  /** Where the stage looks while a picture is cropped: at all of it, as it lay when cropping began. */
  private readonly cropSight = linkedSignal<string | null, { zoom: number; x: number; y: number } | null>({
    source: this.workbench.cropping,
    computation: (id) => untracked(() => this.sightOf(id)),
  });
  private sightOf(id: string | null): { zoom: number; x: number; y: number } | null {
    const graphic = this.workbench.shown();
    const layer = graphic?.layers.find((l) => l.id === id);
    const { width, height } = this.roomSize();
    if (!graphic || !layer || !isPicture(layer) || !width) return null;
    const all = enclosing([{ x: 0, y: 0, ...graphic.canvas }, wholeBounds(layer, graphic.canvas)])!;
    const zoom = Math.min(this.restZoom(), (width - 40) / all.width, (height - 40) / all.height);
    return { zoom, x: width / 2 - (all.x + all.width / 2) * zoom, y: height / 2 - (all.y + all.height / 2) * zoom };
  }
  protected readonly zoom = computed(() => this.cropSight()?.zoom ?? this.restZoom());

  /** The canvas on the stage, CSS px, on whole device pixels so that nothing is resampled. */
  protected readonly lit = computed(() => {
    const { width, height } = this.roomSize();
    const { rect } = this.frame();
    const z = this.zoom();
    const dpr = this.dpr();
    const w = Math.ceil(rect.width * z * dpr - 1e-6) / dpr;
    const h = Math.ceil(rect.height * z * dpr - 1e-6) / dpr;
    const whole = (n: number) => Math.round(n * dpr) / dpr;
    const sight = this.cropSight();
    if (sight) return { x: whole(sight.x), y: whole(sight.y), width: w, height: h };
    const natural = (this.hole()?.top ?? 40) * this.pageScale();
    const top = Math.max(18, Math.min(natural, (height - h) / 2 - 6));
    return { x: whole((width - w) / 2 + this.pan().x), y: whole(top + this.pan().y), width: w, height: h };
  });
  protected readonly pageScale = computed(() => (this.frame().rect.width * this.zoom()) / this.slot().shownWidth);
  protected readonly pageWidth = computed(() =>
    // Never narrower than a page at a desk: enlarged, it would lay itself out as on a phone.
    Math.max(this.slot().shownWidth + 80, DESK, this.roomSize().width / this.pageScale()),
  );
  protected readonly pageTransform = computed(() => {
    const { x, y } = this.lit();
    const s = this.pageScale();
    return `translate(${x - (this.hole()?.left ?? 0) * s}px, ${y - (this.hole()?.top ?? 0) * s}px) scale(${s})`;
  });

  protected readonly things = computed(() => {
    const graphic = this.workbench.shown();
    const shaper = this.type.shaper();
    if (!graphic || !shaper) return [];
    const z = this.zoom();
    const { x, y } = this.lit();
    return graphic.layers
      .filter((l) => l.visible)
      .map((layer) => {
        const box = this.boundsOf(layer);
        return {
          layer,
          box,
          left: x + box.x * z,
          top: y + box.y * z,
          width: box.width * z,
          height: box.height * z,
          label: this.labelOf(layer, box),
        };
      });
  });

  protected readonly pins = computed(() => {
    const z = this.zoom();
    const { x, y, width, height } = this.lit();
    return (this.report()?.findings ?? []).flatMap(({ id, at, group }, i) =>
      at
        ? [
            {
              id,
              group,
              number: i + 1,
              left: x + Math.min(width, Math.max(0, at.x * z)),
              top: y + Math.min(height, Math.max(0, at.y * z)),
            },
          ]
        : [],
    );
  });

  protected readonly view = computed<View>(() => {
    const { width, height } = this.roomSize();
    return { ...this.lit(), zoom: this.zoom(), roomWidth: width, roomHeight: height };
  });
  /** The picture that is being cropped, unless everything but the picture is away. */
  protected readonly cropped = computed<PictureLayer | null>(() => {
    const id = this.workbench.cropping();
    const layer = this.workbench.shown()?.layers.find((l) => l.id === id);
    return layer && isPicture(layer) && !this.only() && !this.onPage() ? layer : null;
  });

  protected readonly sampling = inject(SamplingService);
  /** The words that are being written where they stand. */
  protected readonly writing = computed<WordsLayer | null>(() => {
    const id = this.workbench.writingOn();
    const layer = this.workbench.shown()?.layers.find((l) => l.id === id);
    return layer?.role === 'words' && !this.only() && !this.onPage() ? layer : null;
  });
  /** The pixels a colour is being taken from: all that is seen, or one layer alone. */
  protected readonly sampled = computed<ImageData | null>(() => {
    const under = this.sampling.under();
    const graphic = this.workbench.shown();
    const shaper = this.type.shaper();
    if (!under || !graphic || !shaper) return null;
    const element = this.canvas().nativeElement;
    if (under.from === 'seen') return element.getContext('2d')!.getImageData(0, 0, element.width, element.height);
    const only = this.workbench.selectedId() ?? '';
    const p = plan(graphic, mainFrame(graphic), this.zoom() * this.dpr(), shaper, { only });
    const context = new OffscreenCanvas(p.width, p.height).getContext('2d', { willReadFrequently: true })!;
    paint(p, this.store, context);
    return context.getImageData(0, 0, p.width, p.height);
  });

  protected readonly grips = inject(EditPoints);
  private readonly hints = inject(SubjectHints);
  /** The picture whose subject is being marked. */
  protected readonly marked = computed<PictureLayer | null>(() => {
    const layer = this.workbench.selected();
    const marked = layer && isPicture(layer) && this.hints.layer() === layer.id;
    return marked && !this.only() && !this.onPage() ? layer : null;
  });

  private handles: CanvasHandles | undefined;
  private frameAsked = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    const destroyed = inject(DestroyRef);
    this.sampling.canvas.set(true);
    destroyed.onDestroy(() => {
      this.sampling.under()?.done(null);
      this.sampling.canvas.set(false);
    });
    afterNextRender(() => {
      const room = this.room().nativeElement;
      const observer = new ResizeObserver(() => {
        this.roomSize.set({ width: room.clientWidth, height: room.clientHeight });
        this.dpr.set(devicePixelRatio || 1);
      });
      observer.observe(room);
      this.roomSize.set({ width: room.clientWidth, height: room.clientHeight });
      this.handles = new CanvasHandles(
        this.hits().nativeElement,
        this.workbench,
        (l) => this.boundsOf(l),
        (l) => this.placeOf(l),
      );
      this.handles.opened = (layer) => this.workbench.open(layer);
      destroyed.onDestroy(() => {
        observer.disconnect();
        this.handles?.destroy();
        cancelAnimationFrame(this.frameAsked);
        clearTimeout(this.resting);
      });
    });
    effect((cleanUp) => {
      if (this.exact() || this.workbench.draft()) return this.preparing.set(false);
      const told = setTimeout(() => this.preparing.set(true), 500);
      cleanUp(() => clearTimeout(told));
    });
    // Painting follows whatever it depends on, once a frame at most.
    effect(() => {
      this.workbench.shown();
      this.type.shaper();
      this.lit();
      this.dpr();
      this.store.arrived();
      cancelAnimationFrame(this.frameAsked);
      this.frameAsked = requestAnimationFrame(() => untracked(() => this.paintNow()));
    });
    effect(() => {
      const graphic = this.workbench.shown();
      const view = this.view();
      const hidden =
        this.onPage() || this.only() || this.cropped() !== null || this.marked() !== null || this.writing() !== null;
      const selected = hidden ? null : this.workbench.selectedId();
      if (graphic && this.type.shaper() && view.roomWidth > 0)
        this.handles?.show(graphic, view, selected, !hidden && !this.lock.reading());
    });
  }

  private boundsOf(layer: Layer): Box {
    const shaper = this.type.shaper();
    return shaper ? layerBounds(layer, this.workbench.shown()!, shaper) : { x: 0, y: 0, width: 0, height: 0 };
  }

  /** The box that handles hold, to be turned about its middle. */
  private placeOf(layer: Layer): Box {
    const shaper = this.type.shaper();
    return shaper ? heldBox(layer, this.workbench.shown()!, shaper) : { x: 0, y: 0, width: 0, height: 0 };
  }

  private labelOf(layer: Layer, box: Box): string {
    const role = roleNames[layer.role];
    return `${role}: ${layer.name}, ${Math.round(box.width)} × ${Math.round(box.height)} px at ${Math.round(box.x)}, ${Math.round(box.y)}${layer.locked ? ', locked' : ''}`;
  }

  private paintNow(): void {
    const graphic = this.workbench.shown();
    const shaper = this.type.shaper();
    const element = this.canvas().nativeElement;
    if (!graphic || !shaper || !this.roomSize().width) return;
    const p = plan(graphic, mainFrame(graphic), this.zoom() * this.dpr(), shaper);
    if (element.width !== p.width) element.width = p.width;
    if (element.height !== p.height) element.height = p.height;
    const wanting = paint(p, this.store, element.getContext('2d')!);
    void this.store.wantRough(surfacesOf(p));
    this.exact.set(wanting.length === 0);
    clearTimeout(this.resting);
    if (wanting.length === 0) return;
    const want = (needs: readonly SurfaceNeed[]) => this.store.want(needs);
    if (this.workbench.draft() || this.workbench.preview()) {
      this.store.wantQuick(wanting);
      return;
    }
    this.resting = setTimeout(() => want(wanting), REST);
  }

  /** A point of the window as one of the canvas, canvas px; null where it is not on the stage. */
  pointAt({ clientX, clientY }: { readonly clientX: number; readonly clientY: number }): Point | null {
    const room = this.room().nativeElement.getBoundingClientRect();
    if (clientX < room.left || clientX > room.right || clientY < room.top || clientY > room.bottom) return null;
    const { x, y } = this.lit();
    return { x: (clientX - room.left - x) / this.zoom(), y: (clientY - room.top - y) / this.zoom() };
  }

  /** Enter goes into a layer as a double click does. */
  protected openThing(event: Event, layer: Layer): void {
    event.preventDefault();
    this.workbench.open(layer);
  }

  protected step(by: 1 | -1): void {
    this.cropSight.set(null);
    const now = this.zoom();
    const next = by > 0 ? ZOOMS.find((z) => z > now + 1e-3) : [...ZOOMS].reverse().find((z) => z < now - 1e-3);
    if (next) this.chosenZoom.set(next);
  }

  protected fit(): void {
    this.cropSight.set(this.sightOf(this.workbench.cropping()));
    this.chosenZoom.set(null);
    this.pan.set({ x: 0, y: 0 });
  }

  protected trueSize(): void {
    this.cropSight.set(null);
    this.chosenZoom.set(1);
    this.pan.set({ x: 0, y: 0 });
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    if (event.ctrlKey || event.metaKey) {
      this.chosenZoom.set(Math.min(8, Math.max(0.05, this.zoom() * Math.exp(-event.deltaY / 400))));
      return;
    }
    const { width, height } = this.lit();
    const room = this.roomSize();
    // Only a canvas larger than its room can be moved about.
    const reachX = Math.max(0, (width - room.width) / 2 + 40);
    const reachY = Math.max(0, height - room.height + 80);
    const hold = (n: number, reach: number) => Math.min(reach, Math.max(-reach, n));
    this.pan.update((p) => ({ x: hold(p.x - event.deltaX, reachX), y: hold(p.y - event.deltaY, reachY) }));
  }

  /** When it was taken hold of, ms; null where it is latched or away. */
  private onlySince: number | null = null;
  private wasOnly = false;

  /** Held, it is away for as long; a short press latches it, the next lets it go. */
  protected holdOnly(on: boolean, event?: Event): void {
    event?.preventDefault();
    if (this.onlySince !== null) return;
    this.wasOnly = this.only();
    this.onlySince = performance.now();
    this.onlyHeld.emit(on);
  }

  protected letGoOnly(event?: Event): void {
    event?.preventDefault();
    if (this.onlySince === null) return;
    const short = performance.now() - this.onlySince < SHORT;
    this.onlySince = null;
    this.onlyHeld.emit(short && !this.wasOnly);
  }

  /** The pointer left, or Escape was pressed. */
  protected leaveOnly(latched = false): void {
    if (this.onlySince === null && !latched) return;
    this.onlySince = null;
    this.onlyHeld.emit(false);
  }
}
