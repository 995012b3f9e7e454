import { Injectable, inject } from '@angular/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { takeLastWords, type LastWords } from '../storage/last-words';

/** What was kept; nothing where the browser keeps its small store from us. */
function kept(): LastWords[] {
  try {
    return takeLastWords();
  } catch {
    return [];
  }
}

/** Writes, at the start, what pages had not written when they went. */
@Injectable({ providedIn: 'root' })
export class LastWordsService {
  /** Resolves when all of it is on disk; nothing is read before. */
  readonly written = inject(GraphicsRepository)
    .recover(kept())
    .then(
      () => undefined,
      () => undefined,
    );
}
