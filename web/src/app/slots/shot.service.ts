import { Injectable, OnDestroy, computed, inject, signal } from '@angular/core';
import {
  bad,
  clamp,
  good,
  MOST_BYTES,
  guessDensity,
  slotFromMeasured,
  tooHeavy,
  type Box,
  type Measured,
  type OwnPage,
  type Result,
  type Side,
  type Slot,
} from '@bright-slot/core';
import { LONGEST, PixelsService } from '../pixels/pixels.service';
import { JobStopped } from '../pixels/pixel-client';
import { PicturesService } from '../media/pictures.service';
import { OwnPages } from '../storage/own-pages.service';
import { storageProblem } from '../storage/storage-problem';
import { today } from '../ui/when';

export interface Shot {
  readonly key: string;
  /** The file itself, should it be kept as a page. */
  readonly file: Blob & { name?: string };
  readonly name: string;
  readonly url: string;
  readonly bitmap: ImageBitmap;
  readonly why: string;
}

/** A slot found on the screenshot; the box may have been moved by hand since. */
export interface Found {
  readonly id: string;
  readonly measured: Measured;
  readonly byHand: boolean;
}

/** One screenshot at a time, and the slots found on it. */
@Injectable()
export class ShotService implements OnDestroy {
  private readonly pixels = inject(PixelsService);
  private readonly pictures = inject(PicturesService);
  private readonly pages = inject(OwnPages);
  readonly shot = signal<Shot | null>(null);
  /** Device px a CSS px: guessed at first, the person's to say. */
  readonly density = signal(1);
  readonly found = signal<readonly Found[]>([]);
  readonly selectedId = signal<string | null>(null);
  readonly busy = signal(false);
  readonly problem = signal('');
  /** What the loupe looks at, device px; null puts it away. */
  readonly looking = signal<{ x: number; y: number } | null>(null);
  readonly selected = computed(() => this.found().find((f) => f.id === this.selectedId()) ?? null);

  ngOnDestroy(): void {
    this.close();
  }

  async open(file: Blob & { name?: string }): Promise<void> {
    const name = file.name || 'screenshot';
    this.problem.set('');
    if (file.size > MOST_BYTES) {
      const { problem } = tooHeavy(file.size, name);
      return this.problem.set(problem.message);
    }
    this.busy.set(true);
    const key = crypto.randomUUID();
    try {
      const opened = await this.pixels.sight.within(LONGEST, { kind: 'shot-open', key, blob: file, name });
      if (!opened.ok) return this.problem.set(opened.problem.message);
      this.close(key);
      const bitmap = opened.value;
      const guess = guessDensity(bitmap, {
        density: devicePixelRatio || 1,
        screen: { width: screen.width, height: screen.height },
        window: { width: innerWidth, height: innerHeight },
      });
      this.density.set(guess.density);
      this.shot.set({ key, file, name, url: URL.createObjectURL(file), bitmap, why: guess.why });
    } catch (error) {
      if (!(error instanceof JobStopped))
        this.problem.set('That picture could not be opened. Take the screenshot again.');
    } finally {
      this.busy.set(false);
    }
  }

  /** Lets the screenshot go; `next` is the one that already took its place in the worker. */
  close(next?: string): void {
    const shot = this.shot();
    if (!shot) return;
    URL.revokeObjectURL(shot.url);
    shot.bitmap.close();
    if (!next) void this.pixels.sight.run({ kind: 'shot-close', key: shot.key }).catch(() => undefined);
    this.shot.set(null);
    this.found.set([]);
    this.selectedId.set(null);
    this.looking.set(null);
  }

  /** Snaps a rough drag, device px, to the slot it goes around. */
  async measure(rough: Box): Promise<Found | null> {
    const shot = this.shot();
    if (!shot) return null;
    this.busy.set(true);
    this.problem.set('');
    try {
      const got = await this.pixels.sight.run({ kind: 'shot-measure', key: shot.key, rough, density: this.density() });
      if (!got.ok) {
        this.problem.set(got.problem.message);
        return null;
      }
      const one = { id: crypto.randomUUID(), measured: got.value, byHand: false };
      // The same slot dragged around again takes the place of its first measure.
      this.found.update((all) => [...all.filter((f) => !sameBox(f.measured.box, got.value.box)), one]);
      this.selectedId.set(one.id);
      return one;
    } catch {
      this.problem.set('Measuring failed. Try again.');
      return null;
    } finally {
      this.busy.set(false);
    }
  }

  /** Moves one side of a found slot by device px, outwards or inwards as the sign says. */
  nudge(id: string, side: Side, by: number): void {
    this.found.update((all) =>
      all.map((f) =>
        f.id === id ? { ...f, byHand: true, measured: moved(f.measured, side, by, this.shot()!.bitmap) } : f,
      ),
    );
  }

  remove(id: string): void {
    this.found.update((all) => all.filter((f) => f.id !== id));
    if (this.selectedId() === id) this.selectedId.set(this.found().at(-1)?.id ?? null);
  }

  /**
   * Keeps the screenshot as the page of slots, each in a box of it (device px): on the device that it is as wide as.
   * Gives a way to take that back, or what went wrong.
   */
  async keepAsPage(
    places: readonly { readonly slot: string; readonly box: Box }[],
  ): Promise<Result<() => Promise<void>>> {
    const shot = this.shot();
    if (!shot) return bad('gone', 'The screenshot is not open any more. Open it again.');
    // Whoever goes on at once closes the screenshot: what is asked of it is asked before.
    const [across, density] = [shot.bitmap.width, this.density()];
    const kept = await this.pictures.bringIn(shot.file, { page: true });
    if (!kept.ok) return kept;
    const { hash: asset, width, height } = kept.value;
    // A drawing has px of its own; what is measured is what it was opened at.
    const by = width / across;
    try {
      const before: { slot: string; page: OwnPage | undefined }[] = [];
      for (const { slot, box } of places) {
        const on = { x: box.x * by, y: box.y * by, width: box.width * by, height: box.height * by };
        const page = await this.pages.keepShot(slot, { asset, width, height, box: on, density: density * by });
        before.push({ slot, page });
      }
      return good(async () => {
        for (const { slot, page } of before) await this.pages.restore(slot, page);
      });
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    }
  }

  /** A found slot as one for the book; null where its size is none. */
  slotOf({ measured }: Found, name: string): Slot | null {
    const dated = today();
    const slot = slotFromMeasured(measured, this.density(), { id: 'measured', name, dated });
    return slot.ok ? slot.value : null;
  }
}

function sameBox(a: Box, b: Box): boolean {
  return (['x', 'y', 'width', 'height'] as const).every((k) => Math.abs(a[k] - b[k]) <= 2);
}

function moved(m: Measured, side: Side, by: number, within: { width: number; height: number }): Measured {
  const edges = { left: m.box.x, top: m.box.y, right: m.box.x + m.box.width, bottom: m.box.y + m.box.height };
  const most = side === 'left' || side === 'right' ? within.width : within.height;
  const next = { ...edges, [side]: clamp(Math.round(edges[side]) + by, 0, most) };
  const box = { x: next.left, y: next.top, width: next.right - next.left, height: next.bottom - next.top };
  if (box.width < 2 || box.height < 2) return m;
  return {
    ...m,
    box,
    unsure: m.unsure.filter((s) => s !== side),
    grid: { columns: 1, rows: 1, gapX: 0, gapY: 0, boxes: [box] },
  };
}
