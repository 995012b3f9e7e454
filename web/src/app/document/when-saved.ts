import type { Store } from '@ngrx/store';
import { filter, firstValueFrom } from 'rxjs';
import { workbenchFeature } from './workbench.store';

/** Resolves when no write is under way, whether the last one succeeded or not. */
export async function whenSaved(store: Pick<Store, 'select'>): Promise<void> {
  await firstValueFrom(store.select(workbenchFeature.selectSaving).pipe(filter((n) => n === 0)));
}
