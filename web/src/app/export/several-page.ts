import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { routineText, sizeText, weightText } from '@bright-slot/core';
import { PreviewService, type Preview } from '../document/preview.service';
import { OtherPrograms } from '../output/other-programs';
import { RoutineRun } from '../output/routine-run';
import { ExportRoutines } from '../storage/export-routines.service';
import { GraphicsRepository, type GraphicEntry } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';
import { Icon } from '../ui/icon';
import { tickedOf } from '../ui/event-value';

/** Several graphics by several routines in one go: what is to be made, how far it is, and what was made. */
@Component({
  selector: 'bs-several-exports-page',
  imports: [Icon, RouterLink],
  providers: [OtherPrograms, RoutineRun],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './several-page.html',
  styleUrl: './several-page.scss',
})
export class SeveralExportsPage {
  protected readonly tickedOf = tickedOf;
  protected readonly text = routineText;
  protected readonly weight = weightText;
  private readonly repository = inject(GraphicsRepository);
  private readonly previews = inject(PreviewService);
  private readonly routines = inject(ExportRoutines);
  protected readonly run = inject(RoutineRun);
  protected readonly hand = inject(OtherPrograms);
  protected readonly entries = signal<readonly GraphicEntry[] | null>(null);
  protected readonly problem = signal('');
  protected readonly all = this.routines.all;
  /** Ticked graphics and routines, by their ids. */
  protected readonly wanted = signal<ReadonlySet<string>>(new Set());
  protected readonly by = signal<ReadonlySet<string>>(new Set());
  protected readonly pictures = signal<ReadonlyMap<string, Preview>>(new Map());

  private readonly chosen = computed(() => (this.entries() ?? []).filter((e) => this.wanted().has(e.id)));
  private readonly chosenRoutines = computed(() => this.all().filter((r) => this.by().has(r.id)));
  protected readonly count = computed(() => this.run.count(this.chosen(), this.chosenRoutines()));
  protected readonly everyOne = computed(() => this.chosen().length === (this.entries()?.length ?? 0));
  protected readonly sum = computed(() => this.run.report().reduce((n, r) => n + r.bytes, 0));

  constructor() {
    void this.look();
    effect((cleanUp) => {
      const stop = new AbortController();
      cleanUp(() => stop.abort());
      const entries = this.entries();
      if (entries && this.previews.ready()) untracked(() => void this.paint(entries, stop.signal));
    });
    inject(DestroyRef).onDestroy(() => {
      this.run.cancel();
      this.hand.cancel();
    });
  }

  private async look(): Promise<void> {
    try {
      const { entries } = await this.repository.list();
      this.entries.set(entries);
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
  }

  private async paint(entries: readonly GraphicEntry[], stop: AbortSignal): Promise<void> {
    for (const entry of entries) {
      const preview = await this.previews.preview(entry, stop).catch(() => null);
      if (stop.aborted) return;
      if (preview) this.pictures.update((p) => new Map(p).set(entry.id, preview));
    }
  }

  protected slotsOf({ frames }: GraphicEntry): string {
    const [first] = frames;
    return frames.length > 1 ? `${frames.length} frames` : `${first!.slot.name}, ${sizeText(first!.slot)}`;
  }

  /** The routines that are put on a graphic's slots. */
  protected ownOf({ frames }: GraphicEntry): string {
    const ids = new Set(frames.map((f) => f.slot.id));
    return this.all()
      .filter((r) => r.slots.some((s) => ids.has(s)))
      .map((r) => `“${r.name}”`)
      .join(', ');
  }

  protected want(id: string, on: boolean): void {
    this.wanted.update((w) => new Set(on ? [...w, id] : [...w].filter((i) => i !== id)));
  }

  protected wantAll(on: boolean): void {
    this.wanted.set(new Set(on ? (this.entries() ?? []).map((e) => e.id) : []));
  }

  protected take(id: string, on: boolean): void {
    this.by.update((b) => new Set(on ? [...b, id] : [...b].filter((i) => i !== id)));
  }

  protected async start(): Promise<void> {
    await this.run.run(
      this.chosen().map((e) => e.id),
      this.chosenRoutines(),
    );
  }

  /** The ticked graphics, to be worked on elsewhere. */
  protected async bundle(): Promise<void> {
    const chosen = this.chosen();
    const name = chosen.length === 1 ? chosen[0]!.name : `${chosen.length} graphics`;
    await this.hand.bundle(
      chosen.map((e) => e.id),
      name,
    );
  }

  protected async remove(id: string): Promise<void> {
    const problem = await this.routines.remove(id);
    if (problem) this.problem.set(problem.message);
    else this.take(id, false);
  }
}
