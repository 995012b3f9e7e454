import { signal } from '@angular/core';
import type { Problem } from '@bright-slot/core';
import type * as z from 'zod';
import type { GraphicsRepository } from './graphics-repository';
import { storageProblem } from './storage-problem';

/** A list that is kept as one setting, the same in every tab; what of it cannot be read is left out. */
export class KeptList<T> {
  readonly all = signal<readonly T[]>([]);

  constructor(
    private readonly repository: GraphicsRepository,
    private readonly key: string,
    private readonly schema: z.ZodType<T>,
  ) {
    repository.watchSetting(key).subscribe({
      next: (stored) => this.all.set(this.read(stored)),
      error: () => this.all.set([]),
    });
  }

  private read(stored: unknown): T[] {
    return Array.isArray(stored) ? stored.flatMap((v) => this.schema.safeParse(v).data ?? []) : [];
  }

  async change(change: (all: T[]) => T[]): Promise<Problem | null> {
    try {
      await this.repository.changeSetting(this.key, (stored) => change(this.read(stored)));
      return null;
    } catch (error) {
      return storageProblem(error);
    }
  }
}
