import '@angular/compiler';
import { newGraphic, slotsToStart, startHistory, current } from '@bright-slot/core';
import { BACKDROP, WorkbenchActions, workbenchFeature } from './workbench.store';

const { reducer } = workbenchFeature;
const graphic = newGraphic({ id: 'g', name: 'One', created: '', slot: slotsToStart[0]! });
const opened = reducer(undefined, WorkbenchActions.opened({ history: startHistory(graphic, 's1', 1) }));
const renamed = reducer(
  opened,
  WorkbenchActions.edited({ edit: { type: 'rename', to: 'Two', name: 'Renamed' }, step: 's2', at: 2 }),
);

it('counts a write as under way from the edit until it is saved or has failed', () => {
  expect([opened.saving, renamed.saving]).toEqual([0, 1]);
  const saved = reducer(renamed, WorkbenchActions.saved({ at: 3 }));
  expect([saved.saving, saved.savedAt]).toEqual([0, 3]);
  const failed = reducer(renamed, WorkbenchActions.saveFailed({ problem: { code: 'x', message: 'y' } }));
  expect([failed.saving, failed.savedAt, failed.problem?.code]).toEqual([0, null, 'x']);
  expect(reducer(failed, WorkbenchActions.retried()).saving).toBe(1);
});

it('does not count an edit that changes nothing', () => {
  const same = reducer(
    opened,
    WorkbenchActions.edited({ edit: { type: 'remove-layer', id: 'none', name: 'x' }, step: 's2', at: 2 }),
  );
  expect(same.saving).toBe(0);
  expect(same.history).toBe(opened.history);
});

it('goes back and forward', () => {
  const undone = reducer(renamed, WorkbenchActions.undone());
  expect(current(undone.history!).name).toBe('One');
  expect(current(reducer(undone, WorkbenchActions.redone()).history!).name).toBe('Two');
});

it('lets go of a selection whose layer is gone, never of the backdrop', () => {
  const on = (layer: string) => reducer(renamed, WorkbenchActions.selected({ layer }));
  expect(reducer(on('gone'), WorkbenchActions.undone()).selected).toBeNull();
  expect(reducer(on(BACKDROP), WorkbenchActions.undone()).selected).toBe(BACKDROP);
});

it('forgets nothing of the same graphic read anew, and everything of another', () => {
  const failed = reducer(renamed, WorkbenchActions.saveFailed({ problem: { code: 'x', message: 'y' } }));
  expect(reducer(failed, WorkbenchActions.opened({ history: renamed.history! })).problem?.code).toBe('x');
  const other = startHistory({ ...graphic, id: 'h' }, 'h1', 1);
  expect(reducer(failed, WorkbenchActions.opened({ history: other })).problem).toBeNull();
});
