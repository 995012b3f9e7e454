import { Injectable, Injector, inject, type ErrorHandler } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { JobStopped } from './pixels/pixel-client';

/** How long the same fault is not told again, ms. */
const AGAIN = 30_000;

/** Whether a part of the app could not be fetched: the server is gone, or the net. */
export const isUnfetched = (error: unknown): boolean =>
  /dynamically imported module|importing a module script|ChunkLoadError|Failed to fetch|NetworkError|Load failed/i.test(
    error instanceof Error ? error.message : String(error),
  );

export const unfetchedText =
  'A part of Bright Slot could not be fetched. Check that it is running, then try again; your work is kept.';

/** What went wrong where nobody thought of it: told to the person once, with what to do; the app goes on. */
@Injectable()
export class ToldErrors implements ErrorHandler {
  private readonly injector = inject(Injector);
  private readonly told = new Map<string, number>();

  handleError(error: unknown): void {
    // Angular hands on what a promise was rejected with inside another error.
    const cause = (error as { rejection?: unknown } | null)?.rejection ?? error;
    if (cause instanceof JobStopped || (cause as { name?: string } | null)?.name === 'AbortError') return;
    console.error(cause);
    this.tell(
      isUnfetched(cause)
        ? unfetchedText
        : 'Something went wrong that we had not thought of. What is shown as saved is saved: go on, or reload the page if something looks odd.',
    );
  }

  /** Shows a sentence, unless it was shown just now. */
  tell(message: string): void {
    const now = Date.now();
    if (now - (this.told.get(message) ?? -Infinity) < AGAIN) return;
    this.told.set(message, now);
    this.injector.get(MatSnackBar).open(message, 'Close', { duration: 15_000, politeness: 'assertive' });
  }
}
