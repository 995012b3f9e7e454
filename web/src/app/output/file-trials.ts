import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import {
  nextForCurve,
  nextForProposal,
  pictureFormats,
  proposedFile,
  sameWay,
  topDensity,
  waysFor,
  type FileFormat,
  type FileNotes,
  type Frame,
  type Graphic,
  type Next,
  type Trial,
} from '@bright-slot/core';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';

/** A file that was made, to be looked at, saved or sent. */
export interface MadeTrial extends Trial {
  readonly blob: Blob;
  readonly url: string;
  readonly width: number;
  readonly height: number;
  /** How many pictures had to be decoded for it: none that is on the canvas. */
  readonly decoded: number;
}

/** What files are made of: whatever changes in it makes them all anew. */
export interface TrialSubject {
  readonly graphic: Graphic;
  readonly frame: Frame;
  readonly notes: FileNotes;
  /** Changes when anything that can be seen in the files does. */
  readonly state: string;
}

/**
 * The files of one frame, made one after the other: first the one that is chosen, then those that tell which is the
 * lightest that looks the same, and which is the best within a limit; then what the curve of weights lacks.
 */
@Injectable()
export class FileTrials {
  private readonly pixels = inject(PixelsService);
  readonly subject = signal<TrialSubject | null>(null, { equal: (a, b) => a?.state === b?.state });
  /** The file that is wanted first. */
  readonly chosen = signal<Next | null>(null);
  /** Whether all formats are tried, or the chosen file alone is made. */
  readonly deep = signal(false);
  /** Most bytes the file may have. */
  readonly most = signal<number | null>(null);
  /** Whether the best under that is looked for, although a lighter one looks the same. */
  readonly best = signal(false);

  readonly trials = signal<readonly MadeTrial[]>([]);
  readonly problems = signal<ReadonlyMap<FileFormat, string>>(new Map());
  /** The canvas as it was painted for the files, once they are compared. */
  readonly painted = signal<ImageBitmap | null>(null);
  private stop = new AbortController();
  private running = false;

  private readonly ways = computed(() => {
    const frame = this.subject()?.frame;
    if (!frame) return [];
    const first = (format: FileFormat) => Number(format === frame.export.format);
    return waysFor(frame.slot)
      .filter((w) => !this.problems().has(w.format))
      .sort((a, b) => first(b.format) - first(a.format));
  });

  /** The files that can be proposed: one that was chosen although its format does not suit the slot is none. */
  readonly fit = computed(() => this.trials().filter((t) => this.ways().some((w) => sameWay(w, t))));

  private readonly nextSearched = computed(() => nextForProposal(this.fit(), this.ways(), this.most(), this.best()));

  /** Whether all is known that a proposal needs. */
  readonly found = computed(() => this.deep() && this.trials().length > 0 && this.nextSearched() === null);
  /** The file that is proposed, once it is found. */
  readonly proposal = computed(() => (this.found() ? proposedFile(this.fit(), this.most()) : null));

  private readonly next = computed((): Next | null => {
    const chosen = this.chosen();
    if (!this.subject() || !chosen) return null;
    if (!this.problems().has(chosen.format) && !this.of(chosen)) return chosen;
    if (!this.deep()) return null;
    return this.nextSearched() ?? nextForCurve(this.fit(), this.ways());
  });
  /** Whether files are still being made. */
  readonly busy = computed(() => this.next() !== null);

  constructor() {
    effect(() => {
      this.subject();
      untracked(() => this.forget());
    });
    effect(() => {
      if (this.next()) untracked(() => void this.make());
    });
    inject(DestroyRef).onDestroy(() => this.forget());
  }

  /** The file that was made in a way, if it was. */
  of({ quality, ...way }: Next): MadeTrial | null {
    const lossless = pictureFormats[way.format].written === 'lossless';
    return this.trials().find((t) => sameWay(t, way) && (lossless || t.quality === quality)) ?? null;
  }

  private forget(): void {
    this.stop.abort();
    this.stop = new AbortController();
    for (const t of this.trials()) URL.revokeObjectURL(t.url);
    this.trials.set([]);
    this.painted()?.close();
    this.painted.set(null);
    this.problems.set(new Map());
  }

  /** Makes what is next, until there is nothing. */
  private async make(): Promise<void> {
    if (this.running) return;
    this.running = true;
    for (let next = this.next(); next; next = this.next()) await this.one(next, this.subject()!);
    this.running = false;
  }

  private async one(next: Next, { graphic, frame, notes }: TrialSubject): Promise<void> {
    const { signal } = this.stop;
    try {
      const made = await this.pixels.file(graphic, frame, { ...next, notes, compare: true }, signal);
      if (signal.aborted) return;
      const { blob, width, height, decoded } = made;
      const difference = made.difference!;
      const url = URL.createObjectURL(blob);
      if (this.deep() && !this.painted()) {
        const painted = await this.pixels.painted(graphic, frame, signal);
        if (signal.aborted) return painted.close();
        this.painted.set(painted);
      }
      this.trials.update((t) => [...t, { ...next, bytes: blob.size, difference, blob, url, width, height, decoded }]);
    } catch (error) {
      if (signal.aborted) return;
      // Nobody stopped it, so it would be asked for again for ever.
      if (error instanceof JobStopped) return this.subject.set(null);
      const said = error instanceof Error ? error.message : String(error);
      this.problems.update((p) => new Map(p).set(next.format, said));
    }
  }

  /** The picture without loss, for other programs to take; null where it cannot be made. */
  async lossless(): Promise<Blob | null> {
    const subject = this.subject();
    const known = this.trials().find((t) => t.format === 'png');
    if (!subject || known) return known?.blob ?? null;
    const { graphic, frame, notes } = subject;
    return (await this.pixels.file(graphic, frame, { format: 'png', quality: 100, notes }, this.stop.signal)).blob;
  }

  /** What a file that is made as the chosen one weighs at a lower density, bytes; null where there is none. */
  async lighter(): Promise<{ density: number; bytes: number } | null> {
    const [subject, chosen] = [this.subject(), this.chosen()];
    if (!subject || !chosen) return null;
    const density = topDensity(subject.frame.slot) - 1;
    if (density < 1) return null;
    const choices = { ...chosen, notes: subject.notes, density };
    const { blob } = await this.pixels.file(subject.graphic, subject.frame, choices, this.stop.signal);
    return { density, bytes: blob.size };
  }
}
