import { inject } from '@angular/core';
import type { CanDeactivateFn } from '@angular/router';
import { Store } from '@ngrx/store';
import { whenSaved } from './when-saved';
import { workbenchFeature } from './workbench.store';

/** Asks before a graphic is left whose last changes could not be saved; going between its own views keeps them. */
export const askBeforeLeaving: CanDeactivateFn<unknown> = async (_component, from, _state, to) => {
  const store = inject(Store);
  const problem = store.selectSignal(workbenchFeature.selectProblem);
  await whenSaved(store);
  const id = from.params['id'] as string;
  if (!problem() || to.url.startsWith(`/graphics/${id}`)) return true;
  return confirm('The last changes are not saved, and leaving would lose them. Leave all the same?');
};
