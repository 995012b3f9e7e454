import fc from 'fast-check';
import { blank } from '../testing/samples';
import { ExportRoutine, exportRoutineOf, routineDensities, routineFile, routineMost, routineText } from './routine';

const { slot, export: choices } = blank('blog-header').frames[0]!;

it('choices become a routine of their slot: the lightest until the person chose a file', () => {
  expect(exportRoutineOf('a', '  Headers\n', choices, slot)).toMatchObject({
    name: 'Headers',
    file: 'lightest',
    densities: null,
    mostBytes: null,
    slots: ['blog-header'],
  });
  const own = {
    ...choices,
    own: true,
    quality: 72,
    chroma: '420' as const,
    densities: [2 as const, 1 as const],
    mostBytes: 90_000,
  };
  const routine = exportRoutineOf('b', '', own, slot);
  expect(routine.file).toEqual({ format: 'jpeg', quality: 72, chroma: '420' });
  expect([routine.name, routineDensities(routine, slot)]).toEqual(['Routine', [1, 2]]);
  expect(routineText(routine)).toBe('JPEG at quality 72, 4:2:0, 2× and 1×, at most 90 kB');
});

it('whatever is typed as its name, and whatever is chosen, it can be kept and read again', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: 'binary', maxLength: 300 }),
      fc.boolean(),
      fc.integer({ min: 1, max: 100 }),
      (name, own, quality) => {
        const routine = exportRoutineOf('id', name, { ...choices, own, quality }, slot);
        expect(ExportRoutine.parse(JSON.parse(JSON.stringify(routine)))).toEqual(routine);
      },
    ),
    { seed: 20261130, numRuns: 300 },
  );
});

it('in a slot that does not take its format it makes the lightest that the slot takes', () => {
  const routine = exportRoutineOf('a', 'A', { ...choices, own: true, format: 'avif' }, slot);
  expect(routineFile(routine, { formats: ['jpeg', 'png'] })).toBe('lightest');
  expect(routineFile(routine, { formats: ['avif'] })).toEqual({ format: 'avif', quality: 85, chroma: '444' });
});

it('of its own limit and the slot’s the smaller holds; its densities are the slot’s where it has none', () => {
  const routine = exportRoutineOf('a', 'A', { ...choices, mostBytes: 90_000 }, slot);
  expect([
    routineMost(routine, { mostBytes: 50_000 }),
    routineMost(routine, { mostBytes: null }),
    routineMost({ ...routine, mostBytes: null }, { mostBytes: 50_000 }),
    routineMost({ ...routine, mostBytes: null }, { mostBytes: null }),
  ]).toEqual([50_000, 90_000, 50_000, null]);
  expect(routineDensities(routine, { densities: [2, 1] })).toEqual([1, 2]);
});
