import { newGraphic, slotsToStart, startHistory, current, type Edit } from '@bright-slot/core';
import { BACKDROP, WorkbenchActions, surviving, workbenchFeature } from './workbench.store';

const { reducer } = workbenchFeature;
const writer = { token: 't', head: 's1', next: new Map<string, string>() };
const graphic = newGraphic({ id: 'g', name: 'One', created: '', slot: slotsToStart[0]! });
const opened = reducer(undefined, WorkbenchActions.opened({ history: startHistory(graphic, 's1', 1), writer }));
const renamed = reducer(
  opened,
  WorkbenchActions.edited({ edit: { type: 'rename', to: 'Two', name: 'Renamed' }, step: 's2', at: 2 }),
);

it('counts a write as under way from the edit until it is saved or has failed', () => {
  expect([opened.saving, renamed.saving]).toEqual([0, 1]);
  const saved = reducer(renamed, WorkbenchActions.saved({ at: 3, token: 't' }));
  expect([saved.saving, saved.savedAt]).toEqual([0, 3]);
  const failed = reducer(renamed, WorkbenchActions.saveFailed({ problem: { code: 'x', message: 'y' }, token: 't' }));
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
  const on = (layer: string) => reducer(renamed, WorkbenchActions.selected({ layers: [layer] }));
  expect(reducer(on('gone'), WorkbenchActions.undone()).selection).toEqual([]);
  expect(reducer(on(BACKDROP), WorkbenchActions.undone()).selection).toEqual([BACKDROP]);
});

it('what is open belongs to one session: a write of another says nothing of it, and closing drops all of it', () => {
  const of = (token: string) =>
    reducer(renamed, WorkbenchActions.saveFailed({ problem: { code: 'x', message: 'y' }, token }));
  expect(of('t').problem?.code).toBe('x');
  expect(of('other').problem).toBeNull();
  expect(reducer(of('t'), WorkbenchActions.saved({ at: 9, token: 'other' })).problem?.code).toBe('x');
  const closed = reducer(of('t'), WorkbenchActions.closed());
  expect([closed.history, closed.token, closed.problem]).toEqual([null, null, null]);
  expect(reducer(closed, WorkbenchActions.undone()).history).toBeNull();
  const other = startHistory({ ...graphic, id: 'h' }, 'h1', 1);
  const read = reducer(of('t'), WorkbenchActions.opened({ history: other, writer: null, told: 'Passed over.' }));
  expect([read.token, read.problem, read.told?.message]).toEqual([null, null, 'Passed over.']);
});

it('says what it left out, or why an edit was not made, and goes on', () => {
  const edit = (e: Edit) => reducer(opened, WorkbenchActions.edited({ edit: e, step: 's9', at: 9 }));
  const refused = edit({ type: 'set-backdrop', name: 'x', backdrop: { kind: 'colour', colour: 'red' } });
  expect(refused.told?.message).toContain('was not made');
  expect(refused.history).toBe(opened.history);
  expect(refused.saving).toBe(0);
});

it('no error in a reducer ends the store: the state stays, the fault is told, what follows works', () => {
  const log = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const breaking: typeof reducer = (state, action) => {
    if (action.type === WorkbenchActions.undone.type) throw new Error('A step that cannot be read.');
    return reducer(state, action);
  };
  const safe = surviving(breaking) as typeof reducer;
  const after = safe(renamed, WorkbenchActions.undone());
  expect(after.history).toBe(renamed.history);
  expect(after.told?.message).toContain('fault of ours');
  expect(current(safe(after, WorkbenchActions.wentTo({ step: 's1' })).history!).name).toBe('One');
  log.mockRestore();
});
