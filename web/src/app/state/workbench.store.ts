import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';
import {
  amend,
  canRedo,
  canUndo,
  commit,
  current,
  goTo,
  line,
  redo,
  undo,
  type Change,
  type Edit,
  type Graphic,
  type History,
  type Problem,
} from '@bright-slot/core';

export interface WorkbenchState {
  history: History | null;
  selected: string | null;
  /** Writes under way. */
  saving: number;
  /** When the last write was completed, ms since 1970. */
  savedAt: number | null;
  problem: Problem | null;
}

const initial: WorkbenchState = { history: null, selected: null, saving: 0, savedAt: null, problem: null };

export const WorkbenchActions = createActionGroup({
  source: 'Workbench',
  events: {
    opened: props<{ history: History }>(),
    closed: emptyProps(),
    /** `step` and `at` are given by the caller, so that the reducer stays pure. */
    edited: props<{ edit: Edit; step: string; at: number; select?: string | null }>(),
    /** What follows from the graphic was brought up to date; `from` is the state it was worked out for. */
    amended: props<{ change: Change; from: Graphic }>(),
    undone: emptyProps(),
    redone: emptyProps(),
    wentTo: props<{ step: string }>(),
    /** What could not be saved is tried again. */
    retried: emptyProps(),
    selected: props<{ layer: string | null }>(),
    saved: props<{ at: number }>(),
    saveFailed: props<{ problem: Problem }>(),
  },
});

/** What is selected when the backdrop is; no layer has this id. */
export const BACKDROP = 'backdrop';

/** The selection stays only while its layer is there. */
function settled(state: WorkbenchState, history: History): WorkbenchState {
  if (history === state.history) return state;
  const kept = state.selected === BACKDROP || current(history).layers.some((l) => l.id === state.selected);
  return { ...state, history, selected: kept ? state.selected : null, saving: state.saving + 1 };
}

export const workbenchFeature = createFeature({
  name: 'workbench',
  reducer: createReducer(
    initial,
    on(WorkbenchActions.opened, (s, { history }) => {
      const same = s.history !== null && current(s.history).id === current(history).id;
      const kept = same && current(history).layers.some((l) => l.id === s.selected);
      return { ...s, history, selected: kept ? s.selected : null, problem: same ? s.problem : null };
    }),
    on(WorkbenchActions.closed, (s) => ({ ...s, history: null, selected: null })),
    on(WorkbenchActions.edited, (s, { edit, step, at, select }) => {
      if (!s.history) return s;
      const next = settled(s, commit(s.history, edit, step, at));
      return select === undefined ? next : { ...next, selected: select };
    }),
    on(WorkbenchActions.amended, (s, { change, from }) =>
      s.history && current(s.history) === from ? settled(s, amend(s.history, change)) : s,
    ),
    on(WorkbenchActions.undone, (s) => (s.history ? settled(s, undo(s.history)) : s)),
    on(WorkbenchActions.redone, (s) => (s.history ? settled(s, redo(s.history)) : s)),
    on(WorkbenchActions.wentTo, (s, { step }) => (s.history ? settled(s, goTo(s.history, step)) : s)),
    on(WorkbenchActions.retried, (s) => (s.history ? { ...s, saving: s.saving + 1 } : s)),
    on(WorkbenchActions.selected, (s, { layer }) => ({ ...s, selected: layer })),
    on(WorkbenchActions.saved, (s, { at }) => ({
      ...s,
      saving: Math.max(0, s.saving - 1),
      savedAt: at,
      problem: null,
    })),
    on(WorkbenchActions.saveFailed, (s, { problem }) => ({ ...s, saving: Math.max(0, s.saving - 1), problem })),
  ),
  extraSelectors: ({ selectHistory, selectSelected }) => {
    const selectGraphic = createSelector(selectHistory, (h) => (h ? current(h) : null));
    return {
      selectGraphic,
      selectLayer: createSelector(selectGraphic, selectSelected, (g, id) => g?.layers.find((l) => l.id === id) ?? null),
      selectCanUndo: createSelector(selectHistory, (h) => h !== null && canUndo(h)),
      selectCanRedo: createSelector(selectHistory, (h) => h !== null && canRedo(h)),
      selectLine: createSelector(selectHistory, (h) => (h ? line(h) : [])),
    };
  },
});
