import { Injectable, inject, signal } from '@angular/core';
import { Routine, type Problem } from '@bright-slot/core';
import { GraphicsRepository } from './graphics-repository';
import { storageProblem } from './storage-problem';

const KEY = 'routines';
const MOST = 100;

const readAll = (stored: unknown): Routine[] =>
  Array.isArray(stored) ? stored.flatMap((v) => Routine.safeParse(v).data ?? []) : [];

/** The person's routines, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class Routines {
  private readonly repository = inject(GraphicsRepository);
  readonly all = signal<readonly Routine[]>([]);

  constructor() {
    this.repository.watchSetting(KEY).subscribe({
      next: (stored) => this.all.set(readAll(stored)),
      error: () => this.all.set([]),
    });
  }

  /** Keeps one; one of the same name gives way to it. */
  keep(routine: Routine): Promise<Problem | null> {
    return this.change((all) => [...all.filter((r) => r.name !== routine.name), Routine.parse(routine)].slice(-MOST));
  }

  remove(id: string): Promise<Problem | null> {
    return this.change((all) => all.filter((r) => r.id !== id));
  }

  private async change(change: (all: Routine[]) => Routine[]): Promise<Problem | null> {
    try {
      await this.repository.changeSetting(KEY, (stored) => change(readAll(stored)));
      return null;
    } catch (error) {
      return storageProblem(error);
    }
  }
}
