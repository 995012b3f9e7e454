import { Injectable, inject } from '@angular/core';
import { GraphicsRepository } from '../storage/graphics-repository';
import { takeLastWords } from '../storage/last-words';

/** Writes, at the start, what pages had not written when they went. */
@Injectable({ providedIn: 'root' })
export class LastWordsService {
  /** Resolves when all of it is on disk; nothing is read before. */
  readonly written = inject(GraphicsRepository)
    .recover(takeLastWords())
    .then(
      () => undefined,
      () => undefined,
    );
}
