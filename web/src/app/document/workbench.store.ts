import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
  type MetaReducer,
} from '@ngrx/store';
import type { Writer } from '../storage/graphics-repository';
import {
  amend,
  called,
  canRedo,
  canUndo,
  commit,
  current,
  goTo,
  line,
  redo,
  undo,
  versionsOf,
  withEarlier,
  type Change,
  type Edit,
  type Graphic,
  type History,
  type Problem,
  type Step,
} from '@bright-slot/core';

export interface WorkbenchState {
  history: History | null;
  /** What was opened, while its head alone is read; null once the steps before and beside it are too. */
  partly: History | null;
  /** The session that may write what is open; null where it is only read. */
  token: string | null;
  /** What is selected, the one selected last at the end: ids of layers, or the backdrop alone. */
  selection: readonly string[];
  /** Writes under way. */
  saving: number;
  /** When the last write was completed, ms since 1970. */
  savedAt: number | null;
  /** Why the last changes are not saved. */
  problem: Problem | null;
  /** What has to be said of the last act: what of it was left out, or why it was not done. A new object each time. */
  told: { readonly message: string } | null;
}

const initial: WorkbenchState = {
  history: null,
  partly: null,
  token: null,
  selection: [],
  saving: 0,
  savedAt: null,
  problem: null,
  told: null,
};

export const WorkbenchActions = createActionGroup({
  source: 'Workbench',
  events: {
    opened: props<{ history: History; writer: Writer | null; told?: string; partly?: boolean }>(),
    /** The other steps of what was opened as `of`; none where they could not be read, as `told` says. */
    earlierRead: props<{ of: History; steps: readonly Step[]; told: string }>(),
    closed: emptyProps(),
    /** `step` and `at` are given by the caller, so that the reducer stays pure. */
    edited: props<{ edit: Edit; step: string; at: number; select?: readonly string[] }>(),
    /** What follows from the graphic was brought up to date; `from` is the state it was worked out for. */
    amended: props<{ change: Change; from: Graphic }>(),
    undone: emptyProps(),
    redone: emptyProps(),
    wentTo: props<{ step: string }>(),
    /** A step is a version of that name from now on; none where the name is empty. */
    called: props<{ step: string; name: string }>(),
    /** What could not be saved is tried again. */
    retried: emptyProps(),
    selected: props<{ layers: readonly string[] }>(),
    /** `token`: the session whose write it was, which may be over by now. */
    saved: props<{ at: number; token: string | null }>(),
    saveFailed: props<{ problem: Problem; token: string | null }>(),
    /** A reducer threw: the state stays as it was. */
    failed: props<{ message: string }>(),
    said: props<{ message: string }>(),
  },
});

/** What is selected when the backdrop is; no layer has this id. */
export const BACKDROP = 'backdrop';

/** What of a selection is there; the same list where all of it is. */
function thereOf(selection: readonly string[], history: History): readonly string[] {
  const { layers } = current(history);
  const there = selection.filter((id) => id === BACKDROP || layers.some((l) => l.id === id));
  return there.length === selection.length ? selection : there;
}

/** The selection stays only while its layers are there. */
function settled(state: WorkbenchState, history: History): WorkbenchState {
  if (history === state.history) return state;
  return { ...state, history, selection: thereOf(state.selection, history), saving: state.saving + 1 };
}

export const workbenchFeature = createFeature({
  name: 'workbench',
  reducer: createReducer(
    initial,
    on(WorkbenchActions.opened, (s, { history, writer, told, partly }) => {
      const same = s.history !== null && current(s.history).id === current(history).id;
      return {
        ...s,
        history,
        partly: partly ? history : null,
        token: writer?.token ?? null,
        selection: same ? thereOf(s.selection, history).filter((id) => id !== BACKDROP) : [],
        // What is open now is what is stored.
        problem: null,
        told: told ? { message: told } : s.told,
      };
    }),
    on(WorkbenchActions.earlierRead, (s, { of, steps, told }) => {
      if (!s.history || s.partly !== of) return s;
      const history = steps.length ? withEarlier(s.history, steps) : s.history;
      return { ...s, history, partly: null, told: told ? { message: told } : s.told };
    }),
    on(WorkbenchActions.closed, (s) => ({
      ...s,
      history: null,
      partly: null,
      token: null,
      selection: [],
      problem: null,
    })),
    on(WorkbenchActions.edited, (s, { edit, step, at, select }) => {
      if (!s.history) return s;
      const done = commit(s.history, edit, step, at);
      if (!done.ok) return { ...s, told: { message: done.problem.message } };
      const next = settled(s, done.value.history);
      const told = done.value.told.length ? { message: done.value.told.join(' ') } : s.told;
      return { ...next, told, ...(select === undefined ? {} : { selection: thereOf(select, next.history!) }) };
    }),
    on(WorkbenchActions.amended, (s, { change, from }) =>
      s.history && current(s.history) === from ? settled(s, amend(s.history, change)) : s,
    ),
    on(WorkbenchActions.undone, (s) => (s.history ? settled(s, undo(s.history)) : s)),
    on(WorkbenchActions.redone, (s) => (s.history ? settled(s, redo(s.history)) : s)),
    on(WorkbenchActions.wentTo, (s, { step }) => (s.history ? settled(s, goTo(s.history, step)) : s)),
    on(WorkbenchActions.called, (s, { step, name }) => (s.history ? settled(s, called(s.history, step, name)) : s)),
    on(WorkbenchActions.retried, (s) => (s.history ? { ...s, saving: s.saving + 1 } : s)),
    on(WorkbenchActions.selected, (s, { layers }) => ({ ...s, selection: layers })),
    on(WorkbenchActions.saved, (s, { at, token }) => ({
      ...s,
      saving: Math.max(0, s.saving - 1),
      savedAt: at,
      problem: token === s.token ? null : s.problem,
    })),
    on(WorkbenchActions.saveFailed, (s, { problem, token }) => ({
      ...s,
      saving: Math.max(0, s.saving - 1),
      problem: token === s.token ? problem : s.problem,
    })),
    on(WorkbenchActions.failed, WorkbenchActions.said, (s, { message }) => ({ ...s, told: { message } })),
  ),
  extraSelectors: ({ selectHistory, selectSelection }) => {
    const selectGraphic = createSelector(selectHistory, (h) => (h ? current(h) : null));
    return {
      selectGraphic,
      /** The only one selected. */
      selectSelected: createSelector(selectSelection, (ids) => (ids.length === 1 ? ids[0]! : null)),
      selectCanUndo: createSelector(selectHistory, (h) => h !== null && canUndo(h)),
      selectCanRedo: createSelector(selectHistory, (h) => h !== null && canRedo(h)),
      selectLine: createSelector(selectHistory, (h) => (h ? line(h) : [])),
      selectVersions: createSelector(selectHistory, (h) => (h ? versionsOf(h) : [])),
    };
  },
});

/**
 * No error in a reducer may end the store: from then on nothing would work. The state stays as it was before the act,
 * and the person is told.
 */
export const surviving: MetaReducer =
  (reducer) =>
  (state: unknown, action): unknown => {
    try {
      return reducer(state, action);
    } catch (error) {
      console.error(error);
      return reducer(
        state,
        WorkbenchActions.failed({
          message:
            'That could not be done, because of a fault of ours. Everything stays as it was; go on, or reload the page.',
        }),
      );
    }
  };
