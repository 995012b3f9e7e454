import { Injectable, computed, inject, linkedSignal, signal, untracked } from '@angular/core';
import { clamp, enclosing, isPicture, wholeBounds, wholeCanvas, type Box, type Point } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import type { View } from './canvas-handles';

/** How wide a page is at a desk, CSS px. */
const DESK = 1120;
const ZOOMS = [0.25, 0.5, 0.75, 1, 1.5, 2, 3, 4];
const [LEAST_ZOOM, MOST_ZOOM] = [0.05, 8];
/** So much of the canvas stays in sight wherever it is moved, CSS px. */
const SEEN = 48;

/** Where the canvas stands on the stage, how large, and how its page lies behind it. CSS px of the stage. */
@Injectable()
export class Viewport {
  private readonly workbench = inject(Workbench);
  readonly roomSize = signal({ width: 0, height: 0 });
  /** Where the slot is on its page, in the page's own CSS px; null until that is laid out. */
  readonly hole = signal<{ left: number; top: number; width: number } | null>(null);
  /** How wide the person's own page is, where a screenshot of it is shown, CSS px. */
  readonly ownWidth = signal<number | null>(null);
  readonly dpr = signal(devicePixelRatio || 1);
  private readonly chosenZoom = signal<number | null>(null);
  private readonly pan = signal({ x: 0, y: 0 });

  /** All of the canvas, canvas px. */
  readonly canvas = computed(() => wholeCanvas(this.workbench.shown()!).rect);
  readonly frame = computed(() => this.workbench.frame()!);
  readonly slot = computed(() => this.frame().slot);

  private readonly fitZoom = computed(() => {
    const { width, height } = this.roomSize();
    const all = this.canvas();
    const fit = Math.min((width - 36) / all.width, (height - 56) / all.height);
    // True size where it fits; a small tile is enlarged by whole steps so that it can be worked on.
    return fit >= 1 ? clamp(Math.floor(fit), 1, 6) : Math.max(LEAST_ZOOM, fit);
  });
  private readonly restZoom = computed(
    () => this.chosenZoom() ?? (this.canvas().width >= 400 ? Math.min(1, this.fitZoom()) : this.fitZoom()),
  );
  /** Where the stage looks while a picture is cropped: at all of it, as it lay when cropping began. */
  private readonly cropSight = linkedSignal<string | null, { zoom: number; x: number; y: number } | null>({
    source: this.workbench.cropping,
    computation: (id) => untracked(() => this.sightOf(id)),
  });
  readonly zoom = computed(() => this.cropSight()?.zoom ?? this.restZoom());

  /** The canvas on the stage, on whole device pixels so that nothing is resampled. */
  readonly lit = computed(() => {
    const { width, height } = this.roomSize();
    const all = this.canvas();
    const z = this.zoom();
    const dpr = this.dpr();
    const w = Math.ceil(all.width * z * dpr - 1e-6) / dpr;
    const h = Math.ceil(all.height * z * dpr - 1e-6) / dpr;
    const whole = (n: number) => Math.round(n * dpr) / dpr;
    const sight = this.cropSight();
    if (sight) return { x: whole(sight.x), y: whole(sight.y), width: w, height: h };
    const natural = (this.hole()?.top ?? 40) * this.pageScale() - this.frame().rect.y * z;
    const top = Math.max(18, Math.min(natural, (height - h) / 2 - 6));
    return { x: whole((width - w) / 2 + this.pan().x), y: whole(top + this.pan().y), width: w, height: h };
  });

  private readonly pageScale = computed(() => {
    // On a screenshot the slot is as wide as it was measured.
    const shown = (this.ownWidth() && this.hole()?.width) || this.slot().shownWidth;
    return (this.frame().rect.width * this.zoom()) / shown;
  });
  readonly pageWidth = computed(
    () =>
      this.ownWidth() ??
      // Never narrower than a page at a desk: enlarged, it would lay itself out as on a phone.
      Math.max(this.slot().shownWidth + 80, DESK, this.roomSize().width / this.pageScale()),
  );
  /** The page so that its slot lies where the frame in hand does. */
  readonly pageTransform = computed(() => {
    const { x, y } = this.lit();
    const { rect } = this.frame();
    const [z, s] = [this.zoom(), this.pageScale()];
    const left = x + rect.x * z - (this.hole()?.left ?? 0) * s;
    const top = y + rect.y * z - (this.hole()?.top ?? 0) * s;
    return `translate(${left}px, ${top}px) scale(${s})`;
  });

  readonly view = computed<View>(() => {
    const { width, height } = this.roomSize();
    return { ...this.lit(), zoom: this.zoom(), roomWidth: width, roomHeight: height };
  });

  /** A point of the stage as one of the canvas, canvas px. */
  canvasPoint({ x, y }: Point): Point {
    const lit = this.lit();
    return { x: (x - lit.x) / this.zoom(), y: (y - lit.y) / this.zoom() };
  }

  step(by: 1 | -1): void {
    const now = this.zoom();
    const next = by > 0 ? ZOOMS.find((z) => z > now + 1e-3) : [...ZOOMS].reverse().find((z) => z < now - 1e-3);
    if (next) this.zoomTo(next);
  }

  fit(): void {
    this.cropSight.set(this.sightOf(this.workbench.cropping()));
    this.chosenZoom.set(null);
    this.pan.set({ x: 0, y: 0 });
  }

  trueSize(): void {
    this.cropSight.set(null);
    this.chosenZoom.set(1);
    this.pan.set({ x: 0, y: 0 });
  }

  /** To a zoom, a point of the stage (its middle where none is given) staying where it is. */
  zoomTo(zoom: number, about?: Point): void {
    const { width, height } = this.roomSize();
    const at = about ?? { x: width / 2, y: height / 2 };
    const p = this.canvasPoint(at);
    const next = clamp(zoom, LEAST_ZOOM, MOST_ZOOM);
    this.cropSight.set(null);
    this.chosenZoom.set(next);
    this.panSo(p, at);
  }

  /** So that a box of the canvas (canvas px) is seen as large as can be. */
  zoomToBox(box: Box): void {
    const { width, height } = this.roomSize();
    const zoom = clamp(
      Math.min((width - 80) / Math.max(1, box.width), (height - 80) / Math.max(1, box.height)),
      LEAST_ZOOM,
      MOST_ZOOM,
    );
    this.cropSight.set(null);
    this.chosenZoom.set(zoom);
    this.panSo({ x: box.x + box.width / 2, y: box.y + box.height / 2 }, { x: width / 2, y: height / 2 });
  }

  /** Moves the canvas so that a point of it (canvas px) lies at one of the stage. */
  private panSo(p: Point, at: Point): void {
    this.pan.set({ x: 0, y: 0 });
    const now = this.lit();
    const z = this.zoom();
    this.pan.set(this.held({ x: at.x - (now.x + p.x * z), y: at.y - (now.y + p.y * z) }));
  }

  /** A pan held so that some of the canvas stays in sight. */
  private held(pan: Point): Point {
    const before = untracked(this.pan);
    this.pan.set({ x: 0, y: 0 });
    const { x, y, width, height } = this.lit();
    this.pan.set(before);
    const room = this.roomSize();
    return {
      x: clamp(pan.x, SEEN - width - x, room.width - SEEN - x),
      y: clamp(pan.y, SEEN - height - y, room.height - SEEN - y),
    };
  }

  /** Moves the canvas about by px of the stage. */
  panBy(x: number, y: number): void {
    if (this.cropSight()) return;
    this.pan.set(this.held({ x: this.pan().x + x, y: this.pan().y + y }));
  }

  /** A wheel moves the canvas about; with Ctrl or ⌘, or a pinch, it is made larger and smaller where the pointer is. */
  wheel(event: WheelEvent): void {
    event.preventDefault();
    // Lines and pages are told by some wheels (UI Events, section 5.4.2.2, deltaMode).
    const by = [1, 16, this.roomSize().height][event.deltaMode] ?? 1;
    if (event.ctrlKey || event.metaKey) {
      const room = (event.currentTarget as HTMLElement).getBoundingClientRect();
      const at = { x: event.clientX - room.left, y: event.clientY - room.top };
      this.zoomTo(this.zoom() * Math.exp((-event.deltaY * by) / 400), at);
    } else if (event.shiftKey && !event.deltaX) this.panBy(-event.deltaY * by, 0);
    else this.panBy(-event.deltaX * by, -event.deltaY * by);
  }

  private sightOf(id: string | null): { zoom: number; x: number; y: number } | null {
    const graphic = this.workbench.shown();
    const layer = graphic?.layers.find((l) => l.id === id);
    const { width, height } = this.roomSize();
    if (!graphic || !layer || !isPicture(layer) || !width) return null;
    const all = enclosing([this.canvas(), wholeBounds(layer, graphic.canvas)])!;
    const zoom = Math.min(this.restZoom(), (width - 40) / all.width, (height - 40) / all.height);
    return { zoom, x: width / 2 - (all.x + all.width / 2) * zoom, y: height / 2 - (all.y + all.height / 2) * zoom };
  }
}
