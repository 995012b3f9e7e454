import { blank, committed, photo, random, words } from '../testing/samples';
import { applyEdit, type Edit } from './edit';
import { Graphic } from './graphic';
import { withText } from './runs';
import {
  MERGE_WITHIN,
  Step,
  amend,
  called,
  canRedo,
  current,
  goTo,
  historyFrom,
  line,
  redo,
  startHistory,
  undo,
  versionsOf,
} from './history';
import { isPatch, packStep, unpackStep } from './stored-step';
import { textOf } from '../words/words';

const add: Edit = { type: 'add-layer', layer: photo(), name: 'Shelf added' };
const nudge = (x: number): Edit => ({
  type: 'replace-layer',
  layer: photo({ place: { mode: 'free', x, y: 0, width: 10 } }),
  name: 'Shelf moved',
  merge: 'nudge:p',
});

it('what follows from a graphic joins its step: nothing to undo, redo still there', () => {
  let h = committed(startHistory(blank(), 's0', 0), add, 's1', 1);
  h = undo(committed(h, { type: 'rename', to: 'Two', name: 'Renamed' }, 's2', 2));
  const next = amend(h, { type: 'set-backdrop', backdrop: { kind: 'colour', colour: '#123456' } });
  expect(next.head).toBe('s1');
  expect([...next.steps.keys()]).toEqual([...h.steps.keys()]);
  expect(next.steps.get('s1')!.name).toBe('Shelf added');
  expect(current(next).backdrop).toEqual({ kind: 'colour', colour: '#123456' });
  expect(canRedo(next)).toBe(true);
  expect(current(undo(next)).backdrop).toEqual({ kind: 'none' });
  expect(amend(h, { type: 'remove-layer', id: 'nobody' })).toBe(h);
});

describe('history', () => {
  it('goes back and forth, byte for byte, over 200 random edits', () => {
    const r = random(7);
    let h = startHistory(blank(), 's0', 0);
    const seen = [JSON.stringify(current(h))];
    for (let i = 1; i <= 200; i++) {
      const layers = current(h).layers;
      const pick = layers[Math.floor(r() * layers.length)];
      const edit: Edit =
        !pick || r() < 0.3
          ? {
              type: 'add-layer',
              layer: { ...(r() < 0.5 ? photo() : words('Two words')), id: `l${i}` },
              at: Math.floor(r() * 5),
              name: 'Added',
            }
          : r() < 0.2
            ? { type: 'remove-layer', id: pick.id, name: 'Deleted' }
            : r() < 0.5
              ? { type: 'move-layer', id: pick.id, to: Math.floor(r() * layers.length), name: 'Moved' }
              : { type: 'replace-layer', layer: { ...pick, name: `n${i}` }, name: 'Renamed' };
      const next = committed(h, edit, `s${i}`, i * 10_000);
      if (next === h) continue;
      h = next;
      seen.push(JSON.stringify(current(h)));
    }
    expect(seen.length).toBeGreaterThan(150);
    for (let i = seen.length - 2; i >= 0; i--) {
      h = undo(h);
      expect(JSON.stringify(current(h))).toBe(seen[i]);
    }
    expect(undo(h)).toBe(h);
    for (let i = 1; i < seen.length; i++) {
      h = redo(h);
      expect(JSON.stringify(current(h))).toBe(seen[i]);
    }
    expect(redo(h)).toBe(h);
  });

  it('joins edits of one key made soon after each other, and no others', () => {
    let h = committed(startHistory(blank(), 's0', 0), add, 's1', 1);
    h = committed(h, nudge(1), 's2', 100);
    h = committed(h, nudge(2), 's3', 200);
    expect(line(h).map((s) => s.name)).toEqual(['Made', 'Shelf added', 'Shelf moved']);
    h = committed(h, nudge(3), 's4', 200 + MERGE_WITHIN + 1);
    expect(line(h)).toHaveLength(4);
  });

  it('keeps a branch that was left, and redo follows the one last walked', () => {
    let h = committed(startHistory(blank(), 's0', 0), add, 's1', 1);
    h = undo(h);
    h = committed(h, { type: 'rename', to: 'Other', name: 'Renamed' }, 's2', 2);
    expect(h.steps.size).toBe(3);
    expect(redo(undo(h)).head).toBe('s2');
    h = goTo(h, 's1');
    expect(current(h).layers).toHaveLength(1);
    expect(redo(undo(h)).head).toBe('s1');
  });

  it('comes back from storage with its head and redo', () => {
    let h = committed(startHistory(blank(), 's0', 0), add, 's1', 1);
    h = undo(committed(h, nudge(4), 's2', 2));
    const steps = JSON.parse(JSON.stringify([...h.steps.values()])) as unknown[];
    const back = historyFrom(
      steps.map((s) => Step.parse(s)),
      h.head,
      h.next,
    )!;
    expect(current(back)).toEqual(current(h));
    expect(canRedo(back)).toBe(true);
    expect(historyFrom([], 'nowhere', new Map())).toBeNull();
  });

  it('gives the same history for an edit that changes nothing', () => {
    const h = startHistory(blank(), 's0', 0);
    expect(committed(h, { type: 'remove-layer', id: 'none', name: 'x' }, 's1', 1)).toBe(h);
  });
});

describe('edits', () => {
  it('give graphics the schema accepts', () => {
    const g = applyEdit(applyEdit(blank(), add), {
      type: 'set-backdrop',
      backdrop: { kind: 'colour', colour: '#5a7a6b' },
      name: 'Backdrop',
    });
    expect(Graphic.parse(g)).toEqual(g);
  });
  it('never change what they are given', () => {
    const g = Object.freeze({ ...blank(), layers: Object.freeze([photo()]) }) as unknown as Graphic;
    expect(() => applyEdit(g, { type: 'remove-layer', id: 'p', name: 'x' })).not.toThrow();
    expect(g.layers).toHaveLength(1);
  });
});

it('text with line breaks becomes paragraphs and back', () => {
  const layer = withText(words('One'), 'One\nTwo\r\nThree');
  expect(layer.paragraphs).toHaveLength(3);
  expect(textOf(layer)).toBe('One\nTwo\nThree');
  expect(textOf(withText(layer, ''))).toBe('');
});

describe('versions', () => {
  const edit = (to: string, merge?: string): Edit => ({ type: 'rename', to, name: to, ...(merge ? { merge } : {}) });
  it('are named states, come back to and branched from; nothing is written over', () => {
    let h = committed(startHistory(blank(), 'a', 1), edit('Two', 'typing'), 'b', 2);
    h = called(h, 'b', '  First   try ');
    expect(versionsOf(h).map((s) => [s.id, s.called])).toEqual([['b', 'First try']]);
    // What is typed on joins no version.
    h = committed(h, edit('Three', 'typing'), 'c', 3);
    expect(h.head).toBe('c');
    h = committed(goTo(h, 'b'), edit('Other way'), 'd', 4);
    expect([h.steps.get('b')!.graphic.name, h.steps.get('c')!.graphic.name]).toEqual(['Two', 'Three']);
    h = called(h, 'd', 'Second');
    expect(versionsOf(h).map((s) => s.called)).toEqual(['Second', 'First try']);
    expect(versionsOf(called(h, 'b', ' ')).map((s) => s.called)).toEqual(['Second']);
    expect(called(h, 'd', 'Second')).toBe(h);
  });

  it('keep their names where they are stored as patches', () => {
    const h = called(committed(startHistory(blank(), 'a', 1), edit('Two'), 'b', 2), 'b', 'First');
    const first = packStep(h.steps.get('a')!, undefined);
    const { record } = packStep(h.steps.get('b')!, first.stored);
    expect(isPatch(record)).toBe(true);
    expect(unpackStep(JSON.parse(JSON.stringify(record)), h.steps.get('a')!.graphic)).toEqual(h.steps.get('b'));
  });
});
