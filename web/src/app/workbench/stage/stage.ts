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
  output,
  viewChild,
} from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import {
  clamp,
  enclosing,
  heldBox,
  isPicture,
  layerBounds,
  layoutOf,
  safeBoxes,
  shotWidth,
  sizeText,
  type Box,
  type Layer,
  type PictureLayer,
  type Point,
  type WordsLayer,
} from '@bright-slot/core';
import { FitReportService } from '../../document/fit-report.service';
import { GraphicLock } from '../../document/graphic-lock';
import { roleNames } from '../../document/role-names';
import { Workbench } from '../../document/workbench';
import { PageLikeness, Pages } from '../../page/page-likeness';
import { TypeService } from '../../type/type.service';
import { Icon } from '../../ui/icon';
import { SamplingService } from '../../ui/sampling.service';
import { CanvasHandles } from './canvas-handles';
import { CropView } from './crop-view';
import { EditPoint } from './edit-point';
import { EditPoints } from './edit-points';
import { FrameOutlines } from './frame-outlines';
import { Latch } from './latch';
import { PaintLoop } from './paint-loop';
import { SampleView } from './sample-view';
import { SubjectHints } from './subject-hints';
import { SubjectView } from './subject-view';
import { withKeys, type ShortcutId } from '../../document/shortcuts';
import { NumberField } from '../../ui/number-field';
import { MovingAbout } from './moving-about';
import { OnPage } from '../page/on-page';
import { PageViews } from '../page/page-views';
import { Viewport } from './viewport';
import { WordsEditor } from './words-editor';

/** A menu that is asked for: where in the window, and what lies there, from front to back. */
export interface AskedMenu {
  readonly x: number;
  readonly y: number;
  readonly there: readonly Layer[];
}

/** The canvas, lit, in its page: what lies over it, and what is done on it by hand. */
@Component({
  selector: 'bs-stage',
  imports: [
    OnPage,
    CropView,
    EditPoint,
    FrameOutlines,
    Icon,
    MatTooltip,
    MovingAbout,
    NumberField,
    PageLikeness,
    SampleView,
    SubjectView,
    WordsEditor,
  ],
  providers: [Viewport, PaintLoop],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'stage', '[class.only]': "only() === 'away'", '[class.dim]': "only() === 'dim'" },
  templateUrl: './stage.html',
  styleUrl: './stage.scss',
})
export class Stage {
  /** Everything but the picture is away, or dimmed. */
  readonly only = input<'away' | 'dim' | null>(null);
  readonly onlyHeld = output<'away' | 'dim' | null>();
  /** A menu is asked for at a place of the window, for what lies there, from front to back. */
  readonly asked = output<AskedMenu>();
  protected readonly workbench = inject(Workbench);
  protected readonly viewport = inject(Viewport);
  protected readonly paint = inject(PaintLoop);
  private readonly lock = inject(GraphicLock);
  private readonly type = inject(TypeService);
  private readonly report = inject(FitReportService).report;
  private readonly room = viewChild.required<ElementRef<HTMLElement>>('room');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly hits = viewChild.required<ElementRef<HTMLDivElement>>('hits');

  private readonly pageViews = inject(PageViews);
  /** The page stands where the canvas stood. */
  protected readonly onPage = computed(() => this.pageViews.open() && !this.only());
  protected readonly latches = (
    [
      ['away', 'Only the picture', 'Everything else is away: while it is held, or until it is pressed again'],
      ['dim', 'Dim the rest', 'Everything else is dimmed: while it is held, or until it is pressed again'],
    ] as const
  ).map(([strength, name, tip]) => ({
    strength,
    name,
    tip,
    latch: new Latch(
      () => this.only() === strength,
      (on) => this.onlyHeld.emit(on ? strength : null),
    ),
  }));
  protected readonly lit = this.viewport.lit;
  protected readonly view = this.viewport.view;
  protected readonly frames = computed(() => this.workbench.shown()!.frames);
  protected readonly round = computed(
    () => this.frames().length === 1 && this.viewport.slot().shape.kind === 'ellipse',
  );
  protected readonly sizeText = computed(() => `${sizeText(this.viewport.slot())} px`);
  /** Which frame is in hand, where there are several. */
  protected readonly frameText = computed(() => {
    const all = this.frames();
    const at = all.findIndex((f) => f.id === this.viewport.frame().id);
    return all.length > 1 ? `Frame ${at + 1} of ${all.length}, ${this.sizeText()}` : this.sizeText();
  });
  private readonly pages = inject(Pages);
  protected readonly page = computed(() => this.pages.of(this.viewport.slot()));

  protected readonly things = computed(() => {
    const graphic = this.workbench.shown();
    const shaper = this.type.shaper();
    if (!graphic || !shaper) return [];
    const z = this.viewport.zoom();
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
    const z = this.viewport.zoom();
    const { x, y, width, height } = this.lit();
    return (this.report()?.findings ?? []).flatMap(({ id, at, group }, i) =>
      at
        ? [
            {
              id,
              group,
              number: i + 1,
              left: x + clamp(at.x * z, 0, width),
              top: y + clamp(at.y * z, 0, height),
            },
          ]
        : [],
    );
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
  protected readonly points = inject(EditPoints);
  private readonly hints = inject(SubjectHints);
  /** The picture whose subject is being marked. */
  protected readonly marked = computed<PictureLayer | null>(() => {
    const layer = this.workbench.selected();
    const marked = layer && isPicture(layer) && this.hints.layer() === layer.id;
    return marked && !this.only() && !this.onPage() ? layer : null;
  });

  private handles: CanvasHandles | undefined;
  protected readonly withKeys = withKeys;
  /** The box around what is selected, canvas px. */
  protected readonly chosen = computed<Box | null>(() => {
    const ids = this.workbench.selection();
    return enclosing(
      (this.workbench.shown()?.layers ?? []).flatMap((l) => (ids.includes(l.id) ? [this.boundsOf(l)] : [])),
    );
  });

  protected toSelection(): void {
    const box = this.chosen();
    if (box) this.viewport.zoomToBox(box);
  }

  /** What a key does to how the canvas is seen; whether it does anything. */
  see(shortcut: ShortcutId | null): boolean {
    const does: Partial<Record<ShortcutId, () => void>> = {
      larger: () => this.viewport.step(1),
      smaller: () => this.viewport.step(-1),
      fit: () => this.viewport.fit(),
      'true-size': () => this.viewport.trueSize(),
      'to-selection': () => this.toSelection(),
    };
    const act = shortcut && does[shortcut];
    act?.();
    return !!act;
  }

  protected showPage(): void {
    this.pageViews.alone.set(null);
    this.pageViews.open.set(true);
  }

  constructor() {
    const destroyed = inject(DestroyRef);
    destroyed.onDestroy(() => this.pageViews.open.set(false));
    this.sampling.canvas.set(true);
    destroyed.onDestroy(() => {
      this.sampling.under()?.done(null);
      this.sampling.canvas.set(false);
    });
    afterNextRender(() => {
      const room = this.room().nativeElement;
      const measure = () => {
        this.viewport.roomSize.set({ width: room.clientWidth, height: room.clientHeight });
        this.viewport.dpr.set(devicePixelRatio || 1);
      };
      const observer = new ResizeObserver(measure);
      observer.observe(room);
      measure();
      this.paint.begin(this.canvas().nativeElement);
      this.handles = new CanvasHandles(this.hits().nativeElement, this.workbench, {
        boundsOf: (l) => this.boundsOf(l),
        placeOf: (l) => this.placeOf(l),
        baselinesOf: (l) => this.baselinesOf(l),
        safe: () => this.safe(),
        shaper: () => this.type.shaper(),
      });
      this.handles.menu = (event, there) => this.asked.emit({ x: event.clientX, y: event.clientY, there });
      this.handles.opened = (layer) => this.workbench.open(layer);
      destroyed.onDestroy(() => {
        observer.disconnect();
        this.handles?.destroy();
      });
    });
    effect(() => {
      const own = this.page().content.own;
      this.viewport.ownWidth.set(own ? shotWidth(own.shot) : null);
    });
    effect(() => {
      const graphic = this.workbench.shown();
      const view = this.view();
      const hidden =
        this.onPage() || this.only() || this.cropped() !== null || this.marked() !== null || this.writing() !== null;
      const selection = hidden ? [] : this.workbench.selection();
      if (graphic && this.type.shaper() && view.roomWidth > 0)
        this.handles?.show(graphic, view, selection, !hidden && !this.lock.reading());
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

  /** Where the letters of upright words stand on their lines, canvas px. */
  private baselinesOf(layer: Layer): readonly number[] {
    const shaper = this.type.shaper();
    return layer.role === 'words' && layer.turn === 0 && shaper ? layoutOf(layer, shaper).baselines : [];
  }

  /** Where words and logos are to stay, canvas px; null where that is all of the frame. */
  private safe(): Box | null {
    const { slot, rect } = this.viewport.frame();
    const [box] = safeBoxes(slot);
    return slot.safe.kind === 'all' || !box ? null : { ...box, x: box.x + rect.x, y: box.y + rect.y };
  }

  /** The menu of a layer, asked for by key where it has the focus. */
  protected menuOf(event: Event, layer: Layer): void {
    event.preventDefault();
    const at = (event.currentTarget as HTMLElement).getBoundingClientRect();
    this.asked.emit({ x: at.left + at.width / 2, y: at.top + at.height / 2, there: [layer] });
  }

  private labelOf(layer: Layer, box: Box): string {
    const role = roleNames[layer.role];
    return `${role}: ${layer.name}, ${Math.round(box.width)} × ${Math.round(box.height)} px at ${Math.round(box.x)}, ${Math.round(box.y)}${layer.locked ? ', locked' : ''}`;
  }

  /** A point of the window as one of the canvas, canvas px; null where it is not on the stage. */
  pointAt({ clientX, clientY }: { readonly clientX: number; readonly clientY: number }): Point | null {
    const room = this.room().nativeElement.getBoundingClientRect();
    if (clientX < room.left || clientX > room.right || clientY < room.top || clientY > room.bottom) return null;
    return this.viewport.canvasPoint({ x: clientX - room.left, y: clientY - room.top });
  }

  /** Enter goes into a layer as a double click does. */
  protected openThing(event: Event, layer: Layer): void {
    event.preventDefault();
    this.workbench.open(layer);
  }
}
