import { Injectable, inject, signal } from '@angular/core';
import { ExportRoutine, MOST_EXPORT_ROUTINES, type Problem } from '@bright-slot/core';
import { GraphicsRepository } from './graphics-repository';
import { storageProblem } from './storage-problem';

const KEY = 'export-routines';

const readAll = (stored: unknown): ExportRoutine[] =>
  Array.isArray(stored) ? stored.flatMap((v) => ExportRoutine.safeParse(v).data ?? []) : [];

/** The person's routines for exporting, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class ExportRoutines {
  private readonly repository = inject(GraphicsRepository);
  readonly all = signal<readonly ExportRoutine[]>([]);

  constructor() {
    this.repository.watchSetting(KEY).subscribe({
      next: (stored) => this.all.set(readAll(stored)),
      error: () => this.all.set([]),
    });
  }

  /** Keeps one; one of the same name gives way to it, and stays on the slots it was put on. */
  keep(routine: ExportRoutine): Promise<Problem | null> {
    return this.change((all) => {
      const before = all.find((r) => r.name === routine.name);
      const slots = [...new Set([...(before?.slots ?? []), ...routine.slots])];
      return [...all.filter((r) => r !== before), ExportRoutine.parse({ ...routine, slots })].slice(
        -MOST_EXPORT_ROUTINES,
      );
    });
  }

  /** Puts one on a slot, or takes it off. */
  put(id: string, slot: string, on: boolean): Promise<Problem | null> {
    return this.change((all) =>
      all.map((r) =>
        r.id === id ? { ...r, slots: [...r.slots.filter((s) => s !== slot), ...(on ? [slot] : [])] } : r,
      ),
    );
  }

  remove(id: string): Promise<Problem | null> {
    return this.change((all) => all.filter((r) => r.id !== id));
  }

  private async change(change: (all: ExportRoutine[]) => ExportRoutine[]): Promise<Problem | null> {
    try {
      await this.repository.changeSetting(KEY, (stored) => change(readAll(stored)));
      return null;
    } catch (error) {
      return storageProblem(error);
    }
  }
}
