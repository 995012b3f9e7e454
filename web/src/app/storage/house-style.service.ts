import { Injectable, inject, signal } from '@angular/core';
import { HouseStyle, heldWithin, isNewer, plainHouseStyle } from '@bright-slot/core';
import { GraphicsRepository } from './graphics-repository';
import { Refused, storageProblem } from './storage-problem';

const KEY = 'house-style';

export type HouseChange = Partial<Omit<HouseStyle, 'version'>>;

const newer = {
  code: 'newer',
  message:
    'This house style was last changed in a newer Bright Slot. It is kept as it is; reload this page to get the newer one.',
} as const;

/** The person's house style, kept in the browser; the same in every tab. */
@Injectable({ providedIn: 'root' })
export class HouseStyleService {
  private readonly repository = inject(GraphicsRepository);
  readonly style = signal<HouseStyle>(plainHouseStyle);
  readonly problem = signal('');
  readonly savedAt = signal<number | null>(null);
  /** Whether what is stored has been read. */
  readonly loaded = signal(false);

  readonly loadedOnce = new Promise<void>((done) => {
    this.repository.watchSetting(KEY).subscribe({
      next: (stored) => {
        this.take(stored);
        done();
      },
      error: (error: unknown) => {
        this.problem.set(storageProblem(error).message);
        this.loaded.set(true);
        done();
      },
    });
  });

  private take(stored: unknown): void {
    const read = HouseStyle.safeParse(stored);
    if (read.success) this.style.set(read.data);
    else if (isNewer(stored, plainHouseStyle.version)) this.problem.set(newer.message);
    this.loaded.set(true);
  }

  /**
   * Changes some settings; all others stay as they are stored, whoever set them. Resolves when it is on disk, or the
   * problem is shown.
   */
  async change(change: HouseChange): Promise<void> {
    const shown = heldWithin<HouseStyle>(HouseStyle, { ...this.style(), ...change });
    if (!shown) {
      this.problem.set('That could not be kept: something of it is not as it should be. Nothing was changed.');
      return;
    }
    this.style.set(shown.value);
    try {
      await this.repository.changeSetting(KEY, (stored) => {
        if (isNewer(stored, plainHouseStyle.version)) throw new Refused(newer);
        const here = HouseStyle.safeParse(stored);
        const next = heldWithin<HouseStyle>(HouseStyle, { ...(here.success ? here.data : plainHouseStyle), ...change });
        return next?.value ?? shown.value;
      });
      this.savedAt.set(Date.now());
      this.problem.set('');
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
  }
}
