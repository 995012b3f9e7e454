import { Injectable, inject, signal } from '@angular/core';
import { HouseStyle, plainHouseStyle } from '@bright-slot/core';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';

const KEY = 'house-style';

/** The person's house style, kept in the browser. */
@Injectable({ providedIn: 'root' })
export class HouseStyleService {
  private readonly repository = inject(GraphicsRepository);
  readonly style = signal<HouseStyle>(plainHouseStyle);
  readonly problem = signal('');
  readonly savedAt = signal<number | null>(null);
  /** Whether what is stored has been read. */
  readonly loaded = signal(false);

  readonly loadedOnce = this.load();

  private async load(): Promise<void> {
    try {
      const stored = HouseStyle.safeParse(await this.repository.setting(KEY));
      if (stored.success) this.style.set(stored.data);
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    } finally {
      this.loaded.set(true);
    }
  }

  async change(change: Partial<Omit<HouseStyle, 'version'>>): Promise<void> {
    const next = HouseStyle.safeParse({ ...this.style(), ...change });
    if (!next.success) return;
    this.style.set(next.data);
    try {
      await this.repository.setSetting(KEY, next.data);
      this.savedAt.set(Date.now());
      this.problem.set('');
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
  }
}
