import { DestroyRef, Injectable, effect, inject, signal, untracked } from '@angular/core';
import { clamp, frameOf, notesFor, pictureState, type Frame, type Graphic } from '@bright-slot/core';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { HouseStyleService } from '../storage/house-style.service';
import { Workbench } from './workbench';

/** How long nothing may change before the picture is made again, ms. */
const REST = 80;

/** The frame in hand as a picture that a page can show, kept live as long as somebody looks at it. */
@Injectable({ providedIn: 'root' })
export class LivePicture {
  private readonly workbench = inject(Workbench);
  private readonly pixels = inject(PixelsService);
  private readonly house = inject(HouseStyleService);
  private readonly watchers = signal(0);
  /** Its address; null until it is made. */
  readonly url = signal<string | null>(null);
  /** Whether it is to be the file itself, as it is encoded, rather than the canvas. */
  readonly asFile = signal(false);
  /** What the file that is shown weighs, bytes; null where the canvas is shown. */
  readonly bytes = signal<number | null>(null);
  private made = '';
  /** The other frames of a set, by their ids, painted once the one in hand is. */
  readonly others = signal<ReadonlyMap<string, string>>(new Map());
  private readonly madeOthers = new Map<string, string>();

  constructor() {
    effect((onCleanup) => {
      const graphic = this.workbench.working();
      const frame = this.workbench.frame();
      if (!graphic || !frame || !this.watchers()) return;
      const now = frameOf(graphic, frame.id);
      const { format, quality, chroma, watermark } = now.export;
      const over = watermark ? JSON.stringify(this.house.style().watermark) : '';
      const file = this.asFile() ? `${format} ${quality} ${chroma} ${over}` : '';
      const state = `${graphic.id}|${now.id}|${pictureState(graphic, now)}|${file}`;
      if (state === this.made) return;
      const stop = new AbortController();
      const resting = setTimeout(
        () => untracked(() => void this.make(graphic, now, state, file !== '', stop.signal)),
        REST,
      );
      onCleanup(() => {
        clearTimeout(resting);
        stop.abort();
      });
    });
  }

  /** Keeps it live until whoever asks is gone. */
  watch(destroyed: DestroyRef): void {
    this.watchers.update((n) => n + 1);
    destroyed.onDestroy(() => {
      this.watchers.update((n) => n - 1);
      if (this.watchers() > 0) return;
      this.show(null, '');
      this.forgetOthers();
    });
  }

  private async make(graphic: Graphic, frame: Frame, state: string, asFile: boolean, stop: AbortSignal): Promise<void> {
    try {
      const blob = asFile
        ? (
            await this.pixels.file(
              graphic,
              frame,
              { ...frame.export, notes: notesFor(this.house.style(), frame.export) },
              stop,
            )
          ).blob
        : await this.pixels.asShown(graphic, frame, clamp(Math.round(frame.rect.width), 64, 1600), stop);
      const url = URL.createObjectURL(blob);
      // Decoded before it is shown, so that the page does not blink.
      const image = new Image();
      image.src = url;
      await image.decode().catch(() => undefined);
      if (stop.aborted) return URL.revokeObjectURL(url);
      this.bytes.set(asFile ? blob.size : null);
      this.show(url, state);
      await this.paintOthers(graphic, frame, stop);
    } catch (error) {
      // What was shown last stands; the next change makes it again.
      if (!(error instanceof JobStopped)) console.warn(error);
    }
  }

  /** The frames that are not in hand: what a set's page shows beside it. */
  private async paintOthers(graphic: Graphic, inHand: Frame, stop: AbortSignal): Promise<void> {
    for (const frame of graphic.frames) {
      if (frame.id === inHand.id) continue;
      const state = `${graphic.id}|${frame.id}|${pictureState(graphic, frame)}`;
      if (this.madeOthers.get(frame.id) === state) continue;
      const wide = clamp(Math.round(frame.rect.width), 64, 1600);
      const blob = await this.pixels.asShown(graphic, frame, wide, stop);
      if (stop.aborted) return;
      this.madeOthers.set(frame.id, state);
      this.showOther(frame.id, URL.createObjectURL(blob));
    }
  }

  private showOther(frame: string, url: string): void {
    const before = this.others().get(frame);
    this.others.update((all) => new Map(all).set(frame, url));
    if (before) setTimeout(() => URL.revokeObjectURL(before), 1000);
  }

  private forgetOthers(): void {
    for (const url of this.others().values()) URL.revokeObjectURL(url);
    this.madeOthers.clear();
    this.others.set(new Map());
  }

  private show(url: string | null, state: string): void {
    const before = this.url();
    this.url.set(url);
    this.made = state;
    if (before) setTimeout(() => URL.revokeObjectURL(before), 1000);
  }
}
