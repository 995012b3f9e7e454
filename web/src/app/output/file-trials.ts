import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import {
  nextForCurve,
  nextForProposal,
  hasQuality,
  isDrawn,
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

/** A file that was made and not compared yet. */
export type EarlyFile = Omit<MadeTrial, 'difference' | 'bytes'>;

/** What comes of making a file; its address where it has been shown already. */
type Made = Omit<MadeTrial, keyof Next | 'bytes' | 'url'> & { readonly url?: string };

/** The worker that paints what is on screen, and one beside it. */
const lanes = ['first', 'second'] as const;
type Lane = (typeof lanes)[number];
/** A larger picture is not copied to the second worker, px. */
const MOST_HANDED = 8e6;

const sameFile = (a: Next, b: Next) => sameWay(a, b) && (a.quality === b.quality || !hasQuality(a.format));

/** What files are made of: whatever changes in it makes them all anew. */
export interface TrialSubject {
  readonly graphic: Graphic;
  readonly frame: Frame;
  readonly notes: FileNotes;
  /** Changes when anything that can be seen in the files does. */
  readonly state: string;
}

/**
 * The files of one frame, made two at a time: first, alone, the one that is chosen, then those that tell which is the
 * lightest that looks the same, and which is the best within a limit; then what the curve of weights lacks.
 */
@Injectable()
export class FileTrials {
  private readonly pixels = inject(PixelsService);
  readonly subject = signal<TrialSubject | null>(null, { equal: (a, b) => a?.state === b?.state });
  /** The file that is wanted first. */
  readonly chosen = signal<Next | null>(null);
  /** The chosen file alone is made; those too that a proposal needs; or what the curve of weights lacks besides. */
  readonly tried = signal<'chosen' | 'proposal' | 'curve'>('chosen');
  private readonly deep = computed(() => this.tried() !== 'chosen');
  /** Most bytes the file may have. */
  readonly most = signal<number | null>(null);
  /** The one format that it may have, where its place holds on to a name; null for any of the slot's. */
  readonly only = signal<FileFormat | null>(null);
  /** Whether the best under that is looked for, although a lighter one looks the same. */
  readonly best = signal(false);

  readonly trials = signal<readonly MadeTrial[]>([]);
  readonly problems = signal<ReadonlyMap<FileFormat, string>>(new Map());
  /** The canvas as it was painted for the files, once they are compared. */
  readonly painted = signal<ImageBitmap | null>(null);
  /** The first file, which is to be seen before it was compared. */
  readonly early = signal<EarlyFile | null>(null);
  private stop = new AbortController();
  /** How often all was begun anew. */
  private readonly begun = signal(0);
  /** What is being made. */
  private readonly going = signal<readonly Next[]>([]);

  private readonly ways = computed(() => {
    const frame = this.subject()?.frame;
    if (!frame) return [];
    const first = (format: FileFormat) => Number(format === frame.export.format);
    return waysFor(frame.slot)
      .filter((w) => !this.problems().has(w.format) && (this.only() ?? w.format) === w.format)
      .sort((a, b) => first(b.format) - first(a.format));
  });

  /** The files that can be proposed: one that was chosen although its format does not suit the slot is none. */
  readonly fit = computed(() => this.trials().filter((t) => this.ways().some((w) => sameWay(w, t))));

  /** Ways in which nothing is being made. */
  private readonly idleWays = computed(() => this.ways().filter((w) => !this.going().some((g) => sameWay(g, w))));

  /** Whether all is known that a proposal needs. */
  readonly found = computed(
    () =>
      this.deep() &&
      this.trials().length > 0 &&
      nextForProposal(this.fit(), this.ways(), this.most(), this.best()) === null,
  );
  /** The file that is proposed, once it is found. */
  readonly proposal = computed(() => (this.found() ? proposedFile(this.fit(), this.most()) : null));

  private readonly next = computed((): Next | null => {
    const [chosen, going] = [this.chosen(), this.going()];
    if (!this.subject() || !chosen) return null;
    const made = (next: Next) => this.of(next) ?? going.find((g) => sameFile(g, next));
    if (!this.problems().has(chosen.format) && !made(chosen)) return chosen;
    // The first comes alone: it is waited for, and tells what the others are.
    if (!this.deep() || !this.trials().length) return null;
    const next = nextForProposal(this.fit(), this.idleWays(), this.most(), this.best());
    if (next) return next;
    if (this.tried() !== 'curve') return null;
    // What the curve lacks comes once it is known what is proposed.
    return going.length && !this.found() ? null : nextForCurve(this.fit(), this.idleWays());
  });
  /** Whether files are still being made. */
  readonly busy = computed(() => this.going().length > 0 || this.next() !== null);

  constructor() {
    effect(() => {
      this.subject();
      untracked(() => this.forget());
    });
    effect(() => {
      // What is next may be what waited for a worker when all was let go of.
      this.begun();
      if (this.next()) untracked(() => this.make());
    });
    inject(DestroyRef).onDestroy(() => this.forget());
  }

  /** The file that was made in a way, if it was. */
  of(next: Next): MadeTrial | null {
    return this.trials().find((t) => sameFile(t, next)) ?? null;
  }

  private forget(): void {
    this.stop.abort();
    this.stop = new AbortController();
    for (const t of this.trials()) URL.revokeObjectURL(t.url);
    const early = this.early();
    if (early && !this.trials().some((t) => t.url === early.url)) URL.revokeObjectURL(early.url);
    this.early.set(null);
    this.going.set([]);
    this.trials.set([]);
    this.painted()?.close();
    this.painted.set(null);
    this.problems.set(new Map());
    this.free = new Set(lanes);
    this.begun.update((n) => n + 1);
  }

  /** The workers that nothing is being made in for this subject. */
  private free = new Set<Lane>(lanes);

  /** Begins what is next in each worker that is free. */
  private make(): void {
    for (let next = this.next(); next; next = this.next()) {
      const lane = this.laneFor();
      if (!lane) return;
      const what = next;
      this.free.delete(lane);
      this.going.update((g) => [...g, what]);
      const { signal } = this.stop;
      void this.one(what, lane, this.subject()!, signal).finally(() => {
        if (signal.aborted) return;
        this.free.add(lane);
        this.going.update((g) => g.filter((n) => n !== what));
        // What is next may be what it was while no worker was free.
        this.make();
      });
    }
  }

  /** A worker that is free; the second only for a picture that is handed over at once. */
  private laneFor(): Lane | null {
    if (this.free.has('first')) return 'first';
    const painted = this.painted();
    const small = painted !== null && painted.width * painted.height <= MOST_HANDED;
    return small && this.free.has('second') ? 'second' : null;
  }

  private async one(next: Next, lane: Lane, subject: TrialSubject, signal: AbortSignal): Promise<void> {
    try {
      const made =
        // What is drawn is no matter of painted pixels.
        lane === 'first' || isDrawn(next.format)
          ? await this.byFirst(next, subject, signal)
          : await this.bySecond(next, subject, signal);
      if (signal.aborted) return;
      if (this.deep() && !this.painted()) {
        const painted = await this.pixels.painted(subject.graphic, subject.frame, signal);
        if (signal.aborted) return painted.close();
        this.painted.set(painted);
      }
      const { blob } = made;
      const url = made.url ?? URL.createObjectURL(blob);
      this.trials.update((t) => [...t, { ...made, ...next, bytes: blob.size, url }]);
    } catch (error) {
      if (signal.aborted) return;
      // Nobody stopped it, so it would be asked for again for ever.
      if (error instanceof JobStopped) return this.subject.set(null);
      const said = error instanceof Error ? error.message : String(error);
      this.problems.update((p) => new Map(p).set(next.format, said));
    }
  }

  /** By the worker that has painted what is on screen. The very first is shown before it is compared. */
  private async byFirst(next: Next, { graphic, frame, notes }: TrialSubject, signal: AbortSignal): Promise<Made> {
    if (this.trials().length) {
      const made = await this.pixels.file(graphic, frame, { ...next, notes, compare: true }, signal);
      return { ...made, difference: made.difference! };
    }
    const made = await this.pixels.file(graphic, frame, { ...next, notes }, signal);
    signal.throwIfAborted();
    const url = URL.createObjectURL(made.blob);
    this.early.set({ ...next, ...made, url });
    const difference = await this.pixels.difference(graphic, frame, made.blob, signal);
    return { ...made, url, difference };
  }

  private async bySecond(next: Next, subject: TrialSubject, signal: AbortSignal): Promise<Made> {
    const { graphic, frame, notes, state } = subject;
    const painted = { key: state, bitmap: this.painted()!, ground: frame.slot.ground };
    try {
      return { ...(await this.pixels.fileOfPainted(painted, { ...next, notes }, signal)), decoded: 0 };
    } catch (error) {
      if (signal.aborted || error instanceof JobStopped) throw error;
      // What the second worker lacks, as code that cannot be fetched now, the first may have.
      const made = await this.pixels.file(graphic, frame, { ...next, notes, compare: true }, signal);
      return { ...made, difference: made.difference! };
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
