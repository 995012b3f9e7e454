import { Injectable } from '@angular/core';
import type { PreloadingStrategy, Route } from '@angular/router';
import { EMPTY, switchMap, timer, type Observable } from 'rxjs';

/** How long after a page has come the next ones are got ready, ms. */
const AFTER = 2500;

/** Pages that are likely to be gone to next (`data: { next: true }`) are loaded while nothing else is. */
@Injectable({ providedIn: 'root' })
export class PreloadNext implements PreloadingStrategy {
  preload(route: Route, load: () => Observable<unknown>): Observable<unknown> {
    return route.data?.['next'] === true ? timer(AFTER).pipe(switchMap(load)) : EMPTY;
  }
}
